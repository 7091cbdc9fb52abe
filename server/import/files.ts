/** Files of people, as they were sent: they lie in the data folder until their import is applied or thrown away. */
import { createWriteStream } from "node:fs";
import { mkdir, rm } from "node:fs/promises";
import { join } from "node:path";
import { Readable, Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { ReadableStream } from "node:stream/web";
import { LIMITS } from "#core/limits.ts";
import { ImportError } from "./records.ts";

export const importFile = (folder: string, id: string): string => join(folder, `${id}.part`);

/** Writes what is sent to disk as it comes, and gives its bytes. Throws an ImportError where it is too much. */
export async function saveFile(folder: string, id: string, body: ReadableStream): Promise<number> {
  await mkdir(folder, { recursive: true });
  let bytes = 0;
  const limit = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      const over = bytes > LIMITS.importBytes;
      done(over ? new ImportError(`A file may have ${LIMITS.importBytes / 1e6} MB.`) : null, chunk);
    },
  });
  const file = importFile(folder, id);
  try {
    await pipeline(Readable.fromWeb(body), limit, createWriteStream(file, { mode: 0o600 }));
  } catch (error) {
    await rm(file, { force: true });
    throw error;
  }
  return bytes;
}

export const removeFile = (folder: string, id: string): Promise<void> =>
  rm(importFile(folder, id), { force: true });
