/** Reads a file to its end and finds out what would happen, without changing anything. */
import type { Field } from "#core/fields/index.ts";
import { rowReader } from "#core/import/index.ts";
import { constantSql } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { recordBook } from "../field-values.ts";
import type { Services } from "../services.ts";
import { getSchema } from "../store/fields.ts";
import { addRefused, getImport, type Import, setRead, setState } from "../store/imports.ts";
import { type Destination, destinationOf } from "./destination.ts";
import { importFile } from "./files.ts";
import { readInThread } from "./reading.ts";
import { differs, dropStaging, makeRows, stagingOf } from "./staging.ts";

export async function checkImport(services: Services, id: string): Promise<void> {
  const { database, imports } = services;
  const { sql } = database;
  const found = await getImport(sql, id);
  if (found?.state !== "checking" || !found.options) return;
  const { options } = found;
  await sql`delete from import_refused where import_id = ${id}`;
  const { fields, tables } = await getSchema(sql, found.table);
  const book = await recordBook(sql, fields, tables);
  // A year of two digits is read as of the day the file came in.
  const year = services.clock.now().getUTCFullYear();
  const reader = rowReader(options, fields, book.idOf, year);
  const into = await makeRows(sql, id, destinationOf(found.table), reader.fields);
  const task = { file: importFile(imports.folder, id), options, fields, records: book.ids, year };
  const result = await readInThread(imports.reader, task, async ({ text, refused, read }) => {
    if (text.length > 0) await database.copy(into, text);
    await addRefused(sql, id, refused);
    await setRead(sql, id, read);
  });
  if (result.problem !== null) {
    await dropStaging(sql, id);
    await setState(sql, id, "failed", result.problem);
    return;
  }
  await setRead(sql, id, result.read);
  const added = await classify(sql, found, reader.fields);
  const { at, most } = destinationOf(found.table);
  if (Number.isFinite(most)) {
    const [row] = await sql<{ n: number }>`select count(*)::int as n from ${at}`;
    if (row!.n + added > most) {
      await dropStaging(sql, id);
      const problem = `There would be ${row!.n + added} records; at most ${most} fit in a table.`;
      return setState(sql, id, "failed", problem);
    }
  }
  await sql`update imports set state = 'checked',
    new_fields = ${JSON.stringify(result.newFields)}::jsonb where id = ${id} and state = 'checking'`;
}

/** Finds whom or what each row is about; gives how many are new. Of several rows with one key the first counts. */
async function classify(sql: Sql, found: Import, fields: readonly Field[]): Promise<number> {
  const { id } = found;
  const options = found.options!;
  const { rows, kept } = stagingOf(id);
  const into = destinationOf(found.table);
  const [folded, exact] = [constantSql(into.folded), constantSql(into.exact)];
  const differ = differs(
    fields.filter((field) =>
      options.columns.some((column) => column.to === "field" && column.field === field.id),
    ),
    options.empty === "clear",
  );
  const brings = fields.filter((field) =>
    options.columns.some((column) => column.to === "new" && column.field === field.id),
  );
  const news = brings.length
    ? constantSql(brings.map((field) => `s.f_${field.id} is not null`).join(" or "))
    : constantSql("false");
  // With an idea of their size, wide rows are neither sorted nor hashed to be joined.
  await sql`analyze ${rows} (line, ${folded})`;
  await sql`create unlogged table ${kept} as
    with firsts as materialized (
      select ${folded}, min(line) as line from ${rows} group by ${folded}
    )
    select f.line, null::bigint as row_id, 'added' as what from firsts f
    where not exists (select 1 from ${into.at} k where k.${folded} = f.${folded})
    union all
    select f.line, c.id, case when ${options.known === "change"}::boolean and (${differ} or ${news})
      then 'changed' else 'same' end
    from firsts f join ${rows} s on s.line = f.line
    join lateral (
      select * from ${into.at} k where k.${folded} = s.${folded}
      order by k.${exact} = s.${exact} desc, k.id limit 1
    ) c on true`;
  await sql`analyze ${kept}`;
  await refuseRepeated(sql, id, into);
  const counts = first(
    await sql<{ added: number; changed: number; same: number; refused: number }>`
      select count(*) filter (where what = 'added')::int as added,
        count(*) filter (where what = 'changed')::int as changed,
        count(*) filter (where what = 'same')::int as same,
        (select count(*)::int from import_refused where import_id = ${id}) as refused
      from ${kept}`,
  )!;
  await sql`update imports set added = ${counts.added}, changed = ${counts.changed},
    same = ${counts.same}, refused = ${counts.refused} where id = ${id}`;
  return counts.added;
}

/** Rows whose key stood in an earlier row are refused, with that row. */
async function refuseRepeated(sql: Sql, id: string, into: Destination): Promise<void> {
  const { rows, kept } = stagingOf(id);
  const [folded, shown] = [constantSql(into.folded), constantSql(into.shown)];
  const count = first(
    await sql<{ rows: number; kept: number }>`select (select count(*)::int from ${rows}) as rows,
      (select count(*)::int from ${kept}) as kept`,
  )!;
  if (count.rows === count.kept) return;
  await sql`insert into import_refused (import_id, line, reason, cells)
    select ${id}, s.line, ${into.repeated}::text || f.line, jsonb_build_array(s.${shown})
    from (select ${folded}, min(line) as line from ${rows} group by 1 having count(*) > 1) f
    join ${rows} s on s.${folded} = f.${folded} and s.line <> f.line
    on conflict do nothing`;
}
