/** Plain JSON values, and the one spelling of them that is stored and compared. */

export type Json = null | boolean | number | string | readonly Json[] | JsonObject;
export interface JsonObject {
  readonly [key: string]: Json;
}

export const isJsonObject = (value: unknown): value is JsonObject =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/**
 * Writes a JSON value with the keys of every object sorted, so that equal values are equal text
 * (the idea of RFC 8785, without its number rules: JavaScript's own number spelling already is canonical).
 * Keys whose value is `undefined` are left out. Throws a TypeError for values JSON cannot hold.
 */
export function canonical(value: unknown): string {
  if (value === null || typeof value === "boolean" || typeof value === "string") {
    return JSON.stringify(value);
  }
  if (typeof value === "number") {
    if (!Number.isFinite(value)) throw new TypeError("JSON has no spelling for this number");
    return JSON.stringify(value);
  }
  if (Array.isArray(value)) return `[${value.map(canonical).join(",")}]`;
  if (typeof value === "object") {
    const object = value as Record<string, unknown>;
    const parts: string[] = [];
    for (const key of Object.keys(object).sort()) {
      if (object[key] !== undefined) parts.push(`${JSON.stringify(key)}:${canonical(object[key])}`);
    }
    return `{${parts.join(",")}}`;
  }
  throw new TypeError(`JSON has no spelling for a ${typeof value}`);
}

/** True when both values have the same canonical spelling. */
export function sameJson(a: unknown, b: unknown): boolean {
  return a === b || canonical(a) === canonical(b);
}

/** A short mark of a text that changes when the text does (FNV-1a, twice 32 bits); not for secrets. */
export function fingerprint(text: string): string {
  let a = 0x811c9dc5;
  let b = 0x01000193;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    a = Math.imul(a ^ code, 0x01000193);
    b = Math.imul(b ^ code, 0x811c9dc5) + 1;
  }
  return (a >>> 0).toString(36) + (b >>> 0).toString(36);
}

/** How deep JSON from outside may nest: what schemas go through by calling themselves must come to an end. */
const DEEPEST = 200;

/** Whether a JSON text nests deeper than that; brackets in its texts are words. */
function isTooDeep(text: string): boolean {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (quoted) {
      if (code === 92) i++;
      else if (code === 34) quoted = false;
    } else if (code === 34) quoted = true;
    else if (code === 91 || code === 123) {
      if (++depth > DEEPEST) return true;
    } else if (code === 93 || code === 125) depth--;
  }
  return false;
}

/** What a JSON text says, to be checked by a schema; undefined where it is none, or nests without end. */
export function parseJson(text: string): unknown {
  if (isTooDeep(text)) return undefined;
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** What a table has under a name that came from outside: never what every object has (`constructor`, `toString`). */
export const under = <Value>(
  table: Readonly<Record<string, Value>>,
  name: string,
): Value | undefined => (Object.hasOwn(table, name) ? table[name] : undefined);

const encoder = new TextEncoder();
/** How many bytes a value has as JSON, on the way. */
export const jsonBytes = (value: unknown): number => encoder.encode(JSON.stringify(value)).length;
