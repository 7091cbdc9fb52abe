/** Items of sources. Each source has a table of records, with the fields of its kind and those of one's own. */
import { type Field, type Fields, fold, type Values } from "#core/fields/index.ts";
import { type Item, itemRef, type LiveItem, liveItem, type NewItem } from "#core/items/index.ts";
import type { Offer } from "#core/items/products/index.ts";
import { LIMITS } from "#core/limits.ts";
import {
  constantSql,
  fragment,
  identifier,
  joinSql,
  type Rule,
  ruleSql,
  type Sql as SqlPiece,
  type World,
} from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import type { PageOf } from "./audience.ts";
import { columnNames, columnsFrom, columnsOf, columnTypes, rowOf, valuesSql } from "./columns.ts";
import { getFields, tableSql } from "./fields.ts";
import { wordsFit } from "./search.ts";
import { getSources, type Source } from "./sources.ts";

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

/** What items say in a field of several choices becomes choices of it, so that rules can name them. */
async function growChoices(
  sql: Sql,
  source: string,
  fields: Fields,
  items: readonly NewItem[],
): Promise<Fields> {
  const grown = new Map(fields);
  for (const field of fields.values()) {
    if (field.type !== "choices") continue;
    const known = new Set((field.options ?? []).map(fold));
    const options = [...(field.options ?? [])];
    for (const said of items.flatMap(({ values }) => (values[field.id] ?? []) as string[])) {
      if (known.has(fold(said)) || options.length >= LIMITS.fieldOptions) continue;
      known.add(fold(said));
      options.push(said);
    }
    if (options.length === field.options?.length) continue;
    await sql`update fields set options = ${jsonb(options)}
      where table_id = ${source} and id = ${field.id}`;
    grown.set(field.id, { ...field, options });
  }
  return grown;
}

/** How many items a source of each kind keeps. */
const KEPT: Readonly<Record<string, number>> = {
  feed: LIMITS.itemsPerSource,
  catalogue: LIMITS.itemsPerCatalogue,
  calendar: LIMITS.itemsPerCalendar,
};

/**
 * Takes what a source tells: new items come, those that have changed are written anew, and of all of them the last are
 * kept. An article that is told under another key is known by its link. What a catalogue or a calendar tells is all it
 * has (`whole`): others go. Gives whether anything is another. In a transaction.
 */
export async function takeItems(
  sql: Sql,
  source: Pick<Source, "id" | "kind">,
  items: readonly NewItem[],
  now: Date,
  whole = false,
): Promise<boolean> {
  if (items.length === 0) return false;
  const table = tableSql(source.id);
  const fields = await growChoices(sql, source.id, await getFields(sql, source.id), items);
  const keyOf = source.kind === "feed" ? await knownKeys(sql, table, items) : null;
  const rows = new Map(
    items.map((item) => {
      const key = keyOf?.(item) ?? item.key;
      const { title: name, at, picture, values } = item;
      const row = { key, name, name_folded: fold(name), at, picture, ...rowOf(values, fields) };
      return [key, row];
    }),
  );
  const columns = [...fields.values()].flatMap(columnsOf).map(({ name }) => identifier(name));
  const told = ["name", "picture_from", "published_at"].map((name) => identifier(name));
  const list = (of: string) =>
    joinSql(
      [...columns, ...told].map((name) => fragment`${identifier(of)}.${name}`),
      ", ",
    );
  // What is dated ahead of its time came when it was first seen; events are to come by nature.
  const latest = source.kind === "calendar" ? "infinity" : now;
  const put = await sql`
    insert into ${table} as i (name, name_folded, created_at, item_key, published_at, picture_from${columnNames(fields)})
    select r.name, r.name_folded, ${now}::timestamptz, r.key,
      coalesce(case when r.at <= ${latest}::timestamptz then r.at end, k.published_at,
        ${now}::timestamptz), r.picture${columnsFrom(fields, "r")}
    from jsonb_to_recordset(${jsonb([...rows.values()])})
      as r(key text, name text, name_folded text, at timestamptz, picture text${columnTypes(fields)})
    left join ${table} k on k.item_key = r.key
    on conflict (item_key) do update set name_folded = excluded.name_folded,
      picture_tried = i.picture_tried and i.picture_from = excluded.picture_from,
      picture_id = case when i.picture_from = excluded.picture_from then i.picture_id end,
      ${joinSql(
        [...columns, ...told].map((name) => fragment`${name} = excluded.${name}`),
        ", ",
      )}
    where (${list("i")}) is distinct from (${list("excluded")}) returning i.id`;
  const gone = whole
    ? await sql`delete from ${table} where not item_key = any (${[...rows.keys()]}::text[]) returning id`
    : [];
  await sql`delete from ${table} where id in (
    select id from ${table} order by published_at desc, id desc
    offset ${KEPT[source.kind] ?? LIMITS.itemsPerSource})`;
  return put.length + gone.length > 0;
}

/** The key under which an article is known: its own, or that of the one at the same address. */
async function knownKeys(
  sql: Sql,
  table: SqlPiece,
  items: readonly NewItem[],
): Promise<(item: NewItem) => string> {
  const linkOf = ({ values }: NewItem) => String(values.link ?? "");
  const links = items.map(linkOf).filter((link) => link !== "");
  const known = await sql<{ key: string; link: string | null }>`
    select item_key as key, f_link as link from ${table}
    where item_key = any (${items.map(({ key }) => key)}::text[]) or f_link = any (${links}::text[])`;
  const keys = new Set(known.map(({ key }) => key));
  const byLink = new Map(known.map(({ key, link }) => [link, key]));
  return (item) =>
    keys.has(item.key) ? item.key : (linkOf(item) && byLink.get(linkOf(item))) || item.key;
}

const itemColumns = (fields: Fields) => fragment`r.id, r.item_key as key, r.name as title,
  ${valuesSql(fields, "r")} as values, r.published_at as at, p.id as "pictureId", p.file`;

interface ItemRow extends Pick<Item, "id" | "key" | "title" | "at"> {
  readonly values: Values;
  readonly pictureId: string | null;
  readonly file: string | null;
}
const itemOf = ({ pictureId, file, ...row }: ItemRow): Item => ({
  ...row,
  picture: pictureId && file ? { id: pictureId, file } : null,
});

/** What of an item is searched: its title and everything else that it says in words. */
function found(fields: Fields, search: string): SqlPiece {
  const texts = [...fields.values()].flatMap(({ id, type }) => {
    const column = identifier("r", `f_${id}`);
    if (type === "text") return [column];
    return type === "choices" ? [fragment`array_to_string(${column}, ' ')`] : [];
  });
  return wordsFit(fragment`concat_ws(' ', r.name, ${joinSql(texts, ", ")})`, search);
}

/** Between which days items are looked for (both in it); null for no bound. */
export interface Between {
  readonly since: Date | null;
  readonly until: Date | null;
}
export const EVER: Between = { since: null, until: null };
const within = ({ since, until }: Between): SqlPiece =>
  fragment`r.published_at >= coalesce(${since}::timestamptz, '-infinity')
    and r.published_at < coalesce(${until}::timestamptz, 'infinity')`;

const NEWEST = constantSql("r.published_at desc, r.id desc");
const SOONEST = constantSql("r.published_at, r.id");

/** Items of a source, the newest or the soonest first: those that fit what is searched. */
export async function searchItems(
  sql: Sql,
  source: string,
  { search, from, limit }: PageOf,
  between: Between = EVER,
  soonest = false,
): Promise<Item[]> {
  const fields = await getFields(sql, source);
  const rows = await sql<ItemRow>`select ${itemColumns(fields)}
    from ${tableSql(source)} r left join pictures p on p.id = r.picture_id
    where ${found(fields, search)} and ${within(between)}
    order by ${soonest ? SOONEST : NEWEST} offset ${from} limit ${limit}`;
  return rows.map(itemOf);
}
export const countItems = async (
  sql: Sql,
  source: string,
  search = "",
  between: Between = EVER,
): Promise<number> =>
  first(
    await sql<{ n: number }>`select count(*)::int as n from ${tableSql(source)} r
      where ${found(await getFields(sql, source), search)} and ${within(between)}`,
  )!.n;

/** The fields that sources of each kind have, those of one's own too; by kind. */
export async function fieldsByKind(sql: Sql): Promise<(Field & { kind: string })[]> {
  return sql`select distinct on (s.kind, f.id) s.kind, f.id, f.label, f.type
    from fields f join sources s on s.id = f.table_id order by s.kind, f.id, s.id`;
}

/** The fields rules over the items of a source name: its own, and the title. */
export const ruleFields = (fields: Fields): Fields =>
  new Map<string, Field>([[ITEM_TITLE.id, ITEM_TITLE], ...fields]);
const ITEM_TITLE: Field = { id: "item_title", label: "Title", type: "text" };

/** Which items come first where not all can be looked at. */
const BEST = {
  newest: constantSql("c.published_at desc"),
  oldest: constantSql("c.published_at"),
  title: constantSql("c.name"),
} as const;
export interface Candidates {
  readonly best: keyof typeof BEST;
  readonly limit: number;
  /** Only these, by their keys. */
  readonly among?: readonly string[];
  readonly inStock?: boolean;
  readonly since?: Date | null;
}
const IN_STOCK = constantSql("(c.f_stock is null or c.f_stock > 0)");

/** Items of a source that fit a rule, the best of them. */
export async function fittingItems(
  sql: Sql,
  { id, kind }: Pick<Source, "id" | "kind">,
  rule: Rule | null,
  { now, names }: Pick<World, "now" | "names">,
  { best, limit, among, inStock, since = null }: Candidates,
): Promise<LiveItem[]> {
  const fields = await getFields(sql, id);
  const world: World = {
    ...{ now, names, fields: ruleFields(fields), tables: new Map(), segments: new Map() },
  };
  const fits = rule ? ruleSql(rule, world) : constantSql("true");
  const stock = inStock && fields.has("stock") ? IN_STOCK : constantSql("true");
  const only = among ? fragment`c.item_key = any (${[...among]}::text[])` : constantSql("true");
  const rows = await sql<ItemRow>`select ${itemColumns(fields)}
    from (select * from ${tableSql(id)} c where ${fits} and ${only} and ${stock}
        and c.published_at >= coalesce(${since}::timestamptz, '-infinity')
      order by ${BEST[best]}, c.item_key limit ${limit}) r
    left join pictures p on p.id = r.picture_id`;
  return rows.map((row) => liveItem(id, kind, itemOf(row)));
}

/** Writes what products cost and how many there are, where it has changed; of those nobody knows nothing is kept. */
export async function changeOffers(
  sql: Sql,
  source: string,
  offers: readonly Offer[],
): Promise<boolean> {
  const rows = [...new Map(offers.map((offer) => [offer.key, offer])).values()];
  const changed = await sql`update ${tableSql(source)} i set f_price = coalesce(o.price, i.f_price),
      f_sale_price = o.sale_price, f_stock = o.stock,
      f_currency = coalesce(o.currency, i.f_currency), x_currency = coalesce(lower(o.currency), i.x_currency)
    from jsonb_to_recordset(${jsonb(rows)})
      as o(key text, price float8, sale_price float8, stock float8, currency text)
    where o.key = i.item_key and (i.f_price, i.f_sale_price, i.f_stock, i.f_currency) is distinct from
      (coalesce(o.price, i.f_price), o.sale_price, o.stock, coalesce(o.currency, i.f_currency))
    returning i.id`;
  return changed.length > 0;
}

/** Items that came by an import say where their picture is in a field: from there it is fetched. */
export const adoptPictures = async (sql: Sql, source: string): Promise<void> => {
  if (!(await getFields(sql, source)).has("image")) return;
  await sql`update ${tableSql(source)}
    set picture_from = f_image, picture_tried = false, picture_id = null
    where f_image is not null and f_image <> picture_from`;
};

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
): Promise<Map<string, LiveItem>> {
  const found = new Map<string, LiveItem>();
  if (asked.length === 0) return found;
  const known = new Map((await getSources(sql)).map(({ id, kind }) => [id, kind]));
  for (const source of new Set(asked.map((one) => one.source))) {
    const kind = known.get(source);
    if (!kind) continue;
    const keys = asked.filter((one) => one.source === source).map(({ key }) => key);
    const rows = await sql<ItemRow>`select ${itemColumns(await getFields(sql, source))}
      from ${tableSql(source)} r left join pictures p on p.id = r.picture_id
      where r.item_key = any (${keys}::text[])`;
    for (const row of rows)
      found.set(itemRef(source, row.key), liveItem(source, kind, itemOf(row)));
  }
  return found;
}
