interface More extends ErrorOptions {
  /** After how many minutes the server wants to be asked again. */
  readonly retryAfter?: number | null;
  /** There is nothing to be had there, whoever asks and whenever. */
  readonly gone?: boolean;
}

/** Something that could not be fetched, with what a person is to be told. */
export class FetchError extends Error {
  /** After how many minutes the server wants to be asked again; null where it does not say. */
  readonly retryAfter: number | null;
  /** There is nothing to be had there, whoever asks and whenever. */
  readonly gone: boolean;
  constructor(message: string, { retryAfter = null, gone = false, ...more }: More = {}) {
    super(message, more);
    this.retryAfter = retryAfter;
    this.gone = gone;
  }
}
