/** Code rolls, and the codes that are torn off them. */
import type { Json } from "#core/json.ts";
import type { CodeRoll } from "#core/kinds/kind.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { newId } from "../ids.ts";

export interface Roll extends CodeRoll {
  /** Codes may be given more than once. */
  readonly again: boolean;
  readonly all: number;
}
export type RollSettings = Pick<Roll, "name" | "emptyText" | "warnAt" | "expires" | "again">;

/** All rolls by name, with how many codes each has and has left. */
export const getRolls = (sql: Sql): Promise<Roll[]> => sql<Roll>`
  select r.id, r.name, r.empty_text as "emptyText", r.warn_at as "warnAt", r.expires, r.again,
    coalesce(c.all, 0)::int as all,
    coalesce(case when r.again then c.all else c.free end, 0)::int as left
  from code_rolls r left join (
    select roll_id, count(*) as all, count(*) filter (where launch_id is null) as free
    from codes group by roll_id
  ) c on c.roll_id = r.id order by r.name, r.id`;

export const getRoll = async (sql: Sql, id: string): Promise<Roll | null> =>
  (await getRolls(sql)).find((roll) => roll.id === id) ?? null;

export async function addRoll(sql: Sql, roll: RollSettings, now: Date): Promise<string> {
  const id = newId();
  await sql`insert into code_rolls (id, name, empty_text, warn_at, expires, again, created_at)
    values (${id}, ${roll.name}, ${roll.emptyText}, ${roll.warnAt}, ${roll.expires}, ${roll.again}, ${now})`;
  return id;
}

export async function changeRoll(sql: Sql, id: string, roll: RollSettings): Promise<void> {
  await sql`update code_rolls set name = ${roll.name}, empty_text = ${roll.emptyText},
    warn_at = ${roll.warnAt}, expires = ${roll.expires}, again = ${roll.again} where id = ${id}`;
}

/** Whether a code of a roll has been given to a reader: then it stays. */
export async function isGiven(sql: Sql, id: string): Promise<boolean> {
  const given =
    await sql`select 1 from codes where roll_id = ${id} and launch_id is not null limit 1`;
  return given.length > 0;
}

/** Adds codes to the end of a roll; those that are on it already are left out. Gives how many were new. */
export async function addCodes(sql: Sql, roll: string, codes: readonly string[]): Promise<number> {
  const added = await sql`insert into codes (roll_id, code)
    select ${roll}, v.code from jsonb_array_elements_text(${jsonb(codes)})
      with ordinality as v(code, i) order by v.i
    on conflict (roll_id, code) do nothing returning 1`;
  return added.length;
}

/** A few codes of a roll as they come next. */
export const nextCodes = async (sql: Sql, roll: string, limit: number): Promise<string[]> =>
  (
    await sql<{ code: string }>`select code from codes where roll_id = ${roll} and launch_id is null
      order by n limit ${limit}`
  ).map(({ code }) => code);

/** Who got which code, the latest first. */
export const givenCodes = (
  sql: Sql,
  roll: string,
  limit: number,
): Promise<{ code: string; email: string | null; takenAt: Date; campaign: string }[]> => sql`
  select c.code, k.email, c.taken_at as "takenAt", m.name as campaign
  from codes c join launches l on l.id = c.launch_id join campaigns m on m.id = l.campaign_id
  left join contacts k on k.id = c.contact_id
  where c.roll_id = ${roll} order by c.taken_at desc, c.n desc limit ${limit}`;

/** A recipient's values, with the code among them. */
interface Torn {
  readonly id: number;
  readonly values: Record<string, Json>;
}

/**
 * Tears a code off for each of some recipients of a launch and writes it among the values of their message,
 * which it gives. Who has one of this launch keeps it; where none is left the roll's own text stands.
 */
export async function tearCodes(
  sql: Sql,
  launch: string,
  roll: string,
  recipients: readonly number[],
  now: Date,
): Promise<Torn[]> {
  if (recipients.length === 0) return [];
  const settings = first(
    await sql<{ again: boolean }>`select again from code_rolls where id = ${roll}`,
  );
  const ids = [...recipients];
  const ref = `code:${roll}`;
  if (settings?.again) {
    // The same reader gets the same code again, whoever else has it too.
    return sql<Torn>`with all_codes as (
        select code, row_number() over (order by n) - 1 as k, count(*) over () as all
        from codes where roll_id = ${roll}
      )
      update recipients r set values = coalesce(r.values, '{}') || jsonb_build_object(${ref}::text,
        coalesce((select a.code from all_codes a where a.k = r.id % a.all),
          (select empty_text from code_rolls where id = ${roll}), ''))
      where r.id = any (${ids}::bigint[]) returning r.id, r.values`;
  }
  return sql<Torn>`with readers as materialized (
      select r.id, r.contact_id, c.code from recipients r
      -- The limit keeps each looked up by itself: of a new launch the planner expects no codes at all.
      left join lateral (select g.code from codes g where g.launch_id = ${launch}
        and g.contact_id = r.contact_id and g.roll_id = ${roll} limit 1) c on true
      where r.id = any (${ids}::bigint[])
    ), wanting as (
      select contact_id, row_number() over (order by id) as k from readers where code is null
    ), free as materialized (
      select n from codes where roll_id = ${roll} and launch_id is null
      order by n limit (select count(*) from wanting) for update skip locked
    ), torn as (
      update codes c set launch_id = ${launch}, contact_id = w.contact_id, taken_at = ${now}
      from (select n, row_number() over (order by n) as k from free) f join wanting w on w.k = f.k
      where c.roll_id = ${roll} and c.n = f.n returning c.contact_id, c.code
    )
    update recipients r set values = coalesce(r.values, '{}') || jsonb_build_object(${ref}::text,
      coalesce(d.code, t.code, (select empty_text from code_rolls where id = ${roll}), ''))
    from readers d left join torn t on t.contact_id = d.contact_id
    where r.id = d.id returning r.id, r.values`;
}
