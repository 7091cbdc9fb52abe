/** What was brought cannot be taken; the message says why, for the person. */
export class ArrivalError extends Error {}
