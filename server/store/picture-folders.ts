/** Folders of the library's images. */
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";

export interface PictureFolderRow {
  readonly id: string;
  readonly name: string;
  /** How many images lie in it. */
  readonly count: number;
}

export const listFolders = (sql: Sql): Promise<PictureFolderRow[]> => sql<PictureFolderRow>`
  select f.id, f.name, (select count(*)::int from pictures p where p.folder_id = f.id and not p.of_items) as count
  from picture_folders f order by lower(f.name)`;

/** Makes a folder; null where there is one of the name, or there are as many as there may be. */
export async function addFolder(sql: Sql, name: string, now: Date): Promise<string | null> {
  const id = newId();
  const made = await sql`insert into picture_folders (id, name, created_at)
    select ${id}, ${name}, ${now} where (select count(*) from picture_folders) < ${LIMITS.pictureFolders}
    on conflict do nothing returning 1`;
  return made.length > 0 ? id : null;
}

/** False where another has the name, or it is gone. */
export const renameFolder = async (sql: Sql, id: string, name: string): Promise<boolean> =>
  (
    await sql`update picture_folders set name = ${name} where id = ${id}
      and not exists (select 1 from picture_folders where id <> ${id} and lower(name) = lower(${name}))
      returning 1`
  ).length > 0;

export const folderName = async (sql: Sql, id: string): Promise<string | null> =>
  first(await sql<{ name: string }>`select name from picture_folders where id = ${id}`)?.name ??
  null;
