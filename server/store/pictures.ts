/** Pictures: named after their content, so that one file never changes. */
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { fragment, identifier } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { wordsFit } from "./search.ts";

export interface PicturePage {
  readonly pictures: readonly Picture[];
  /** How many there are in all. */
  readonly total: number;
}

const COLUMNS = fragment`id, file, name, width, height, alpha, bytes, tones`;

/** Those that people put in, whose names fit. */
const named = (words: string) => fragment`not of_items and ${wordsFit(identifier("name"), words)}`;

export const countPictures = async (sql: Sql, words = ""): Promise<number> =>
  first(await sql<{ n: number }>`select count(*)::int as n from pictures where ${named(words)}`)!.n;

/** Pictures whose names fit what is searched, the latest first, `from` which to begin. */
export async function searchPictures(
  sql: Sql,
  { words = "", from = 0 }: { words?: string; from?: number } = {},
): Promise<PicturePage> {
  const pictures = await sql<Picture>`
    select ${COLUMNS} from pictures where ${named(words)}
    order by created_at desc, id offset ${from} limit ${LIMITS.picturesPerPage}`;
  return { pictures, total: await countPictures(sql, words) };
}

/** The file of one picture, or null where there is none. */
export const pictureFile = async (sql: Sql, id: string): Promise<string | null> =>
  first(await sql<{ file: string }>`select file from pictures where id = ${id}`)?.file ?? null;

/** A picture of which nobody has counted how light it is; null where there is none. */
export const pictureWithoutTones = async (sql: Sql): Promise<Pick<Picture, "id" | "file"> | null> =>
  first(
    await sql<Pick<Picture, "id" | "file">>`select id, file from pictures where tones is null
      order by created_at desc limit 1`,
  );

export async function keepTones(sql: Sql, id: string, tones: readonly number[]): Promise<void> {
  await sql`update pictures set tones = ${[...tones]}::smallint[] where id = ${id}`;
}

/** The ids of the oldest pictures. */
export const oldestPictures = async (sql: Sql, count: number): Promise<string[]> =>
  (
    await sql<{ id: string }>`select id from pictures order by created_at, id desc limit ${count}`
  ).map(({ id }) => id);

/** Some pictures, in no order; those that are not there are left out. */
export const getPictures = (sql: Sql, ids: Iterable<string>): Promise<Picture[]> =>
  sql<Picture>`select ${COLUMNS} from pictures where id = any (${[...ids]}::text[])`;

/** What shows a picture: emails that are not sent yet, templates and derived tags, by their names. */
export async function pictureUses(sql: Sql, id: string): Promise<string[]> {
  const rows = await sql<{ name: string }>`
    select k.name from campaigns k join documents d on d.id = k.document_id
    where k.deleted_at is null and position(${id} in d.body) > 0
      and not exists (select 1 from launches l where l.campaign_id = k.id and l.state = 'done')
    union all select t.name from templates t join documents d on d.id = t.document_id
      where position(${id} in d.body) > 0
    union all select name from saved_blocks where position(${id} in body) > 0
    union all select name from derived_tags where position(${id} in body::text) > 0
    order by 1 limit 5`;
  return rows.map(({ name }) => `“${name}”`);
}

/** What a picture is called, or null where there is none. */
export const pictureName = async (sql: Sql, id: string): Promise<string | null> =>
  first(await sql<{ name: string }>`select name from pictures where id = ${id}`)?.name ?? null;

export async function savePicture(
  sql: Sql,
  picture: Picture & { bytes: number },
  now: Date,
  /** It came with an item: it stands in no list until somebody puts it in. */
  ofItems = false,
): Promise<void> {
  await sql`insert into pictures as p (id, file, name, width, height, alpha, bytes, tones, created_at, of_items)
    values (${picture.id}, ${picture.file}, ${picture.name}, ${picture.width}, ${picture.height},
      ${picture.alpha}, ${picture.bytes}, ${picture.tones ?? null}::smallint[], ${now}, ${ofItems})
    on conflict (id) do update set of_items = p.of_items and excluded.of_items`;
}
