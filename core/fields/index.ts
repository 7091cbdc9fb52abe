/** The list of field types. A new one is a file under `types/` and a line here. */
import type { Json } from "../json.ts";
import { EMAIL_FIELD, type Field, type Fields, type FieldType } from "./field.ts";
import type { FieldKind, Key } from "./kind.ts";
import { choice, choices } from "./types/choice.ts";
import { date } from "./types/date.ts";
import { number } from "./types/number.ts";
import { place } from "./types/place.ts";
import { record } from "./types/record.ts";
import { text } from "./types/text.ts";
import { web } from "./types/web.ts";
import { yesNo } from "./types/yes-no.ts";
import { zone } from "./types/zone.ts";

// biome-ignore lint/suspicious/noExplicitAny: each type's value has its own shape, kept by its check
const KINDS: Record<FieldType, FieldKind<any>> = {
  text,
  number,
  date,
  yesNo,
  choice,
  choices,
  place,
  web,
  zone,
  record,
};
export const KIND_LIST = Object.values(KINDS);
export const kindOf = (field: Pick<Field, "type">): FieldKind => KINDS[field.type];

export type Values = { readonly [field: string]: Json | undefined };

/** Values as they may be kept: those of known fields and of their type. */
export function checkValues(values: Values, fields: Fields): Record<string, Json> {
  const kept: Record<string, Json> = {};
  for (const [id, value] of Object.entries(values)) {
    const field = fields.get(id);
    const checked = field && value !== undefined ? kindOf(field).check(value, field) : null;
    if (checked !== null && checked !== undefined) kept[id] = checked;
  }
  return kept;
}

/** The key of a kept value: what rules compare. */
export function keyOf(value: Json, field: Pick<Field, "type">): Key {
  const kind = kindOf(field);
  return kind.key ? kind.key.of(value) : (value as Key);
}

/** The keys of kept values. */
export function keysOf(values: Values, fields: Fields): Record<string, Key> {
  const keys: Record<string, Key> = {};
  for (const [id, value] of Object.entries(values)) {
    const field = fields.get(id);
    if (field && value !== null && value !== undefined) keys[id] = keyOf(value, field);
  }
  return keys;
}

/**
 * Values that somebody might have, by the refs of their tags (`contact:…`): for those who may see nobody's own. `n` is
 * which of the made-up readers (0, 1, …) it is.
 */
export const madeUpValues = (fields: Fields, n: number): Record<string, string | number> =>
  Object.fromEntries(
    [...fields].map(([path, field]) => [
      `contact:${path}`,
      path.split(".").at(-1) === EMAIL_FIELD.id
        ? `reader${n + 1}@example.org`
        : kindOf(field).sample(field, n),
    ]),
  );

export * from "./address.ts";
export * from "./field.ts";
export * from "./fold.ts";
export { LIKE_A_FORMULA } from "./formula.ts";
export * from "./kind.ts";
export { splitChoices } from "./types/choice.ts";
export { dateParts, readDate } from "./types/date.ts";
export { distanceKm, type Place } from "./types/place.ts";
export { cleanText } from "./types/text.ts";
export { ZONE_NAMES } from "./types/zone.ts";
