/** Making and changing fields from a form: one way for contacts and for records. */
import { z } from "zod";
import {
  FIELD_TYPES,
  type Field,
  fieldIdFor,
  isReserved,
  kindOf,
  OWN_READING,
} from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import { required } from "../forms.ts";
import { segmentsNaming } from "../store/audience.ts";
import { addFields, changeField, getFields, removeField } from "../store/fields.ts";

const options = z
  .string()
  .default("")
  .transform((text) => [
    ...new Set(
      text
        .split("\n")
        .map((line) => line.trim())
        .filter(Boolean),
    ),
  ])
  .pipe(
    z
      .array(z.string().max(LIMITS.nameLength, "A choice is too long."))
      .max(LIMITS.fieldOptions, `At most ${LIMITS.fieldOptions} choices.`),
  );
const label = required("Give the field a name.");

export const fieldFormSchema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("addField"),
    label,
    type: z.enum(FIELD_TYPES),
    options,
    target: z.string().default(""),
  }),
  z.object({
    do: z.literal("changeField"),
    field: z.string(),
    label,
    options,
    standard: z.string().default(""),
    unit: z.string().trim().max(12).default(""),
    fallback: z.string().trim().max(LIMITS.lineLength, "This is too long.").default(""),
    decimals: z.union([z.literal(""), z.coerce.number().int().min(0).max(6)]).default(""),
  }),
  z.object({ do: z.literal("removeField"), field: z.string() }),
]);
export type FieldForm = z.infer<typeof fieldFormSchema>;

const CHOICES = new Set(["choice", "choices"]);

/** Segments whose rule names a field of contacts, or what it points to. */
async function segmentsNamingField(sql: Sql, field: string): Promise<string[]> {
  const named = await segmentsNaming(
    sql,
    field,
    (one) => one.type === "field" && (one.field === field || one.field.startsWith(`${field}.`)),
  );
  return named.map(({ name }) => `“${name}”`);
}

/** Segments whose rule follows a pointer to a table of records. */
export async function segmentsFollowing(sql: Sql, table: string): Promise<string[]> {
  const pointers = [...(await getFields(sql)).values()].filter((field) => field.table === table);
  const naming = await Promise.all(pointers.map(({ id }) => segmentsNamingField(sql, id)));
  return [...new Set(naming.flat())];
}

/** Does what a form asks of the fields of a table. Gives what is wrong, by input, or null. */
export async function applyFieldForm(
  sql: Sql,
  table: string,
  asked: FieldForm,
): Promise<Record<string, string[]> | null> {
  const fields = await getFields(sql, table);
  if (asked.do === "removeField") {
    const uses = table === "contacts" ? await segmentsNamingField(sql, asked.field) : [];
    if (uses.length > 0) return { field: [`It is used by ${uses.join(", ")}.`] };
    await removeField(sql, table, asked.field);
    return null;
  }
  if (asked.do === "addField") {
    if (fields.size >= LIMITS.fields) return { label: [`At most ${LIMITS.fields} fields.`] };
    if (CHOICES.has(asked.type) && asked.options.length === 0) {
      return { options: ["Write the choices, one per line."] };
    }
    if (asked.type === "record" && !asked.target) return { target: ["Choose where it points."] };
    const id = fieldIdFor(asked.label, (one) => fields.has(one) || isReserved(one));
    const field: Field = {
      id,
      label: asked.label,
      type: asked.type,
      options: CHOICES.has(asked.type) ? asked.options : [],
      table: asked.type === "record" ? asked.target : null,
    };
    await addFields(sql, [field], table);
    return null;
  }
  const field = fields.get(asked.field);
  if (!field) return { label: ["This field is gone."] };
  const changed: Field = {
    ...field,
    label: asked.label,
    options: CHOICES.has(field.type) ? asked.options : [],
    format: {
      ...(asked.unit && { unit: asked.unit }),
      ...(asked.fallback && { fallback: asked.fallback }),
      ...(asked.decimals !== "" && { decimals: asked.decimals }),
    },
  };
  const parsed = kindOf(changed).parse(asked.standard, changed, OWN_READING);
  if ("problem" in parsed) return { standard: [`${parsed.problem}.`] };
  await changeField(sql, table, field.id, {
    ...changed,
    standard: parsed.value === null ? undefined : parsed.value,
  });
  return null;
}
