/** What contacts did with items: looked at them, bought them. */
import type { Deed, Past, Sale } from "#core/items/index.ts";
import type { ShopDeed } from "#core/items/shop-message.ts";
import { LIMITS } from "#core/limits.ts";
import { fragment, type Sql as SqlPiece } from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { tableSql } from "./fields.ts";
import { lastClickSql } from "./last-click.ts";
import { getSettings } from "./settings.ts";

/** Many rows of a statement, in its order, handed over as one value. */
async function many<Row>(sql: Sql, rows: SqlPiece): Promise<readonly Row[]> {
  const [all] = await sql<{ rows: Row[] | null }>`select json_agg(r) as rows from (${rows}) r`;
  return all?.rows ?? [];
}

interface DeedRow {
  readonly who: number;
  readonly kind: "bought" | "viewed";
  readonly item: string;
  readonly category: string | null;
  readonly at: number;
}

/** What each of some contacts did before a moment, the newest first. Who did nothing is left out. */
export async function pastsOf(
  sql: Sql,
  contacts: readonly number[],
  now: Date,
): Promise<Map<number, Past>> {
  // As one value: thousands of rows come over quicker so.
  const rows = await many<DeedRow>(
    sql,
    fragment`select e.contact_id as who, e.kind, e.item, e.class as category,
      extract(epoch from e.at)::float8 * 1000 as at
    from unnest(${[...contacts]}::bigint[]) w(id) cross join lateral (
      select * from events e where e.contact_id = w.id and e.kind in ('bought', 'viewed')
        and e.item is not null and e.at <= ${now}
      order by e.at desc, e.id desc limit ${LIMITS.deedsPerReader}) e
    order by e.contact_id, e.at desc, e.id desc`,
  );
  const names = await namesOf(sql, new Set(rows.map(({ item }) => item)));
  const pasts = new Map<number, { bought: Deed[]; viewed: Deed[] }>();
  for (const { who, kind, item, category, at } of rows) {
    const past = pasts.get(who) ?? { bought: [], viewed: [] };
    pasts.set(who, past);
    past[kind].push({ item, title: names.get(item) ?? item, category, at });
  }
  return pasts;
}

/** What things are called that somebody bought or looked at. */
async function namesOf(sql: Sql, items: ReadonlySet<string>): Promise<Map<string, string>> {
  const rows = await sql<{ id: string; name: string }>`select id, name from event_subjects
    where kind = 'bought' and id = any (${[...items]}::text[])`;
  return new Map(rows.map(({ id, name }) => [id, name]));
}

/** What was bought before a moment, the newest first. */
export function salesBefore(sql: Sql, now: Date): Promise<readonly Sale[]> {
  return many<Sale>(
    sql,
    fragment`select contact_id as who, item, extract(epoch from at)::float8 * 1000 as at from events
    where kind = 'bought' and item is not null and contact_id is not null and at <= ${now}
    order by at desc, id desc limit ${LIMITS.countedSales}`,
  );
}

/** The items of a source that were bought or looked at most, by their keys; as many as are asked for. */
export const favouredKeys = async (
  sql: Sql,
  source: string,
  now: Date,
  limit: number,
): Promise<string[]> =>
  (
    await sql<{ item: string }>`select item from events
      where kind in ('bought', 'viewed') and starts_with(item, ${`${source}:`}) and at <= ${now}
      group by item order by count(*) desc, item limit ${limit}`
  ).map(({ item }) => item.slice(source.length + 1));

/** The items that campaigns but this one have sent, by `itemRef`. */
export const sentBefore = async (
  sql: Sql,
  sources: readonly string[],
  campaign: string | null,
): Promise<Set<string>> =>
  new Set(
    (
      await sql<{ ref: string }>`select source_id || ':' || item_key as ref from sent_items
        where source_id = any (${[...sources]}::text[])
          and campaign_id is distinct from ${campaign}::text`
    ).map(({ ref }) => ref),
  );

/** An item that a campaign has sent. */
export interface SentItem {
  readonly source: string;
  readonly key: string;
  /** How many readers had it of their own; null: it was for all. */
  readonly readers: number | null;
}

/** The items that a campaign has sent: those for all, then those that most had. */
export const itemsSentBy = (sql: Sql, campaign: string): Promise<SentItem[]> => sql<SentItem>`
  select source_id as source, item_key as key, readers from sent_items
  where campaign_id = ${campaign} order by readers desc nulls first, source_id, item_key`;

/** Notes which items a campaign sends. */
export const noteSent = async (
  sql: Sql,
  campaign: string,
  items: readonly SentItem[],
  now: Date,
): Promise<void> =>
  void (await sql`insert into sent_items (campaign_id, source_id, item_key, readers, at)
    select ${campaign}, r.source, r.key, r.readers, ${now}
    from jsonb_to_recordset(${jsonb(items)}) as r(source text, key text, readers int)
    on conflict do nothing`);

/** Notes a message of a shop; gives false where it was told before. */
export const isNewMessage = async (
  sql: Sql,
  source: string,
  id: string,
  now: Date,
): Promise<boolean> =>
  (
    await sql`insert into shop_messages (source_id, id, at) values (${source}, ${id}, ${now})
      on conflict do nothing returning 1`
  ).length > 0;

/**
 * Writes down what was done with items of a catalogue, by the addresses of contacts; gives how many we know. What is
 * bought is the email's in which they clicked last, where that was in so many days before. In a transaction.
 */
export async function writeDeeds(
  sql: Sql,
  source: string,
  deeds: readonly ShopDeed[],
): Promise<number> {
  const { orderDays } = (await getSettings(sql)).sending;
  const rows = deeds.map(({ product, ...deed }) => ({ ...deed, key: product }));
  const told = fragment`jsonb_to_recordset(${jsonb(rows)})
    as d(kind text, email text, key text, at timestamptz, data jsonb)`;
  const written = await sql`insert into events
      (kind, at, contact_id, item, class, data, launch_id, campaign_id, recipient_id)
    select d.kind, d.at, c.id, ${`${source}:`} || d.key, i.f_categories[1], d.data,
      k.launch_id, k.campaign_id, k.recipient_id
    from ${told} join contacts c on c.email_folded = d.email
    left join ${tableSql(source)} i on i.item_key = d.key
    left join lateral (${lastClickSql(fragment`c.id`, fragment`d.at`, orderDays)}) k on d.kind = 'bought' returning 1`;
  // Rules name products by what they are called, with the categories there are.
  await sql`insert into event_subjects (kind, id, name, classes)
    select distinct on (d.key) 'bought', ${`${source}:`} || d.key, coalesce(i.name, d.key),
      coalesce(to_jsonb(i.f_categories), '[]')
    from ${told} left join ${tableSql(source)} i on i.item_key = d.key
    on conflict (kind, id) do update set name = excluded.name, classes = excluded.classes`;
  return written.length;
}
