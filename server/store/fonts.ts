/** Fonts that the house has brought. */
import { LIMITS } from "#core/limits.ts";
import { type FontMeasure, fontMeasureSchema } from "#core/theme/fallbacks.ts";
import type { Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";

export interface KeptFont {
  /** The SHA-256 of the file, in hex. */
  readonly id: string;
  readonly family: string;
  readonly measure: FontMeasure;
}

/** By their names. */
export const listFonts = async (sql: Sql): Promise<KeptFont[]> =>
  (
    await sql<KeptFont>`select id, family, measure from fonts order by lower(family), created_at, id
      limit ${LIMITS.fonts}`
  ).map((one) => ({ ...one, measure: fontMeasureSchema.parse(one.measure) }));

/** Keeps a font; false where there are as many as there may be. One that is there already stays. */
export async function addFont(
  sql: Sql,
  { id, family, measure }: KeptFont,
  now: Date,
): Promise<boolean> {
  await sql`insert into fonts (id, family, measure, created_at)
    select ${id}, ${family}, ${jsonb(measure)}, ${now}
    where (select count(*) from fonts) < ${LIMITS.fonts} on conflict do nothing`;
  return (await sql`select 1 from fonts where id = ${id}`).length > 0;
}
