/** Pictures: named after their content, so that one file never changes. */
import { z } from "zod";
import type { Picture } from "#core/kinds/kind.ts";
import { first, type Sql } from "../db/database.ts";

export const pictureFileSchema = z.string().regex(/^[a-f0-9]{64}\.(png|jpg|gif|webp)$/);

export const listPictures = (sql: Sql): Promise<Picture[]> =>
  sql<Picture>`select id, file, name, width, height, alpha from pictures order by created_at desc, id`;

/** The file of one picture, or null where there is none. */
export const pictureFile = async (sql: Sql, id: string): Promise<string | null> =>
  first(await sql<{ file: string }>`select file from pictures where id = ${id}`)?.file ?? null;

/** All pictures by id, as rendering wants them. */
export const picturesById = async (sql: Sql): Promise<Map<string, Picture>> =>
  new Map((await listPictures(sql)).map((picture) => [picture.id, picture]));

export async function savePicture(
  sql: Sql,
  picture: Picture & { bytes: number },
  now: Date,
): Promise<void> {
  await sql`insert into pictures (id, file, name, width, height, alpha, bytes, created_at)
    values (${picture.id}, ${picture.file}, ${picture.name}, ${picture.width}, ${picture.height},
      ${picture.alpha}, ${picture.bytes}, ${now}) on conflict (id) do nothing`;
}
