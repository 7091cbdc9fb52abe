/** What activity can be about: campaigns and their links, products, questions; and what all of it is called. */
import { identifier } from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { tableSql } from "./fields.ts";

interface Named {
  readonly id: string;
  readonly name: string;
}

/** Products that were bought and questions that were answered. */
export const eventSubjects = (
  sql: Sql,
): Promise<(Named & { readonly kind: string; readonly classes: string[] })[]> => sql`
  select kind, id, name, classes from event_subjects order by name`;

/** Campaigns that readers have got, with the links of the latest launch. */
export const sentCampaigns = (
  sql: Sql,
): Promise<(Named & { readonly links: { words: string }[] | null })[]> => sql`
  select distinct on (k.id) k.id, k.name, l.links from campaigns k
  join launches l on l.campaign_id = k.id and l.state in ('sending', 'paused', 'done')
  where k.deleted_at is null
  order by k.id, l.send_at desc`;

/** What these are called: `list:ID`, `campaign:ID`, `product:ID` and `question:ID`. Those that are gone are left out. */
export async function namedThings(
  sql: Sql,
  keys: readonly string[],
): Promise<{ key: string; name: string }[]> {
  if (keys.length === 0) return [];
  const idsOf = (kind: string) =>
    keys.filter((key) => key.startsWith(`${kind}:`)).map((key) => key.slice(kind.length + 1));
  return sql`
    select 'list:' || id as key, name from lists where id = any (${idsOf("list")}::text[])
    union all select 'campaign:' || id, name from campaigns where id = any (${idsOf("campaign")}::text[])
    union all select case kind when 'bought' then 'product:' else 'question:' end || id, name
      from event_subjects
      where id = any (${[...idsOf("product"), ...idsOf("question")]}::text[])`;
}

/** The names of some records of a table. */
export const namesOfRecords = (
  sql: Sql,
  table: string,
  ids: readonly number[],
): Promise<{ id: number; name: string }[]> => sql`
  select id, name from ${tableSql(table)} where ${identifier("id")} = any (${[...ids]}::bigint[])`;
