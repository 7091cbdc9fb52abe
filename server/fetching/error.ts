interface More extends ErrorOptions {
  /** After how many minutes the server wants to be asked again. */
  readonly retryAfter?: number | null;
}

/** Something that could not be fetched, with what a person is to be told. */
export class FetchError extends Error {
  /** After how many minutes the server wants to be asked again; null where it does not say. */
  readonly retryAfter: number | null;
  constructor(message: string, { retryAfter = null, ...more }: More = {}) {
    super(message, more);
    this.retryAfter = retryAfter;
  }
}
