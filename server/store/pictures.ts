/** Pictures: named after their content, so that one file never changes. */
import { z } from "zod";
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { identifier } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { wordsFit } from "./search.ts";

export const pictureFileSchema = z.string().regex(/^[a-f0-9]{64}\.(png|jpg|gif|webp)$/);

export interface PicturePage {
  readonly pictures: readonly Picture[];
  /** How many there are in all. */
  readonly total: number;
}

const named = (words: string) => wordsFit(identifier("name"), words);

export const countPictures = async (sql: Sql, words = ""): Promise<number> =>
  first(await sql<{ n: number }>`select count(*)::int as n from pictures where ${named(words)}`)!.n;

/** Pictures whose names fit what is searched, the latest first, `from` which to begin. */
export async function searchPictures(
  sql: Sql,
  { words = "", from = 0 }: { words?: string; from?: number } = {},
): Promise<PicturePage> {
  const pictures = await sql<Picture>`
    select id, file, name, width, height, alpha from pictures where ${named(words)}
    order by created_at desc, id offset ${from} limit ${LIMITS.picturesPerPage}`;
  return { pictures, total: await countPictures(sql, words) };
}

/** The file of one picture, or null where there is none. */
export const pictureFile = async (sql: Sql, id: string): Promise<string | null> =>
  first(await sql<{ file: string }>`select file from pictures where id = ${id}`)?.file ?? null;

/** The id of the oldest picture, or null where there is none. */
export const firstPicture = async (sql: Sql): Promise<string | null> =>
  first(await sql<{ id: string }>`select id from pictures order by created_at, id desc limit 1`)
    ?.id ?? null;

/** Some pictures, in no order; those that are not there are left out. */
export const getPictures = (sql: Sql, ids: Iterable<string>): Promise<Picture[]> =>
  sql<Picture>`select id, file, name, width, height, alpha from pictures
    where id = any (${[...ids]}::text[])`;

export async function savePicture(
  sql: Sql,
  picture: Picture & { bytes: number },
  now: Date,
): Promise<void> {
  await sql`insert into pictures (id, file, name, width, height, alpha, bytes, created_at)
    values (${picture.id}, ${picture.file}, ${picture.name}, ${picture.width}, ${picture.height},
      ${picture.alpha}, ${picture.bytes}, ${now}) on conflict (id) do nothing`;
}
