/** Files that links in emails lead to. */
import { LIMITS } from "#core/limits.ts";
import { fragment, identifier } from "#core/rules/index.ts";
import { shortFile } from "#core/text/index.ts";
import { first, type Sql } from "../db/database.ts";
import { wordsFit } from "./search.ts";

export interface LinkedFile {
  /** Its content's name and its ending. */
  readonly file: string;
  readonly name: string;
  readonly bytes: number;
}
export interface LibraryFile extends LinkedFile {
  readonly createdAt: Date;
}

/**
 * Keeps a file; one of the same content keeps the name it has, and is offered again. Gives it as it is kept, or null
 * where there are as many as there may be.
 */
export async function addFile(
  sql: Sql,
  { file, name, bytes }: LinkedFile,
  now: Date,
): Promise<LinkedFile | null> {
  await sql`insert into files (id, short, name, bytes, created_at)
    select ${file}, ${shortFile(file)}, ${name}, ${bytes}::int, ${now}
    where (select count(*) from files where deleted_at is null) < ${LIMITS.files}
    on conflict (id) do update set deleted_at = null`;
  return (
    first(
      await sql<LinkedFile>`select id as file, name, bytes from files
      where id = ${file} and deleted_at is null`,
    ) ?? null
  );
}

/** The file that an address names, deleted or not: emails that were sent lead to it. Null where there never was one. */
export const fileNamed = async (sql: Sql, short: string): Promise<LinkedFile | null> =>
  first(await sql<LinkedFile>`select id as file, name, bytes from files where short = ${short}`) ??
  null;

/** Some files, by their contents' names. */
export const namedFiles = (sql: Sql, files: readonly string[]): Promise<LinkedFile[]> =>
  sql<LinkedFile>`select id as file, name, bytes from files
    where id = any (${[...files]}::text[]) order by bytes, id`;

/** Those of some files that are here. */
export const knownFiles = async (sql: Sql, files: readonly string[]): Promise<string[]> =>
  (await namedFiles(sql, files)).map(({ file }) => file);

/** A file that is offered; null where it is not, or not any more. */
export const getFile = async (sql: Sql, file: string): Promise<LibraryFile | null> =>
  first(
    await sql<LibraryFile>`select id as file, name, bytes, created_at as "createdAt" from files
      where id = ${file} and deleted_at is null`,
  ) ?? null;

const matching = (words: string) =>
  fragment`deleted_at is null and ${wordsFit(identifier("name"), words)}`;

export const countFiles = async (sql: Sql, words: string): Promise<number> =>
  (await sql<{ n: number }>`select count(*)::int as n from files where ${matching(words)}`)[0]!.n;

/** Files in whose names these words begin words, the newest first. */
export const listFiles = (
  sql: Sql,
  { words, from, limit }: { words: string; from: number; limit: number },
): Promise<LibraryFile[]> =>
  sql<LibraryFile>`select id as file, name, bytes, created_at as "createdAt" from files
    where ${matching(words)} order by created_at desc, id limit ${limit} offset ${from}`;

export const renameFile = async (sql: Sql, file: string, name: string): Promise<boolean> =>
  (await sql`update files set name = ${name} where id = ${file} and deleted_at is null returning 1`)
    .length > 0;
