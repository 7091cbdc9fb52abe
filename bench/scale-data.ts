/** Makes the demo's database large: each kind of thing multiplied from those that are there, ids of its own. */
import { constantSql, type Sql as SqlPiece } from "#core/rules/index.ts";
import type { Database } from "#server/db/database.ts";

export const SCALE = {
  contacts: 100_000,
  lists: 2_000,
  segments: 2_000,
  campaigns: 2_000,
  pictures: 5_000,
  templates: 500,
  events: 1_000_000,
} as const;

const made = constantSql as unknown as (text: string) => SqlPiece;

/** The columns of a table beside those that are made anew. */
async function columns(database: Database, table: string, anew: readonly string[]) {
  const rows = await database.sql<{ name: string }>`
    select column_name as name from information_schema.columns
    where table_schema = 'public' and table_name = ${table} order by ordinal_position`;
  return rows.map(({ name }) => `"${name}"`).filter((name) => !anew.includes(name.slice(1, -1)));
}

/** Copies rows of a table until there are `until`; `anew` gives columns by name as SQL over `t` and the number `g`. */
async function multiply(
  database: Database,
  table: string,
  until: number,
  anew: Readonly<Record<string, string>>,
  { skip = [], where = "true" }: { skip?: readonly string[]; where?: string } = {},
): Promise<void> {
  const kept = await columns(database, table, [...Object.keys(anew), ...skip]);
  const names = [...Object.keys(anew).map((name) => `"${name}"`), ...kept].join(", ");
  const values = [...Object.values(anew), ...kept.map((name) => `t.${name}`)].join(", ");
  await database.sql`insert into ${made(`"${table}"`)} (${made(names)})
    select ${made(values)} from generate_series(1, 100000) g, lateral (
      select * from ${made(`"${table}"`)} where ${made(where)}) t
    limit greatest(0, ${until}::int - (select count(*)::int from ${made(`"${table}"`)}))`;
}

export const growPeople = (database: Database, until: number) =>
  multiply(
    database,
    "contacts",
    until,
    {
      email: "'n' || (select count(*) from contacts) + g || '.' || t.email",
      email_key: "'n' || (select count(*) from contacts) + g || '.' || t.email_key",
      email_folded: "'n' || (select count(*) from contacts) + g || '.' || t.email_folded",
    },
    { skip: ["id", "words"], where: "id <= 2400" },
  );

export async function growRest(database: Database): Promise<void> {
  const { sql } = database;
  const named = { id: "'n' || g || t.id", name: "t.name || ' ' || g" };
  await multiply(database, "lists", SCALE.lists, named);
  await sql`insert into list_members (list_id, contact_id)
    select l.id, c.id from lists l, lateral (
      select id from contacts where id % 20 = 0 order by id offset (hashtext(l.id) & 255) * 20 limit 40) c
    on conflict do nothing`;
  await sql`insert into list_members (list_id, contact_id)
    select (select id from lists where name = 'Newsletter'), id from contacts on conflict do nothing`;
  await multiply(database, "segments", SCALE.segments, named);
  await multiply(database, "pictures", SCALE.pictures, {
    id: "md5(g::text || t.id) || md5(t.id || g::text)",
    file: "md5(g::text || t.id) || md5(t.id || g::text) || '.png'",
    name: "t.name || ' ' || g",
  });
  await sql`insert into documents (id, body, seq, updated_at)
    select 'd' || n, body, 0, timestamptz '2016-03-02 10:00Z' + make_interval(hours => n * 20)
    from generate_series(1, ${SCALE.campaigns + SCALE.templates}::int) n, lateral (
      select body from documents d join campaigns c on c.document_id = d.id
      order by c.created_at, c.id offset n % 19 limit 1) source`;
  await sql`insert into templates (id, name, about, document_id, created_at)
    select 't' || n, 'Layout ' || n, 'One of many.', 'd' || (${SCALE.campaigns}::int + n), now()
    from generate_series(2, ${SCALE.templates}::int) n`;
  await sql`insert into campaigns (id, name, document_id, audience, created_at, updated_at)
    select 'c' || n, 'Letter ' || n || ' of ' || to_char(d.updated_at, 'FMMonth YYYY'), d.id,
      (select audience from campaigns order by created_at limit 1), d.updated_at, d.updated_at
    from generate_series(20, ${SCALE.campaigns}::int) n join documents d on d.id = 'd' || n`;
  // All but a few have gone out; of some it is still known to whom.
  const launch = await columns(database, "launches", [
    "id",
    "campaign_id",
    "created_at",
    "send_at",
    "readers",
  ]);
  await sql`insert into launches (id, campaign_id, created_at, send_at, readers, ${made(launch.join(", "))})
    select 'l' || c.id, c.id, c.created_at, c.created_at, 2000, ${made(launch.map((name) => `t.${name}`).join(", "))}
    from campaigns c, lateral (
      select * from launches where state = 'done' and id !~ '^lc' order by id limit 1) t
    where c.id ~ '^c[0-9]+$' and substr(c.id, 2)::int % 40 <> 0`;
  await growEvents(database);
}

/** Ten launches with forty thousand readers each, and what these did. */
async function growEvents(database: Database): Promise<void> {
  const { sql } = database;
  const launches = (
    await sql<{ id: string }>`select id from launches where id ~ '^lc' order by id limit 10`
  ).map(({ id }) => id);
  await database.exec("set session_replication_role = replica");
  for (const id of launches) {
    await sql`insert into recipients (launch_id, contact_id, email, state, next_try_at, settled_at)
      select ${id}, id, email, 'accepted', now(), now() from contacts order by id limit 40000`;
    for (const [kind, every] of [
      ["accepted", 1],
      ["opened", 1],
      ["clicked", 2],
    ] as const) {
      await sql`insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id, link)
        select ${kind}::text, l.send_at + make_interval(mins => r.id::int % 4000), r.contact_id, l.id,
          l.campaign_id, r.id, case when ${kind} = 'clicked' then r.id % 5 + 1 end
        from recipients r join launches l on l.id = r.launch_id
        where l.id = ${id} and r.id % ${every}::int = 0`;
    }
  }
  await database.exec("set session_replication_role = origin");
  await sql`update launches set readers = 40000 where id = any (${launches}::text[])`;
  await sql`insert into launch_totals (launch_id, accepted, opened, clicked)
    select id, 40000, 40000, 20000 from launches where id = any (${launches}::text[])
    on conflict (launch_id) do nothing`;
}
