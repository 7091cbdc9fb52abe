/** What a file of people or records is read into. */
export interface FileRecord {
  /** Its row, as a spreadsheet counts. */
  readonly line: number;
  readonly cells: readonly string[];
  /** Why it cannot be taken as it is, whatever its cells say. */
  readonly refused?: string;
}

/** A file that cannot be read to its end; the message is for the person. */
export class ImportError extends Error {}
