/** Searching by the beginnings of words: `search_words` and `search_query` of the database, and what reads them. */
import { constantSql, fragment, type Sql as SqlPiece } from "#core/rules/index.ts";

/**
 * Whether every word that is typed begins a word of `text`, a column with an index on `search_words(it)`. Null where
 * nothing typed is a word: for a `where`, which takes it for no.
 */
export const wordsFit = (text: SqlPiece, typed: string): SqlPiece =>
  typed.trim() === ""
    ? constantSql("true")
    : fragment`search_words(${text}) @@ search_query(${typed}::text)`;
