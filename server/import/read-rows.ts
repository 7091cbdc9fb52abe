/** Reads a whole file into chunks for COPY. Runs in a worker, so that nobody waits for it. */
import type { Field, Fields } from "#core/fields/index.ts";
import { type ImportOptions, rowReader } from "#core/import/index.ts";
import { LIMITS } from "#core/limits.ts";
import { rowWriter } from "./copy-text.ts";
import { ImportError, recordsOf } from "./records.ts";

export interface ReadTask {
  readonly file: string;
  readonly options: ImportOptions;
  readonly fields: Fields;
  /** Ids of records by table and folded name, as `TABLE:NAME`. */
  readonly records: ReadonlyMap<string, number>;
  /** The year in which it is read. */
  readonly year: number;
}
export interface Refused {
  readonly line: number;
  readonly reason: string;
  readonly cells: readonly string[];
  /** The row was taken, but for what could not be read. */
  readonly taken?: true;
}
export interface Chunk {
  /** Rows for COPY. */
  readonly text: Uint8Array;
  /** The line of the last of them. */
  readonly last: number;
  readonly refused: readonly Refused[];
  /** Rows read so far. */
  readonly read: number;
}
export interface ReadResult {
  readonly read: number;
  readonly fields: readonly Field[];
  readonly newFields: readonly Field[];
  /** Why it ended early, or null. */
  readonly problem: string | null;
}

/** Characters of a chunk: what the database takes in one go, while others wait. */
const CHUNK = 100_000;
const encoder = new TextEncoder();

/** Hands over chunk by chunk; the next is made when `take` has answered. */
export async function readRows(
  { file, options, fields, records, year }: ReadTask,
  recordKey: (table: string, name: string) => string,
  take: (chunk: Chunk) => Promise<void>,
): Promise<ReadResult> {
  const reader = rowReader(
    options,
    fields,
    (table, name) => records.get(recordKey(table, name)) ?? null,
    year,
  );
  const write = rowWriter(reader.fields);
  let read = 0;
  let text = "";
  let last = -1;
  let refused: Refused[] = [];
  let kept = 0;
  let header = options.shape.header || options.shape.format === "json";
  const flush = async () => {
    await take({ text: encoder.encode(text), last, refused, read });
    text = "";
    refused = [];
  };
  let problem: string | null = null;
  try {
    for await (const { line, cells, refused: broken } of recordsOf(file, options.shape)) {
      if (header) {
        header = false;
        continue;
      }
      read++;
      const result = broken === undefined ? reader.read(cells) : { refused: broken };
      if ("refused" in result) {
        if (kept++ < LIMITS.refusedKept) refused.push({ line, reason: result.refused, cells });
      } else {
        text += write(line, result.key, result.values as never);
        if (result.left !== undefined && kept++ < LIMITS.refusedKept) {
          refused.push({ line, reason: result.left, cells, taken: true });
        }
        last = line;
      }
      if (text.length > CHUNK || refused.length > 500) await flush();
    }
    await flush();
  } catch (error) {
    if (!(error instanceof ImportError)) throw error;
    problem = error.message;
  }
  return { read, fields: reader.fields, newFields: reader.newFields(), problem };
}
