/** Sources and their items: each source keeps its items in a table of records of its own. */
import { type Fields, fieldIdFor, fold, isReserved, type Values } from "#core/fields/index.ts";
import { FEED_FIELDS, type Item, itemRef, type NewItem } from "#core/items/index.ts";
import { LIMITS } from "#core/limits.ts";
import { fragment, identifier, joinSql } from "#core/rules/index.ts";
import { dayIn } from "#core/schedule/day.ts";
import { first, type Sql } from "../db/database.ts";
import type { PageOf } from "./audience.ts";
import { columnNames, columnsFrom, columnsOf, columnTypes, rowOf, valuesSql } from "./columns.ts";
import { addFields, addTable, CONTACTS, getFields, tableSql } from "./fields.ts";
import { wordsFit } from "./search.ts";

export interface Source {
  readonly id: string;
  readonly kind: string;
  readonly name: string;
  readonly address: string;
  /** The page it belongs to, or empty. */
  readonly home: string;
  /** What the server said of the state that was read last (RFC 9110, 8.8). */
  readonly etag: string | null;
  readonly lastModified: string | null;
  readonly readAt: Date | null;
  /** When items last came or changed. */
  readonly changedAt: Date | null;
  readonly failures: number;
  /** What was wrong the last time, in a sentence; null where nothing was. */
  readonly problem: string | null;
}

const COLUMNS = fragment`s.id, s.kind, t.name, s.address, s.home, s.etag,
  s.last_modified as "lastModified", s.read_at as "readAt", s.changed_at as "changedAt",
  s.failures, s.problem`;

/** How many items each of some sources has; of one that is gone meanwhile nothing is said. */
export async function countEach(sql: Sql, ids: readonly string[]): Promise<Map<string, number>> {
  const there = new Set((await getSources(sql)).map(({ id }) => id));
  const counts = ids
    .filter((id) => there.has(id))
    .map((id) => fragment`select ${id}::text as id, count(*)::int as n from ${tableSql(id)}`);
  if (counts.length === 0) return new Map();
  const rows = await sql<{ id: string; n: number }>`${joinSql(counts, " union all ")}`;
  return new Map(rows.map(({ id, n }) => [id, n]));
}

/** All of them by name. */
export const getSources = (sql: Sql): Promise<Source[]> =>
  sql<Source>`select ${COLUMNS} from sources s join record_tables t on t.id = s.id
    order by lower(t.name), s.id`;

export const getSource = async (sql: Sql, id: string): Promise<Source | null> =>
  first(
    await sql<Source>`select ${COLUMNS} from sources s join record_tables t on t.id = s.id
      where s.id = ${id}`,
  );

/** The source that is read from an address, if there is one. */
export const sourceAt = async (sql: Sql, address: string): Promise<Source | null> =>
  first(
    await sql<Source>`select ${COLUMNS} from sources s join record_tables t on t.id = s.id
      where s.address = ${address}`,
  );

/** Adds one with a table for its items; gives its id. One of this address is refused (23505). In a transaction. */
export async function addSource(
  sql: Sql,
  { kind, name, address, home }: Pick<Source, "kind" | "name" | "address" | "home">,
  now: Date,
): Promise<string> {
  const taken = new Set(
    (await sql<{ id: string }>`select id from record_tables`).map((one) => one.id),
  );
  const id = fieldIdFor(name, (one) => taken.has(one) || isReserved(one) || one === CONTACTS);
  await addTable(sql, id, name, now, { sameNames: true });
  await addFields(sql, FEED_FIELDS, id);
  const table = tableSql(id);
  await sql`alter table ${table} add column item_key text not null unique,
    add column published_at timestamptz not null,
    add column picture_from text not null default '',
    add column picture_id text references pictures (id) on delete set null,
    add column picture_tried boolean not null default false`;
  await sql`create index on ${table} (published_at)`;
  await sql`insert into sources (id, kind, address, home, created_at)
    values (${id}, ${kind}, ${address}, ${home}, ${now})`;
  return id;
}

/** Removes one with its items. Pictures that emails show stay. */
export async function removeSource(sql: Sql, id: string): Promise<void> {
  await sql`drop table ${tableSql(id)}`;
  await sql`delete from fields where table_id = ${id}`;
  await sql`delete from record_tables where id = ${id}`;
}

export const renameSource = async (sql: Sql, id: string, name: string): Promise<void> =>
  void (await sql`update record_tables set name = ${name} where id = ${id}`);

/** It was read, and all is well. */
export async function noteRead(
  sql: Sql,
  id: string,
  told: Pick<Source, "etag" | "lastModified"> & { home?: string; changed: boolean },
  now: Date,
): Promise<void> {
  await sql`update sources set etag = ${told.etag}, last_modified = ${told.lastModified},
      home = coalesce(nullif(${told.home ?? ""}, ''), home), read_at = ${now}, failures = 0,
      problem = null, changed_at = case when ${told.changed}::boolean then ${now}::timestamptz else changed_at end
    where id = ${id}`;
}

/** It could not be read: what it had stays. Gives how often in a row. */
export const noteTrouble = async (
  sql: Sql,
  id: string,
  problem: string,
  now: Date,
): Promise<number> =>
  first(
    await sql<{ failures: number }>`update sources
      set problem = ${problem}, failures = failures + 1, read_at = ${now}
      where id = ${id} returning failures`,
  )?.failures ?? 0;

/** New categories become choices, so that rules can name them. */
async function growCategories(
  sql: Sql,
  source: string,
  fields: Fields,
  items: readonly NewItem[],
): Promise<Fields> {
  const field = fields.get("categories")!;
  const known = new Set((field.options ?? []).map(fold));
  const options = [...(field.options ?? [])];
  for (const category of items.flatMap(({ categories }) => categories)) {
    if (known.has(fold(category)) || options.length >= LIMITS.fieldOptions) continue;
    known.add(fold(category));
    options.push(category);
  }
  if (options.length === field.options?.length) return fields;
  await sql`update fields set options = ${JSON.stringify(options)}::jsonb
    where table_id = ${source} and id = 'categories'`;
  return new Map([...fields, ["categories", { ...field, options }]]);
}

/**
 * Takes what a source tells: new items come, those that have changed are written anew, and of all of them the last are
 * kept. One that is told under another key is known by its link. Gives whether anything is another. In a transaction.
 */
export async function takeItems(
  sql: Sql,
  source: string,
  items: readonly NewItem[],
  zone: string,
  now: Date,
): Promise<boolean> {
  if (items.length === 0) return false;
  const table = tableSql(source);
  const fields = await growCategories(sql, source, await getFields(sql, source), items);
  const links = items.flatMap(({ link }) => (link ? [link] : []));
  const known = await sql<{ key: string; link: string | null }>`
    select item_key as key, f_link as link from ${table}
    where item_key = any (${items.map(({ key }) => key)}::text[]) or f_link = any (${links}::text[])`;
  const keys = new Set(known.map(({ key }) => key));
  const byLink = new Map(known.map(({ key, link }) => [link, key]));
  const rows = new Map(
    items.map(({ key, title, link, summary, author, categories, published, picture }) => {
      const own = keys.has(key) ? key : (link && byLink.get(link)) || key;
      const day = published && dayIn(published, zone);
      const values = rowOf(
        { link, summary, author, categories: [...categories], published: day },
        fields,
      );
      return [
        own,
        { key: own, name: title, name_folded: fold(title), at: published, picture, ...values },
      ];
    }),
  );
  const columns = [...fields.values()].flatMap(columnsOf).map(({ name }) => identifier(name));
  const told = [
    ...columns,
    identifier("name"),
    identifier("picture_from"),
    identifier("published_at"),
  ];
  const list = (of: string) =>
    joinSql(
      told.map((name) => fragment`${identifier(of)}.${name}`),
      ", ",
    );
  const put = await sql`
    insert into ${table} as i (name, name_folded, created_at, item_key, published_at, picture_from${columnNames(fields)})
    select r.name, r.name_folded, ${now}::timestamptz, r.key,
      coalesce(r.at, k.published_at, ${now}::timestamptz), r.picture${columnsFrom(fields, "r")}
    from jsonb_to_recordset(${JSON.stringify([...rows.values()])}::jsonb)
      as r(key text, name text, name_folded text, at timestamptz, picture text${columnTypes(fields)})
    left join ${table} k on k.item_key = r.key
    on conflict (item_key) do update set name_folded = excluded.name_folded,
      picture_tried = i.picture_tried and i.picture_from = excluded.picture_from,
      picture_id = case when i.picture_from = excluded.picture_from then i.picture_id end,
      ${joinSql(
        told.map((name) => fragment`${name} = excluded.${name}`),
        ", ",
      )}
    where (${list("i")}) is distinct from (${list("excluded")}) returning i.id`;
  await sql`delete from ${table} where id in (
    select id from ${table} order by published_at desc, id desc offset ${LIMITS.itemsPerSource})`;
  return put.length > 0;
}

const itemColumns = (fields: Fields) => fragment`r.id, r.item_key as key, r.name as title,
  ${valuesSql(fields, "r")} as values, r.published_at as published, p.id as "pictureId", p.file`;

interface ItemRow extends Pick<Item, "id" | "key" | "title" | "published"> {
  readonly values: Values;
  readonly pictureId: string | null;
  readonly file: string | null;
}
const itemOf = ({ values, pictureId, file, ...row }: ItemRow): Item => ({
  ...row,
  link: String(values.link ?? ""),
  summary: String(values.summary ?? ""),
  author: String(values.author ?? ""),
  categories: (values.categories ?? []) as string[],
  picture: pictureId && file ? { id: pictureId, file } : null,
});

/** What of an item is searched: its title and words, who wrote it, its categories. */
const found = (search: string) =>
  wordsFit(
    fragment`concat_ws(' ', r.name, r.f_summary, r.f_author, array_to_string(r.f_categories, ' '))`,
    search,
  );

/** Items of a source, the newest first: those that fit what is searched. */
export async function searchItems(
  sql: Sql,
  source: string,
  { search, from, limit }: PageOf,
): Promise<Item[]> {
  const fields = await getFields(sql, source);
  const rows = await sql<ItemRow>`select ${itemColumns(fields)}
    from ${tableSql(source)} r left join pictures p on p.id = r.picture_id
    where ${found(search)}
    order by r.published_at desc, r.id desc offset ${from} limit ${limit}`;
  return rows.map(itemOf);
}
export const countItems = async (sql: Sql, source: string, search = ""): Promise<number> =>
  first(
    await sql<{ n: number }>`select count(*)::int as n from ${tableSql(source)} r
      where ${found(search)}`,
  )!.n;

/** The newest items whose pictures nobody has tried to fetch. */
export const picturesToFetch = (
  sql: Sql,
  source: string,
  limit: number,
): Promise<{ id: number; address: string; title: string }[]> =>
  sql`select id, picture_from as address, name as title from ${tableSql(source)}
    where picture_from <> '' and not picture_tried order by published_at desc, id desc limit ${limit}`;

/** What came of fetching an item's picture: where it came from is still the same, or nothing is noted. */
export async function notePicture(
  sql: Sql,
  source: string,
  { id, address }: { id: number; address: string },
  picture: string | null,
): Promise<void> {
  await sql`update ${tableSql(source)} set picture_tried = true, picture_id = ${picture}
    where id = ${id} and picture_from = ${address}`;
}

/** Items by their sources and keys; those that are not there any more are left out. */
export async function getItems(
  sql: Sql,
  asked: readonly { readonly source: string; readonly key: string }[],
): Promise<Map<string, Item>> {
  const found = new Map<string, Item>();
  if (asked.length === 0) return found;
  const known = new Set((await getSources(sql)).map(({ id }) => id));
  for (const source of new Set(asked.map((one) => one.source))) {
    if (!known.has(source)) continue;
    const keys = asked.filter((one) => one.source === source).map(({ key }) => key);
    const rows = await sql<ItemRow>`select ${itemColumns(await getFields(sql, source))}
      from ${tableSql(source)} r left join pictures p on p.id = r.picture_id
      where r.item_key = any (${keys}::text[])`;
    for (const row of rows) found.set(itemRef(source, row.key), itemOf(row));
  }
  return found;
}
