/** Sources of items: each keeps its items in a table of records of its own; those stand in `items.ts`. */
import { fieldIdFor, isReserved } from "#core/fields/index.ts";
import { itemKindOf } from "#core/items/index.ts";
import { fragment } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { addFields, addTable, CONTACTS, tableSql } from "./fields.ts";

export interface Source {
  readonly id: string;
  readonly kind: string;
  readonly name: string;
  /** Where it is read from; null where it is filled by hand. */
  readonly address: string | null;
  /** Of a catalogue: where stock and prices are read from; null where nowhere. */
  readonly stockAddress: string | null;
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
  /** With which a shop signs what it tells. */
  readonly secret: string | null;
}

const COLUMNS = fragment`s.id, s.kind, t.name, s.address, s.stock_address as "stockAddress", s.home,
  s.etag, s.last_modified as "lastModified", s.read_at as "readAt", s.changed_at as "changedAt",
  s.failures, s.problem, s.secret`;

/** All of them by name, or those of a kind. */
export const getSources = (sql: Sql, kind: string | null = null): Promise<Source[]> =>
  sql<Source>`select ${COLUMNS} from sources s join record_tables t on t.id = s.id
    where s.kind = coalesce(${kind}::text, s.kind) order by lower(t.name), s.id`;

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
  source: Pick<Source, "kind" | "name" | "address" | "home"> & { secret?: string },
  now: Date,
): Promise<string> {
  const { kind, name, address, home, secret = null } = source;
  const taken = new Set(
    (await sql<{ id: string }>`select id from record_tables`).map((one) => one.id),
  );
  const id = fieldIdFor(name, (one) => taken.has(one) || isReserved(one) || one === CONTACTS);
  await addTable(sql, id, name, now, { sameNames: true });
  await addFields(sql, itemKindOf(kind).fields, id);
  const table = tableSql(id);
  // What an import adds has no key of its own, and comes when it comes.
  await sql`alter table ${table}
    add column item_key text not null unique default gen_random_uuid()::text,
    add column published_at timestamptz not null default now(),
    add column f_item_title text generated always as (name) stored,
    add column x_item_title text collate "C" generated always as (name_folded) stored,
    add column picture_from text not null default '',
    add column picture_id text references pictures (id) on delete set null,
    add column picture_tried boolean not null default false`;
  await sql`create index on ${table} (published_at)`;
  await sql`insert into sources (id, kind, address, home, secret, created_at)
    values (${id}, ${kind}, ${address}, ${home}, ${secret}, ${now})`;
  return id;
}

/** Removes one with its items. Pictures that emails show stay. */
export async function removeSource(sql: Sql, id: string): Promise<void> {
  await sql`drop table ${tableSql(id)}`;
  await sql`delete from fields where table_id = ${id}`;
  await sql`delete from record_tables where id = ${id}`;
  await sql`update imports set state = 'failed', problem = 'The source it went to is gone.'
    where table_id = ${id}`;
}

export const renameSource = async (sql: Sql, id: string, name: string): Promise<void> =>
  void (await sql`update record_tables set name = ${name} where id = ${id}`);

/** Where the stock and the prices of a catalogue are read from; null for nowhere. */
export const setStockAddress = async (
  sql: Sql,
  id: string,
  address: string | null,
): Promise<void> =>
  void (await sql`update sources set stock_address = ${address} where id = ${id}`);

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
