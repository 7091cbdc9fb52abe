/** Takes a checked import in, piece by piece, and takes it back. Either goes on after a stop where it was. */
import { inPieces } from "../jobs/pieces.ts";
import type { Services } from "../services.ts";
import { columnsOf } from "../store/columns.ts";
import { addFields, getFields } from "../store/fields.ts";
import { getImport, removeImport, setApplied, setDone, setState } from "../store/imports.ts";
import { dropStaging, stillWhole } from "../store/staging/staging.ts";
import { changesOf, undoRows } from "../store/staging/take-back.ts";
import { applySpan, fieldsOf, nextSpan, type Work } from "../store/staging/take-in.ts";
import { stage } from "./check.ts";
import { removeFile } from "./files.ts";

/** Goes on with an import in the state `applying`. */
export async function applyImport(services: Services, id: string): Promise<void> {
  const { database, clock, imports } = services;
  const found = await getImport(database.sql, id);
  if (found?.state !== "applying" || !found.options) return;
  const now = clock.now();
  // A crash of the database empties what waited: the file is read again, and goes on behind what is in.
  if (!(await stillWhole(database.sql, found))) {
    const { problem } = await stage(services, found);
    if (problem !== null) return setState(database.sql, id, "failed", problem);
  }
  await database.tx(async (sql) => {
    const before = await getFields(sql, found.table);
    const missing = found.newFields.filter((field) => !before.has(field.id));
    await addFields(sql, missing, found.table);
  });
  const known = await getFields(database.sql, found.table);
  const work: Work = { found, known, fields: fieldsOf(found, known), now };
  await inPieces(services, async (sql, rows) => {
    const span = await nextSpan(sql, id, rows);
    if (!span) return false;
    await applySpan(sql, work, span);
    await setApplied(sql, id, span.to);
    return true;
  });
  await setDone(database.sql, id, now);
  await dropStaging(database.sql, id);
  await removeFile(imports.folder, id);
}

/** Takes an import back: those it added are gone, those it changed are as before, lists too. */
export async function undoImport(services: Services, id: string): Promise<void> {
  const { database } = services;
  const found = await getImport(database.sql, id);
  if (found?.state !== "undoing" || !found.options) return;
  const known = await getFields(database.sql, found.table);
  const columns = fieldsOf(found, known).flatMap(columnsOf);
  let after = 0;
  await inPieces(services, async (sql, rows) => {
    const changes = await changesOf(sql, id, after, rows);
    if (changes.length === 0) return false;
    await undoRows(sql, found, columns, changes);
    after = changes.at(-1)!.row;
    return true;
  });
  await setState(database.sql, id, "undone");
}

/** Throws away an import that was not applied. */
export async function throwAway(services: Services, id: string): Promise<void> {
  const { database, imports } = services;
  await dropStaging(database.sql, id);
  await removeFile(imports.folder, id);
  await removeImport(database.sql, id);
}
