/** A file of people as records: a list of cells each, with its row as a spreadsheet counts. Nothing is kept. */
import { createReadStream } from "node:fs";
import { open } from "node:fs/promises";
import { Readable } from "node:stream";
import { TextDecoderStream } from "node:stream/web";
import Papa from "papaparse";
import type { Shape } from "#core/import/index.ts";
import { LIMITS } from "#core/limits.ts";
import { type FileRecord, ImportError } from "./file-record.ts";
import { jsonRecords } from "./json-records.ts";

export { type FileRecord, ImportError } from "./file-record.ts";

interface Rows {
  readonly data: string[][];
  readonly broken: boolean;
}

/** Rows of a CSV file (RFC 4180) as the parser hands them over; it waits while nobody asks for more. */
async function* csvRows(file: string, shape: Shape, end?: number): AsyncGenerator<Rows> {
  const bytes = Readable.toWeb(createReadStream(file, { end, highWaterMark: 256 * 1024 }));
  const text = bytes.pipeThrough(new TextDecoderStream(shape.encoding) as never);
  const ready: Rows[] = [];
  let parser: Papa.Parser | null = null;
  let ended = false;
  let failed: Error | null = null;
  let wake = () => {};
  const input = Readable.fromWeb(text as never);
  Papa.parse<string[]>(input, {
    delimiter: shape.delimiter,
    skipEmptyLines: false,
    chunk({ data, errors }, own) {
      ready.push({ data, broken: errors.some(({ code }) => code === "MissingQuotes") });
      parser = own;
      own.pause();
      wake();
    },
    complete() {
      ended = true;
      wake();
    },
    error(error) {
      failed = error;
      wake();
    },
  });
  try {
    for (;;) {
      const next = ready.shift();
      if (next) {
        yield next;
        (parser as Papa.Parser | null)?.resume();
      } else if (failed)
        throw new ImportError(`The file cannot be read: ${(failed as Error).message}`);
      else if (ended) return;
      else {
        await new Promise<void>((ok) => {
          wake = ok;
        });
      }
    }
  } finally {
    input.destroy();
  }
}

async function* csvRecords(file: string, shape: Shape, end?: number): AsyncGenerator<FileRecord> {
  let line = 0;
  let silent = 0;
  for await (const { data, broken } of csvRows(file, shape, end)) {
    // Where a quotation mark is never closed, all that follows is one cell.
    silent = data.length > 0 ? 0 : silent + 1;
    for (const cells of broken ? data.slice(0, -1) : data) {
      line++;
      if (cells.length > 1 || cells[0] !== "") yield { line, cells };
    }
    if (broken || silent > LIMITS.importSilence) {
      throw new ImportError(
        `A quotation mark is opened and never closed, after row ${line}. Mend it in the file and send it again.`,
      );
    }
  }
}

/** All records of a file, its header too. Throws an ImportError where it cannot be read on. */
export const recordsOf = (file: string, shape: Shape): AsyncGenerator<FileRecord> =>
  shape.format === "json" ? jsonRecords(file, shape) : csvRecords(file, shape);

/** The first bytes of a file. */
export async function sampleOf(file: string): Promise<Uint8Array> {
  const handle = await open(file);
  try {
    const bytes = new Uint8Array(LIMITS.importSample);
    const { bytesRead } = await handle.read(bytes, 0, bytes.length, 0);
    return bytes.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}

/** The first records of a file; one that is broken off by the end of the sample is left out. */
export async function firstRecords(file: string, shape: Shape): Promise<string[][]> {
  const found: string[][] = [];
  try {
    for await (const { cells } of shape.format === "json"
      ? jsonRecords(file, shape)
      : csvRecords(file, shape, LIMITS.importSample)) {
      found.push([...cells]);
      if (found.length > LIMITS.importSampleRows) break;
    }
  } catch (error) {
    if (found.length < 2) throw error;
  }
  return found;
}
