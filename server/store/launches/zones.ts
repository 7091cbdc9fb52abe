/** The time zones that contacts name. */
import { IANAZone } from "luxon";
import { LIMITS } from "#core/limits.ts";
import { constantSql, type Sql as SqlPiece, type World } from "#core/rules/index.ts";
import type { ZoneCount } from "#core/schedule/index.ts";
import type { Sql } from "../../db/database.ts";
import { tagValueSql } from "../tag-values.ts";

/** The zone that a contact `c` names in a field. */
export const zoneSql = (field: string | null, schema: Pick<World, "fields" | "tables">): SqlPiece =>
  (field === null ? null : tagValueSql(`contact:${field}`, schema, "c")) ??
  constantSql("null::text");

/** The zones that contacts name in a field, and how many of those that fit a condition on a contact `c` name each. */
export const zonesNamed = (
  sql: Sql,
  field: string | null,
  schema: Pick<World, "fields" | "tables">,
  which: SqlPiece = constantSql("true"),
): Promise<ZoneCount[]> =>
  sql<ZoneCount>`select ${zoneSql(field, schema)} as zone, count(*)::int as people
    from contacts c where ${which} group by 1 order by 2 desc limit ${LIMITS.zonesNamed}`;

/** The zones that contacts name in a field, but for what is none. */
export async function knownZones(
  sql: Sql,
  field: string | null,
  schema: Pick<World, "fields" | "tables">,
): Promise<string[]> {
  const named = field === null ? [] : await zonesNamed(sql, field, schema);
  return named.flatMap(({ zone }) => (zone !== null && IANAZone.isValidZone(zone) ? [zone] : []));
}
