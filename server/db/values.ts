/** Values on their way into the database, made such as it can hold. */
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
  const kept = JSON.stringify(value, (_, one) =>
    typeof one === "string" ? plain(one).toWellFormed() : one,
  );
  return fragment`${kept}::jsonb`;
}
