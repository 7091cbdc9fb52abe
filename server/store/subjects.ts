/** What the things are called that rules are about. */
import type { RecordTables } from "#core/fields/index.ts";
import { identifier } from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { tableSql } from "./fields.ts";

/**
 * What these are called: `list:ID`, `campaign:ID`, `product:ID`, `question:ID` and `record:TABLE:ID` of these
 * tables. Those that are gone are left out.
 */
export async function namedThings(
  sql: Sql,
  keys: readonly string[],
  tables: RecordTables,
): Promise<{ key: string; name: string }[]> {
  if (keys.length === 0) return [];
  const idsOf = (kind: string) => [
    ...new Set(
      keys.filter((key) => key.startsWith(`${kind}:`)).map((key) => key.slice(kind.length + 1)),
    ),
  ];
  const found = await sql<{ key: string; name: string }>`
    select 'list:' || id as key, name from lists where id = any (${idsOf("list")}::text[])
    union all select 'campaign:' || id, name from campaigns where id = any (${idsOf("campaign")}::text[])
    union all select case kind when 'bought' then 'product:' else 'question:' end || id, name
      from event_subjects
      where id = any (${[...idsOf("product"), ...idsOf("question")]}::text[])`;
  for (const table of tables.keys()) {
    const wanted = idsOf(`record:${table}`);
    if (wanted.length > 0) found.push(...(await namesOfRecords(sql, table, wanted)));
  }
  return found;
}

const namesOfRecords = (
  sql: Sql,
  table: string,
  ids: readonly string[],
): Promise<{ key: string; name: string }[]> => sql`
  select ${`record:${table}:`}::text || ${identifier("id")} as key, name
  from ${tableSql(table)} where ${identifier("id")} = any (${[...ids]}::bigint[])`;
