/** What of a node is said otherwise in other languages: by language, then by the way to the property. */
import { z } from "zod";
import { jsonSchema } from "../document/index.ts";
import type { Json } from "../json.ts";

export const langSchema = z
  .string()
  .regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, "A language tag such as en or fr-CA (BCP 47).");

export interface Translation {
  /** The fingerprint of what was translated: where that has changed since, this may be stale. */
  readonly of: string;
  readonly value: Json;
}
export type Translations = { readonly [lang: string]: { readonly [path: string]: Translation } };

const pathKey = z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,40}(\.[a-zA-Z][a-zA-Z0-9]{0,40}){0,5}$/);
export const translationsSchema: z.ZodType<Translations> = z.record(
  langSchema,
  z.record(pathKey, z.strictObject({ of: z.string().max(40), value: jsonSchema })),
);
