/** Something that could not be fetched, with what a person is to be told. */
export class FetchError extends Error {}
