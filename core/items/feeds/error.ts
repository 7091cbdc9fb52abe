/** Something that cannot be read, with what a person is to be told. */
export class FeedError extends Error {}
