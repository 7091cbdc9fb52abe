/** What would become of the rows that wait: whom or what each is about, and how many of each kind there are. */
import type { Field } from "#core/fields/index.ts";
import {
  constantSql,
  fragment,
  identifier,
  joinSql,
  type Sql as SqlPiece,
} from "#core/rules/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { columnsOf } from "../columns.ts";
import type { Import } from "../imports.ts";
import type { Destination } from "./destination.ts";
import { differs, stagingOf } from "./staging.ts";

/**
 * Makes the function that finds whom or what the rows of some lines are about. Of several rows with one key the
 * first counts; the others are refused, with its row.
 */
export function classifier(found: Import, into: Destination, fields: readonly Field[]) {
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
      from ${rows} s join lateral (
        -- Each is looked up by itself: of a new table the planner knows nothing.
        select line from ${kept} where folded = s.${folded} limit 1
      ) k on true
      where s.line > ${after} and s.line <= ${to} and k.line <> s.line
      on conflict (import_id, line) do update set reason = excluded.reason, cells = excluded.cells, taken = false`;
  };
}

/** Writes down what would happen; gives how many would be new. */
export async function countOutcome(sql: Sql, id: string): Promise<number> {
  const counts = first(
    await sql<{ added: number; changed: number; same: number; refused: number; leftOut: number }>`
      select count(*) filter (where what = 'added')::int as added,
        count(*) filter (where what = 'changed')::int as changed,
        count(*) filter (where what = 'same')::int as same,
        (select count(*)::int from import_refused where import_id = ${id} and not taken) as refused,
        (select count(*)::int from import_refused where import_id = ${id} and taken) as "leftOut"
      from ${stagingOf(id).kept}`,
  )!;
  await sql`update imports set added = ${counts.added}, changed = ${counts.changed},
    same = ${counts.same}, refused = ${counts.refused}, left_out = ${counts.leftOut} where id = ${id}`;
  return counts.added;
}

export const countRows = async (sql: Sql, table: SqlPiece): Promise<number> =>
  first(await sql<{ n: number }>`select count(*)::int as n from ${table}`)!.n;
