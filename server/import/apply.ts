/** Takes a checked import in, piece by piece, and takes it back. Either goes on after a stop where it was. */
import { fold } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { applyFieldForm } from "../audience/field-forms.ts";
import type { Sql } from "../db/database.ts";
import { inPieces } from "../jobs/pieces.ts";
import type { Services } from "../services.ts";
import { columnsOf } from "../store/columns.ts";
import { addFields, changeField, countValues, getFields } from "../store/fields.ts";
import {
  getImport,
  removeImport,
  setApplied,
  setDone,
  setMadeFields,
  setState,
} from "../store/imports.ts";
import { hurry } from "../store/jobs.ts";
import { getSource } from "../store/sources.ts";
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
    await setMadeFields(
      sql,
      id,
      missing.map((field) => field.id),
    );
    // Others get the choices that were met beside those they have.
    for (const { id: field, options = [] } of found.newFields) {
      const known = before.get(field);
      if (!known) continue;
      const have = new Set((known.options ?? []).map(fold));
      const more = options.filter((one) => !have.has(fold(one)));
      const all = [...(known.options ?? []), ...more].slice(0, LIMITS.fieldOptions);
      if (more.length > 0) await changeField(sql, found.table, field, { ...known, options: all });
    }
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
  // Items of a source that came from a file have pictures to be fetched.
  if (await getSource(database.sql, found.table)) {
    await database.tx((tx) => hurry(tx, "readSource", { source: found.table }, now));
    services.wake();
  }
  await dropStaging(database.sql, id);
  await removeFile(imports.folder, id);
}

/** The fields an import made go with it, unless somebody has a value in one by now, or names it. */
async function dropMadeFields(sql: Sql, table: string, made: readonly string[]): Promise<void> {
  const known = await getFields(sql, table);
  const values = await countValues(sql, table, known);
  for (const id of made) {
    if (values[id] === 0) {
      // Asked as somebody would who removes it by hand: what is used stays.
      await applyFieldForm(sql, table, { do: "removeField", field: id });
    }
  }
}

/** Takes an import back: those it added are gone, those it changed are as before, lists and fields too. */
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
  await database.tx((sql) => dropMadeFields(sql, found.table, found.madeFields));
  await setState(database.sql, id, "undone");
}

/** Throws away an import that was not applied. */
export async function throwAway(services: Services, id: string): Promise<void> {
  const { database, imports } = services;
  await dropStaging(database.sql, id);
  await removeFile(imports.folder, id);
  await removeImport(database.sql, id);
}
