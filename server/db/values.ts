/** Values on their way into the database, made such as it can hold. */
import { isJsonObject, type Json } from "#core/json.ts";
import { fragment, type Sql as SqlPiece } from "#core/rules/index.ts";

const plain = (text: string): string => text.replaceAll("\0", "");

/** A parameter: text in PostgreSQL holds no NUL, wherever it came from. */
export function holdable(param: unknown): unknown {
  if (typeof param === "string") return param.includes("\0") ? plain(param) : param;
  return Array.isArray(param) ? param.map(holdable) : param;
}

/** As JSON writes what jsonb refuses; in text that only looks so there is nothing to change. */
const REFUSED = /\\u(?:0000|d[89a-f])/;

/**
 * Any value of JSON as jsonb, SQL's null for undefined. jsonb holds neither NUL nor lone surrogates (PostgreSQL, 8.14): what
 * people type, paste and send may.
 */
export function jsonb(value: unknown): SqlPiece {
  const text: string | undefined = JSON.stringify(value);
  if (text === undefined || !REFUSED.test(text)) return fragment`${text ?? null}::jsonb`;
  return fragment`${JSON.stringify(mended(JSON.parse(text)))}::jsonb`;
}

/** What JSON was read from, its keys and texts such as jsonb holds them. */
function mended(value: Json): Json {
  if (typeof value === "string") return plain(value).toWellFormed();
  if (Array.isArray(value)) return value.map(mended);
  if (!isJsonObject(value)) return value;
  const pairs = Object.entries(value).map(([key, one]) => [mended(key), mended(one!)]);
  return Object.fromEntries(pairs);
}
