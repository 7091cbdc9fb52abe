/**
 * Reading a form that was sent. What people send is hostile: how much and how many fields is limited before
 * anything is parsed, and only the names that the form has come near the parser, which builds objects and lists
 * from names.
 */
import { parseWithZod } from "@conform-to/zod/v4";
import { data } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";

const refuse = (status: number, message: string) => data(message, { status });
const unreadable = () => refuse(400, "This form could not be read.");

/** The fields of a form that was sent. Throws an answer with status 400 or 413. */
export async function sentForm(request: Request): Promise<FormData> {
  const kind = request.headers.get("content-type")?.split(";")[0]?.trim().toLowerCase();
  if (kind === "multipart/form-data") {
    const form = await request.formData().catch(() => {
      throw unreadable();
    });
    return checked(form);
  }
  if (kind !== "application/x-www-form-urlencoded") throw unreadable();
  const text = await request.text();
  let fields = 1;
  for (let at = text.indexOf("&"); at >= 0; at = text.indexOf("&", at + 1)) {
    if (++fields > LIMITS.formFields) throw refuse(413, "This form has too many fields.");
  }
  const form = new FormData();
  for (const [name, value] of new URLSearchParams(text)) form.append(name, value);
  return checked(form);
}

function checked(form: FormData): FormData {
  let fields = 0;
  for (const [name, value] of form) {
    if (++fields > LIMITS.formFields) throw refuse(413, "This form has too many fields.");
    if (name.includes("\0") || (typeof value === "string" && value.includes("\0")))
      throw unreadable();
  }
  return form;
}

const STEP = /^([^.[\]]+)|^\.([^.[\]]+)|^\[(\d{1,5})\]/;

/** `cases[0].value` → cases, 0, value; null where it is no such name, or too deep. */
function stepsOf(name: string): (string | number)[] | null {
  const steps: (string | number)[] = [];
  for (let left = name; left !== ""; ) {
    const found = STEP.exec(left);
    if (!found || steps.length >= LIMITS.formDepth) return null;
    // The first has neither a dot before it nor brackets; all others have one of them.
    if ((found[1] !== undefined) !== (steps.length === 0)) return null;
    steps.push(found[3] === undefined ? (found[1] ?? found[2])! : Number(found[3]));
    left = left.slice(found[0].length);
  }
  return steps;
}

/** Whether a schema has something at a place. */
function has(schema: z.core.$ZodType, [step, ...rest]: readonly (string | number)[]): boolean {
  if (schema instanceof z.ZodPipe) return has(schema.def.in, [step, ...rest] as never);
  if (schema instanceof z.ZodUnion) {
    return schema.options.some((one) => has(one, [step, ...rest] as never));
  }
  if ("innerType" in schema._zod.def) {
    return has(schema._zod.def.innerType as z.core.$ZodType, [step, ...rest] as never);
  }
  if (step === undefined) return true;
  if (schema instanceof z.ZodObject) {
    const shape: Record<string, z.core.$ZodType> = schema.shape;
    return typeof step === "string" && Object.hasOwn(shape, step) && has(shape[step]!, rest);
  }
  if (schema instanceof z.ZodArray) {
    return typeof step === "number" && step < LIMITS.formItems && has(schema.element, rest);
  }
  return false;
}

/** Whether a form of this schema has a field of this name. */
export function hasField(schema: z.core.$ZodType, name: string): boolean {
  const steps = stepsOf(name);
  return steps !== null && steps.length > 0 && has(schema, steps);
}

/** What was sent, read by its schema: the fields that the form has, and no others. */
export async function submissionOf<Schema extends z.ZodType>(
  sent: Request | FormData,
  schema: Schema,
) {
  const all = sent instanceof FormData ? sent : await sentForm(sent);
  const own = new FormData();
  for (const [name, value] of all) {
    if (hasField(schema, name)) own.append(name, value);
  }
  return parseWithZod(own, { schema });
}
