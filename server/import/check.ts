/** Reads a file to its end and finds out what would happen, without changing anything. */
import { type RowReader, rowReader } from "#core/import/index.ts";
import { recordBook } from "../audience/field-values.ts";
import { Stopped } from "../jobs/pieces.ts";
import type { Services } from "../services.ts";
import { getSchema } from "../store/fields.ts";
import {
  addRefused,
  clearRefused,
  getImport,
  type Import,
  setChecked,
  setRead,
  setState,
} from "../store/imports.ts";
import { classifier, countOutcome, countRows } from "../store/staging/classify.ts";
import { destinationOf } from "../store/staging/destination.ts";
import { dropStaging, makeRows } from "../store/staging/staging.ts";
import { importFile } from "./files.ts";
import type { ReadResult } from "./read-rows.ts";
import { readInThread } from "./reading.ts";

/** Reads the file of an import into its waiting rows, and finds out whom or what each is about. */
export async function stage(
  services: Services,
  found: Import,
  onRead: (read: number) => Promise<void> = async () => {},
): Promise<ReadResult> {
  const { database, imports, stopping } = services;
  const { sql } = database;
  const { id } = found;
  const options = found.options!;
  const { fields, tables } = await getSchema(sql, found.table);
  const book = await recordBook(sql, fields, tables);
  // A year of two digits is read as of the day the file came in.
  const year = found.createdAt.getUTCFullYear();
  const reader: RowReader = rowReader(options, fields, book.idOf, year);
  const destination = destinationOf(found.table);
  await clearRefused(sql, id);
  const into = await makeRows(sql, id, destination, reader.fields);
  const sort = classifier(found, destination, reader.fields);
  const task = { file: importFile(imports.folder, id), options, fields, records: book.ids, year };
  let sorted = -1;
  return readInThread(imports.reader, task, async ({ text, last, refused, read }) => {
    if (stopping.aborted) throw new Stopped();
    if (text.length > 0) {
      await database.copy(into, text);
      await sort(sql, sorted, last);
      sorted = last;
    }
    await addRefused(sql, id, refused);
    await onRead(read);
  });
}

export async function checkImport(services: Services, id: string): Promise<void> {
  const { sql } = services.database;
  const found = await getImport(sql, id);
  if (found?.state !== "checking" || !found.options) return;
  const result = await stage(services, found, (read) => setRead(sql, id, read));
  if (result.problem !== null) {
    await dropStaging(sql, id);
    await setState(sql, id, "failed", result.problem);
    return;
  }
  await setRead(sql, id, result.read);
  const added = await countOutcome(sql, id);
  const { at, most } = destinationOf(found.table);
  if (Number.isFinite(most)) {
    const all = (await countRows(sql, at)) + added;
    if (all > most) {
      await dropStaging(sql, id);
      const problem = `There would be ${all} records; at most ${most} fit in a table.`;
      return setState(sql, id, "failed", problem);
    }
  }
  await setChecked(sql, id, result.newFields);
}
