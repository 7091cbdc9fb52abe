/** Files that links in emails lead to. */
import { LIMITS } from "#core/limits.ts";
import { shortFile } from "#core/text/index.ts";
import { first, type Sql } from "../db/database.ts";

export interface LinkedFile {
  /** Its content's name and its ending. */
  readonly file: string;
  readonly name: string;
  readonly bytes: number;
}

/** Keeps a file; one of the same content keeps the name it has. Gives it as it is kept, or null where there are as many as there may be. */
export async function addFile(
  sql: Sql,
  { file, name, bytes }: LinkedFile,
  now: Date,
): Promise<LinkedFile | null> {
  await sql`insert into files (file, short, name, bytes, created_at)
    select ${file}, ${shortFile(file)}, ${name}, ${bytes}::int, ${now}
    where (select count(*) from files) < ${LIMITS.files} on conflict do nothing`;
  return fileNamed(sql, shortFile(file));
}

/** The file that an address names; null where there is none. */
export const fileNamed = async (sql: Sql, short: string): Promise<LinkedFile | null> =>
  first(await sql<LinkedFile>`select file, name, bytes from files where short = ${short}`) ?? null;

/** Those of some files that are here. */
export const knownFiles = async (sql: Sql, files: readonly string[]): Promise<string[]> =>
  (
    await sql<{ file: string }>`select file from files where file = any (${[...files]}::text[])`
  ).map(({ file }) => file);
