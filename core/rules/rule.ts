/** The one rule language: groups of all, any or none of tests on a contact's fields. */
import { z } from "zod";
import type { Json } from "../json.ts";
import { LIMITS } from "../limits.ts";
import type { Field, Fields } from "./fields.ts";
import { EMAIL_FIELD } from "./fields.ts";
import { fold } from "./fold.ts";
import { constantSql, fragment, joinSql, type Sql } from "./fragment.ts";
import type { Now, Operator, Value } from "./operator.ts";
import { operatorOf } from "./operators/index.ts";

export interface Test {
  readonly type: "field";
  readonly field: string;
  readonly op: string;
  readonly argument: Json;
}
export interface Group {
  readonly type: "all" | "any" | "none";
  readonly rules: readonly Rule[];
}
export type Rule = Group | Test;

const testSchema = z
  .strictObject({
    type: z.literal("field"),
    field: z.string().min(1).max(64),
    op: z.string(),
    argument: z.json(),
  })
  .superRefine((test, ctx) => {
    const operator = operatorOf(test.op);
    if (!operator) {
      ctx.addIssue({ code: "custom", message: "There is no such comparison.", path: ["op"] });
      return;
    }
    const result = operator.argument.safeParse(test.argument);
    if (!result.success) {
      const message = result.error.issues[0]?.message ?? "This value does not fit.";
      ctx.addIssue({ code: "custom", message, path: ["argument"] });
    }
  });

const depth = (rule: Rule): number =>
  rule.type === "field" ? 1 : 1 + Math.max(0, ...rule.rules.map(depth));

const anyRule: z.ZodType<Rule> = z.lazy(() => z.union([testSchema, groupSchema]));
const groupSchema = z.strictObject({
  type: z.enum(["all", "any", "none"]),
  rules: z.array(anyRule).max(100),
});
export const ruleSchema: z.ZodType<Rule> = anyRule.refine(
  (rule) => depth(rule) <= LIMITS.rulesDepth,
  `Groups go at most ${LIMITS.rulesDepth} deep.`,
);

/** What is wrong with a rule against the fields there are, or null. */
export function ruleProblem(rule: Rule, fields: Fields): string | null {
  if (rule.type !== "field") {
    for (const inner of rule.rules) {
      const problem = ruleProblem(inner, fields);
      if (problem) return problem;
    }
    return null;
  }
  const field = fieldOf(rule.field, fields);
  if (!field) return "This rule names a field that is gone.";
  if (!operatorOf(rule.op)?.types.includes(field.type)) {
    return `“${operatorOf(rule.op)?.label ?? rule.op}” does not go with ${field.label}.`;
  }
  return null;
}

const fieldOf = (id: string, fields: Fields): Field | null =>
  id === EMAIL_FIELD.id ? EMAIL_FIELD : (fields.get(id) ?? null);

/** The operator and field of a test, or null where either is gone or they do not go together. */
function parts(test: Test, fields: Fields): { field: Field; operator: Operator } | null {
  const field = fieldOf(test.field, fields);
  const operator = operatorOf(test.op);
  return field && operator?.types.includes(field.type) ? { field, operator } : null;
}

/** A rule in words that anyone can read. */
export function describe(rule: Rule, fields: Fields): string {
  const words = (inner: Rule, outer: boolean): string => {
    if (inner.type === "field") {
      const found = parts(inner, fields);
      return found
        ? found.operator.words(found.field.label, inner.argument)
        : "a field that is gone (nobody)";
    }
    if (inner.rules.length === 0) return inner.type === "any" ? "nobody" : "everybody";
    const list = inner.rules.map((r) => words(r, false));
    const text = list.join(inner.type === "all" ? " and " : " or ");
    if (inner.type === "none") return `not (${text})`;
    return outer || list.length === 1 ? text : `(${text})`;
  };
  return words(rule, true);
}

export interface Contact {
  readonly email: string;
  readonly values: { readonly [field: string]: Json | undefined };
}

const ISO_DATE = /^[0-9]{4}-[0-9]{2}-[0-9]{2}$/;

/** A contact's value as the field's type has it; a value of another type is no value. */
function readValue(contact: Contact, field: Field): Value {
  const raw = field.id === EMAIL_FIELD.id ? contact.email : contact.values[field.id];
  if (field.type === "number") return typeof raw === "number" ? raw : null;
  if (typeof raw !== "string" || raw === "") return null;
  if (field.type === "date") return ISO_DATE.test(raw) ? raw : null;
  return fold(raw);
}

/** The rule as a predicate, made once for many contacts. */
export function compileRule(rule: Rule, fields: Fields, now: Now): (contact: Contact) => boolean {
  if (rule.type === "field") {
    const found = parts(rule, fields);
    if (!found) return () => false;
    const { field, operator } = found;
    return (contact) => operator.test(readValue(contact, field), rule.argument, now);
  }
  const inner = rule.rules.map((r) => compileRule(r, fields, now));
  if (rule.type === "all") return (contact) => inner.every((test) => test(contact));
  if (rule.type === "any") return (contact) => inner.some((test) => test(contact));
  return (contact) => !inner.some((test) => test(contact));
}

/** The value of a field in SQL, of the field's type, null where there is none. `c` is the contacts table. */
function valueSql(field: Field): Sql {
  if (field.id === EMAIL_FIELD.id) return constantSql(`c.email_folded collate "C"`);
  const at = fragment`c.values -> ${field.id}::text`;
  const asText = fragment`c.values ->> ${field.id}::text`;
  if (field.type === "number") {
    return fragment`case when jsonb_typeof(${at}) = 'number' then (${asText})::numeric end`;
  }
  if (field.type === "date") {
    return fragment`case when jsonb_typeof(${at}) = 'string' and (${asText}) ~ '^[0-9]{4}-[0-9]{2}-[0-9]{2}$' then (${asText}) end collate "C"`;
  }
  return fragment`case when jsonb_typeof(${at}) = 'string' and (${asText}) <> '' then c.folded ->> ${field.id}::text end collate "C"`;
}

/** The same rule as a condition on the contacts table, named `c`. Never null. */
export function ruleSql(rule: Rule, fields: Fields, now: Now): Sql {
  if (rule.type === "field") {
    const found = parts(rule, fields);
    if (!found) return constantSql("false");
    const test = found.operator.sql(valueSql(found.field), rule.argument, now);
    return fragment`coalesce(${test}, false)`;
  }
  if (rule.rules.length === 0) return constantSql(rule.type === "any" ? "false" : "true");
  const inner = rule.rules.map((r) => ruleSql(r, fields, now));
  if (rule.type === "all") return fragment`(${joinSql(inner, " and ")})`;
  const any = fragment`(${joinSql(inner, " or ")})`;
  return rule.type === "any" ? any : fragment`not ${any}`;
}

/** The folded texts of a contact's values, kept beside them for comparing in SQL. */
export function foldedValues(values: Contact["values"]): Record<string, string> {
  const folded: Record<string, string> = {};
  for (const [field, value] of Object.entries(values)) {
    if (typeof value === "string") folded[field] = fold(value);
  }
  return folded;
}
