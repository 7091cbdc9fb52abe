/** The themes of a house, beside the one that new emails have. */
import { canonical, parseJson } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { type Theme, themeSchema } from "#core/theme/theme.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";

export interface KeptTheme {
  readonly id: string;
  readonly theme: Theme;
}

/** What cannot be read is left out: it was of a newer version. */
const read = (rows: readonly { id: string; body: string }[]): KeptTheme[] =>
  rows.flatMap(({ id, body }) => {
    const { data } = themeSchema.safeParse(parseJson(body));
    return data ? [{ id, theme: data }] : [];
  });

/** All of them, the latest first. */
export const listThemes = async (sql: Sql): Promise<KeptTheme[]> =>
  read(
    await sql<{ id: string; body: string }>`select id, body from themes order by created_at desc, id
      limit ${LIMITS.themes}`,
  );

export const getTheme = async (sql: Sql, id: string): Promise<Theme | null> =>
  read(await sql<{ id: string; body: string }>`select id, body from themes where id = ${id}`)[0]
    ?.theme ?? null;

/** Keeps a theme; gives its id, or null where there are as many as there may be. */
export async function addTheme(sql: Sql, theme: Theme, now: Date): Promise<string | null> {
  const count = first(await sql<{ n: number }>`select count(*)::int as n from themes`)!.n;
  if (count >= LIMITS.themes) return null;
  const id = newId();
  await sql`insert into themes (id, body, created_at) values (${id}, ${canonical(theme as never)}, ${now})`;
  return id;
}

/** Puts a theme in the place of what somebody saw; false where it is gone, or another has changed it since. */
export const changeTheme = async (
  sql: Sql,
  id: string,
  theme: Theme,
  seen: Theme,
): Promise<boolean> =>
  (
    await sql`update themes set body = ${canonical(theme as never)}
      where id = ${id} and body = ${canonical(seen as never)} returning 1`
  ).length > 0;
