/** When readers of a launch are due, as SQL. */
import { constantSql, fragment, type Sql as SqlPiece } from "#core/rules/index.ts";
import type { Hours, Quiet } from "#core/schedule/index.ts";
import { jsonb } from "../../db/values.ts";

/** When readers get it. */
export interface Due {
  /**
   * By what stands in `momentKey`: the zone their contact names, and the hour in which they read where that is asked
   * for. None: all at once.
   */
  readonly moments: ReadonlyMap<string, Date>;
  /** Nobody gets it in these hours of their own clock. */
  readonly quiet: Quiet | null;
  /** The zones that are known by their names, and that of all who name none of them. */
  readonly zones: readonly string[];
  readonly zone: string;
  /** When all its readers read, where each gets it in the hour in which they do; null where that is not asked for. */
  readonly all: Hours | null;
}
export const EVERYBODY_NOW: Due = {
  ...{ moments: new Map(), quiet: null, all: null },
  ...{ zones: [], zone: "UTC" },
};

/** What moments are found by: a zone (empty for all others), and the hour where it matters. */
export const momentKey = (zone: string, hour: number | null = null): string =>
  hour === null ? zone : `${zone} ${hour}`;

/**
 * When somebody is due: not before `from`, at their own moment, `later` hours after it, and never in quiet hours. `zone`
 * is what their contact names, `hour` in which they read; all SQL.
 */
export function dueSql(
  due: Due,
  { from, zone, hour, later }: { from: Date; zone: SqlPiece; hour: SqlPiece; later: SqlPiece },
): SqlPiece {
  const moments = jsonb(Object.fromEntries(due.moments));
  const key = fragment`coalesce(' ' || ${hour}, '')`;
  const own =
    due.moments.size === 0
      ? constantSql("null::timestamptz")
      : fragment`coalesce(${moments} ->> (${zone} || ${key}), ${moments} ->> ${key})::timestamptz`;
  const at = fragment`(greatest(${from}::timestamptz, ${own}) + make_interval(hours => ${later}))`;
  return due.quiet ? awakeSql(at, zone, due, due.quiet) : at;
}

/** See \`awake\` in core/schedule: the moment, or the end of the quiet hours in which it lies. */
function awakeSql(
  at: SqlPiece,
  zone: SqlPiece,
  { zones, zone: usual }: Due,
  { from, to }: Quiet,
): SqlPiece {
  const own = fragment`case when ${zone} = any (${[...zones]}::text[]) then ${zone} else ${usual}::text end`;
  const over = from > to;
  return fragment`(select case when ${over} and q.hour >= ${from} then
        (date_trunc('day', q.local) + make_interval(days => 1, hours => ${to})) at time zone q.zone
      when q.hour < ${to} and (${over} or q.hour >= ${from}) then
        (date_trunc('day', q.local) + make_interval(hours => ${to})) at time zone q.zone
      else q.at end
    from (select l.at, l.zone, l.local, extract(hour from l.local) as hour
      from (select a.at, a.zone, a.at at time zone a.zone as local
        from (select ${at} as at, ${own} as zone) a) l) q)`;
}
