/** Reads a file to its end and finds out what would happen, without changing anything. */
import type { Field } from "#core/fields/index.ts";
import { type RowReader, rowReader } from "#core/import/index.ts";
import { constantSql, fragment, identifier, joinSql } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { recordBook } from "../field-values.ts";
import { Stopped } from "../jobs/pieces.ts";
import type { Services } from "../services.ts";
import { columnsOf } from "../store/columns.ts";
import { getSchema } from "../store/fields.ts";
import { addRefused, getImport, type Import, setRead, setState } from "../store/imports.ts";
import { type Destination, destinationOf } from "./destination.ts";
import { importFile } from "./files.ts";
import type { ReadResult } from "./read-rows.ts";
import { readInThread } from "./reading.ts";
import { differs, dropStaging, makeRows, stagingOf } from "./staging.ts";

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
  await sql`delete from import_refused where import_id = ${id}`;
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
  const added = await count(sql, id);
  const { at, most } = destinationOf(found.table);
  if (Number.isFinite(most)) {
    const row = first(await sql<{ n: number }>`select count(*)::int as n from ${at}`)!;
    if (row.n + added > most) {
      await dropStaging(sql, id);
      const problem = `There would be ${row.n + added} records; at most ${most} fit in a table.`;
      return setState(sql, id, "failed", problem);
    }
  }
  await sql`update imports set state = 'checked',
    new_fields = ${JSON.stringify(result.newFields)}::jsonb where id = ${id} and state = 'checking'`;
}

/**
 * Makes the function that finds whom or what the rows of some lines are about. Of several rows with one key the
 * first counts; the others are refused, with its row.
 */
function classifier(found: Import, into: Destination, fields: readonly Field[]) {
  const { id } = found;
  const options = found.options!;
  const { rows, kept } = stagingOf(id);
  const { folded, exact, shown } = into.sql;
  const brought = (to: "field" | "new") =>
    fields.filter((field) =>
      options.columns.some((column) => column.to === to && column.field === field.id),
    );
  const differ = differs(brought("field"), options.empty === "clear");
  const news = brought("new").map(
    (field) => fragment`${identifier("s", columnsOf(field)[0]!.name)} is not null`,
  );
  const brings = news.length ? joinSql(news, " or ") : constantSql("false");
  const changes = options.known === "change";
  return async (sql: Sql, after: number, to: number): Promise<void> => {
    await sql`insert into ${kept} (line, folded, row_id, what)
      select s.line, s.${folded}, c.id, case when c.id is null then 'added'
          when ${changes}::boolean and (${differ} or ${brings}) then 'changed' else 'same' end
      from ${rows} s left join lateral (
        select * from ${into.at} k where k.${folded} = s.${folded}
        order by k.${exact} = s.${exact} desc, k.id limit 1
      ) c on true
      where s.line > ${after} and s.line <= ${to}
      order by s.line on conflict (folded) do nothing`;
    await sql`insert into import_refused (import_id, line, reason, cells)
      select ${id}, s.line, ${into.repeated}::text || k.line, jsonb_build_array(s.${shown})
      from ${rows} s join ${kept} k on k.folded = s.${folded}
      where s.line > ${after} and s.line <= ${to} and k.line <> s.line
      on conflict do nothing`;
  };
}

/** Writes down what would happen; gives how many would be new. */
async function count(sql: Sql, id: string): Promise<number> {
  const counts = first(
    await sql<{ added: number; changed: number; same: number; refused: number }>`
      select count(*) filter (where what = 'added')::int as added,
        count(*) filter (where what = 'changed')::int as changed,
        count(*) filter (where what = 'same')::int as same,
        (select count(*)::int from import_refused where import_id = ${id}) as refused
      from ${stagingOf(id).kept}`,
  )!;
  await sql`update imports set added = ${counts.added}, changed = ${counts.changed},
    same = ${counts.same}, refused = ${counts.refused} where id = ${id}`;
  return counts.added;
}
