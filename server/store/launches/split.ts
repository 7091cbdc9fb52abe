/** The A/B test of a launch: who is drawn for what, what came of it, and what the rest gets. */
import { constantSql, fragment, type Sql as SqlPiece, type World } from "#core/rules/index.ts";
import { type Drawn, MEASURES, type Measure, type Tried } from "#core/splits/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { jsonb } from "../../db/values.ts";
import { type Due, dueSql } from "./due.ts";
import type { Launch } from "./freeze.ts";
import { zoneSql } from "./zones.ts";

/**
 * The readers of a launch in the order in which they are drawn: by chance, and the same however often it is asked, as
 * it follows from the launch and the contact. At most so many.
 */
export const inDrawnOrder = async (sql: Sql, launch: string, most: number): Promise<number[]> =>
  (
    await sql<{ id: number }>`select id from recipients where launch_id = ${launch}
      order by md5(${launch}::text || ' ' || coalesce(contact_id, -id)::text), id limit ${most}`
  ).map(({ id }) => id);

export interface DrawnReader {
  readonly id: number;
  readonly drawn: Drawn;
  /** Among those whom a variant is tried on, from 0. */
  readonly place: number;
}

/** When a recipient `o` of a launch is due, in waves by the `place` of a row `n`. */
function whenSql(
  { surroundings, pace: { perHour } }: Launch,
  schema: Pick<World, "fields" | "tables">,
  due: Due,
  from: Date,
): SqlPiece {
  const zone = zoneSql(surroundings.zoneField ?? null, schema);
  return dueSql(due, {
    ...{ from, hour: constantSql("o.hour") },
    zone: fragment`(select ${zone} from contacts c where c.id = o.contact_id)`,
    later: fragment`coalesce(n.place / ${perHour}::int, 0)::int`,
  });
}

/** Writes down what some were drawn for. */
export async function writeDrawn(
  sql: Sql,
  launch: Launch,
  readers: readonly DrawnReader[],
  schema: Pick<World, "fields" | "tables">,
  due: Due,
  now: Date,
): Promise<void> {
  const rows = readers.map(({ id, drawn, place }) => ({
    ...{ id, place, state: drawn.for === "control" ? "control" : "waiting" },
    variant: drawn.for === "test" ? drawn.variant : 0,
  }));
  await sql`update recipients r set state = d.state, variant = d.variant, tested = d.state = 'waiting',
      settled_at = case when d.state = 'control' then ${now}::timestamptz end, due_at = d.at, next_try_at = d.at
    from (select n.*, ${whenSql(launch, schema, due, now)} as at
      from jsonb_to_recordset(${jsonb(rows)}) as n(id bigint, place int, state text, variant int)
      join recipients o on o.id = n.id) d
    where r.id = d.id and r.state = 'rest'`;
}

export const noteDrawn = async (sql: Sql, launch: string, now: Date): Promise<void> =>
  void (await sql`update launches set drawn_at = ${now} where id = ${launch}`);

/** Lets some of the rest have the variant that goes to them; gives how many that were. In a transaction. */
export async function releaseRest(
  sql: Sql,
  launch: Launch,
  most: number,
  schema: Pick<World, "fields" | "tables">,
  due: Due,
  now: Date,
): Promise<number> {
  const { perHour } = launch.pace;
  const rows = await sql`
    update recipients r set state = 'waiting', variant = ${launch.winner}, due_at = d.at, next_try_at = d.at
    from (select n.id, ${whenSql(launch, schema, due, now)} as at
      from (select o.id, row_number() over (order by o.id) - 1
            + (select count(*) from recipients b where ${perHour !== null} and b.launch_id = ${launch.id}
              and not b.tested and b.state not in ('rest', 'control')) as place
          from recipients o where o.launch_id = ${launch.id} and o.state = 'rest' order by o.id limit ${most}) n
      join recipients o on o.id = n.id) d
    where r.id = d.id returning 1`;
  return rows.length;
}

/** Says which variant goes to the rest: the first word counts. Gives whether it was this one. */
export async function chooseWinner(
  sql: Sql,
  launch: string,
  variant: number,
  /** The member who said so; null where it was decided by itself. */
  by: string | null,
  now: Date,
): Promise<boolean> {
  const rows =
    await sql`update launches set winner = ${variant}, decided_at = ${now}, decided_by = ${by}
    where id = ${launch} and winner is null and drawn_at is not null and state in ('sending', 'paused')
    returning 1`;
  return rows.length > 0;
}

/** When the last message of the test was settled; null where none of it has been, or some of it waits. */
export async function testedBy(sql: Sql, launch: string): Promise<Date | null> {
  const row = first(
    await sql<{ at: Date | null; waits: boolean }>`select max(settled_at) as at,
        coalesce(bool_or(state in ('waiting', 'claimed', 'handed', 'deferred', 'unsure')), false) as waits
      from recipients where launch_id = ${launch} and tested`,
  )!;
  return row.waits ? null : row.at;
}

/** What came of each variant among those it was tried on, by each measure. */
export type CameOf = Readonly<Record<Measure, readonly Tried[]>>;

export async function cameOfVariants(sql: Sql, launch: string, variants: number): Promise<CameOf> {
  const rows = await sql<{ variant: number; readers: number } & Record<Measure, number>>`
    select r.variant, count(*)::int as readers, count(*) filter (where e.opened)::int as opened,
      count(*) filter (where e.clicked)::int as clicked, count(*) filter (where e.ordered)::int as ordered
    from recipients r left join lateral (
      select bool_or(k.kind in ('opened', 'clicked')) as opened, bool_or(k.kind = 'clicked') as clicked,
        bool_or(k.kind = 'bought') as ordered
      from events k where k.recipient_id = r.id and not k.machine) e on true
    where r.launch_id = ${launch} and r.tested and r.state = 'accepted' group by r.variant`;
  const known = new Map(rows.map((row) => [row.variant, row]));
  const of = (measure: Measure) =>
    Array.from({ length: variants }, (_, variant) => {
      const row = known.get(variant);
      return { readers: row?.readers ?? 0, hits: row?.[measure] ?? 0 };
    });
  return Object.fromEntries(MEASURES.map((one) => [one, of(one)])) as unknown as CameOf;
}

export interface Decision {
  readonly at: Date;
  /** Who said so; null where it was decided by itself. */
  readonly by: string | null;
}

/** When and by whom it was decided what the rest gets; null where it has not been. */
export const decisionOf = async (sql: Sql, launch: string): Promise<Decision | null> =>
  first(
    await sql<Decision>`select l.decided_at as at, m.name as by
      from launches l left join members m on m.id = l.decided_by
      where l.id = ${launch} and l.decided_at is not null`,
  );

/** How many of those who were sent a launch, and of those who got nothing, bought something in the days after its start. */
export async function boughtAfter(
  sql: Sql,
  launch: string,
  days: number,
): Promise<{ readonly sent: Tried; readonly control: Tried }> {
  const rows = await sql<{ control: boolean; readers: number; hits: number }>`
    select r.state = 'control' as control, count(*)::int as readers,
      count(*) filter (where exists (select 1 from events e where e.contact_id = r.contact_id and e.kind = 'bought'
        and e.at >= l.started_at and e.at < l.started_at + make_interval(days => ${days}::int)))::int as hits
    from recipients r join launches l on l.id = r.launch_id
    where r.launch_id = ${launch} and r.state in ('accepted', 'control') group by 1`;
  const of = (control: boolean) => {
    const row = rows.find((one) => one.control === control);
    return { readers: row?.readers ?? 0, hits: row?.hits ?? 0 };
  };
  return { sent: of(false), control: of(true) };
}
