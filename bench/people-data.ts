/** A large made-up audience: 40 fields of every type, and what people did. Made in the database or as a file. */

import { once } from "node:events";
import { createWriteStream } from "node:fs";
import type { Field, Fields } from "#core/fields/index.ts";
import { constantSql, type Rule, type Sql, type World } from "#core/rules/index.ts";
import { nowIn } from "#core/schedule/index.ts";
import type { Database } from "#server/db/database.ts";
import { addFields } from "#server/store/fields.ts";

/** SQL put together from the names and values below. */
const made = constantSql as unknown as (text: string) => Sql;

const KINDS = ["Visitor", "Friend", "Patron", "Volunteer"];
const TOWNS = [
  "Larkmoor",
  "Saltmere",
  "Éloise-sur-Mer",
  "Brook",
  "Whin",
  "Tarn",
  "Orchard",
  "Vale",
];

/** Ten texts, ten choices, eight numbers, eight dates, four yes or no. */
export const FIELDS: readonly Field[] = [
  ...Array.from(
    { length: 10 },
    (_, i): Field => ({ id: `text_${i}`, label: `Text ${i}`, type: "text" }),
  ),
  ...Array.from(
    { length: 10 },
    (_, i): Field => ({ id: `kind_${i}`, label: `Kind ${i}`, type: "choice", options: KINDS }),
  ),
  ...Array.from(
    { length: 8 },
    (_, i): Field => ({ id: `count_${i}`, label: `Count ${i}`, type: "number" }),
  ),
  ...Array.from(
    { length: 8 },
    (_, i): Field => ({ id: `day_${i}`, label: `Day ${i}`, type: "date" }),
  ),
  ...Array.from(
    { length: 4 },
    (_, i): Field => ({ id: `flag_${i}`, label: `Flag ${i}`, type: "yesNo" }),
  ),
];
export const fields: Fields = new Map(FIELDS.map((field) => [field.id, field]));

/** The same number for the same place, spread evenly. */
const dice = (row: number, column: number) => {
  let x = (row * 2_654_435_761 + column * 40_503) >>> 0;
  x = Math.imul(x ^ (x >>> 15), 0x2c1b3c6d) >>> 0;
  return (x ^ (x >>> 13)) >>> 0;
};
const isoDay = (n: number) =>
  new Date(Date.UTC(2026, 2, 2) - n * 86_400_000).toISOString().slice(0, 10);

/** The value of a field for a person in words; empty for one in ten. */
export function cellOf(row: number, column: number): string {
  const n = dice(row, column);
  if (n % 10 === 3) return "";
  const { type } = FIELDS[column]!;
  if (type === "text") return `${TOWNS[n % 8]} ${n % 9_973}`;
  if (type === "choice") return KINDS[n % 4]!;
  if (type === "number") return String(n % 1_000);
  if (type === "date") return isoDay(n % 20_000);
  return n % 2 ? "yes" : "no";
}
const header = () => `Email address,${FIELDS.map(({ label }) => label).join(",")}\n`;
const lineOf = (row: number) =>
  `person${row}@example.org,${FIELDS.map((_, column) => cellOf(row, column)).join(",")}\n`;

/** A CSV file of these people. */
export const csvOf = (people: number): string => {
  const lines = [header()];
  for (let row = 0; row < people; row++) lines.push(lineOf(row));
  return lines.join("");
};

/** Writes a CSV file until it has so many bytes; gives how many people are in it. */
export async function writeCsv(file: string, bytes: number): Promise<number> {
  const out = createWriteStream(file);
  let [written, row] = [0, 0];
  let block = header();
  while (written < bytes) {
    while (block.length < 1_000_000) block += lineOf(row++);
    written += block.length;
    if (!out.write(block)) await once(out, "drain");
    block = "";
  }
  out.end();
  await once(out, "finish");
  return row;
}

const at = (column: number) => {
  const { type } = FIELDS[column]!;
  const n = `(hashint8(g::bigint * 64 + ${column}) & 268435455)`;
  const value: Record<string, string> = {
    text: `(array[${TOWNS.map((t) => `'${t}'`).join(",")}])[${n} % 8 + 1] || ' ' || ${n} % 9973`,
    choice: `(array['Visitor','Friend','Patron','Volunteer'])[${n} % 4 + 1]`,
    number: `(${n} % 1000)::float8`,
    date: `to_char(date '2026-03-02' - ${n} % 20000, 'YYYY-MM-DD')`,
    yesNo: `${n} % 2 = 1`,
  };
  return `case when ${n} % 10 <> 3 then ${value[type]} end`;
};

/** Fills a database with so many people and events. */
export async function fill(database: Database, people: number, events: number): Promise<void> {
  const { sql } = database;
  await addFields(sql, FIELDS);
  const own = FIELDS.map(({ id }, i) => [`f_${id}`, at(i)]);
  const keys = FIELDS.filter(({ type }) => type === "text" || type === "choice").map(({ id }) => [
    `x_${id}`,
    `translate(lower(d.f_${id}), 'é', 'e')`,
  ]);
  const step = 25_000;
  for (let from = 1; from <= people; from += step) {
    await sql`insert into contacts (email, email_key, email_folded, added, created_at,
        ${made([...own, ...keys].map(([name]) => name).join(", "))})
      select d.email, d.email, d.email, '2026-01-01', now(),
        ${made([...own.map(([name]) => `d.${name}`), ...keys.map(([, value]) => value)].join(", "))}
      from (select 'person' || g || '@example.org' as email,
        ${made(own.map(([name, value]) => `${value} as ${name}`).join(", "))}
        from generate_series(${from}::int, ${Math.min(people, from + step - 1)}::int) g) d`;
  }
  await sql`insert into documents (id, body, updated_at) values ('d', '{}', now())`;
  await sql`insert into campaigns (id, name, document_id, audience, created_at, updated_at)
    select 'c' || n, 'c' || n, 'd', '{}', now(), now() from generate_series(1, 40) n`;
  await sql`insert into launches (id, campaign_id, state, send_at, zone, document, audience, segments,
      surroundings, member_id, created_at)
    select 'l' || n, 'c' || n, 'done', now(), 'UTC', '{}', '{}', '[]', '{}', 'm', now()
    from generate_series(1, 40) n`;
  // Events point to what was just made: checking each again would be most of the time.
  const indexes = await sql<{ name: string; made: string }>`
    select indexname as name, indexdef as made from pg_indexes
    where tablename = 'events' and indexname <> 'events_pkey'`;
  await database.exec(
    `set session_replication_role = replica; ${indexes.map(({ name }) => `drop index ${name}`).join("; ")}`,
  );
  for (let from = 1; from <= events; from += 250_000) {
    await sql`insert into events (kind, at, contact_id, launch_id, campaign_id)
      select (array['accepted','accepted','opened','opened','clicked'])[h % 5 + 1],
        timestamptz '2026-03-02 10:00Z' - make_interval(hours => h / 64 % 26000),
        (h::bigint * 31 + g) % ${people}::int + 1, 'l' || (h / 8 % 40 + 1), 'c' || (h / 8 % 40 + 1)
      from (select g, hashint4(g) & 2147483647 as h
        from generate_series(${from}::int, ${Math.min(events, from + 249_999)}::int) g) spread`;
  }
  await database.exec(
    `set session_replication_role = origin; ${indexes.map(({ made }) => made).join("; ")}`,
  );
  await database.exec("vacuum analyze");
}

/** The moment rules are read at, and what they are read against. */
export const NOW = new Date("2026-03-02T10:00:00Z");
export const world: World = {
  fields,
  tables: new Map(),
  segments: new Map(),
  names: new Map(),
  now: nowIn("UTC", NOW),
};
/** A rule on one field. */
export const test = (field: string, op: string, argument: unknown): Rule =>
  ({ type: "field", field, op, argument }) as Rule;
