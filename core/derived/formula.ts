/** Simple arithmetic over a reader's values: numbers and dates that no field holds. */
import { z } from "zod";
import type { Json } from "../json.ts";

/** A contact's field, as a merge tag names it. */
const FIELD_REF = /^contact:[A-Za-z0-9_.-]{1,160}$/;
const fieldRef = z.string().regex(FIELD_REF, "Choose a field.");

const operandSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("field"), ref: fieldRef }),
  z.strictObject({ kind: z.literal("number"), value: z.number("Write a number.") }),
]);
export type Operand = z.infer<typeof operandSchema>;

export const SINCE = ["yearsSince", "daysSince", "daysUntil"] as const;
export const ARITHMETIC = ["plus", "minus", "times", "over"] as const;

export const numberFormulaSchema = z.discriminatedUnion("op", [
  z.strictObject({ op: z.enum(SINCE), field: fieldRef }),
  z.strictObject({ op: z.enum(ARITHMETIC), left: operandSchema, right: operandSchema }),
]);
export const dateFormulaSchema = z.strictObject({
  op: z.literal("daysAfter"),
  field: fieldRef,
  days: z.number().int().min(-40_000).max(40_000),
});
export type NumberFormula = z.infer<typeof numberFormulaSchema>;
export type DateFormula = z.infer<typeof dateFormulaSchema>;
export type Formula = NumberFormula | DateFormula;

const DAY = 86_400_000;
/** Days since 1970 of an ISO date; null for anything else. */
export function dayOf(value: Json | undefined): number | null {
  if (typeof value !== "string" || !/^\d{4}-\d{2}-\d{2}/.test(value)) return null;
  const at = Date.parse(`${value.slice(0, 10)}T00:00:00Z`);
  return Number.isNaN(at) ? null : at / DAY;
}

/** Whole years between two ISO dates; a 29 February comes round on 1 March where there is none. */
function yearsBetween(from: string, to: string): number {
  const years = Number(to.slice(0, 4)) - Number(from.slice(0, 4));
  return to.slice(4, 10) < from.slice(4, 10) ? years - 1 : years;
}

function numberOf(value: Json | undefined): number | null {
  const number = typeof value === "string" && value.trim() !== "" ? Number(value) : value;
  return typeof number === "number" && Number.isFinite(number) ? number : null;
}

/** The refs of the fields a formula reads. */
export function formulaRefs(formula: Formula): string[] {
  if ("field" in formula) return [formula.field];
  return [formula.left, formula.right].flatMap((one) => (one.kind === "field" ? [one.ref] : []));
}

/** What comes of a formula for a reader on a day (ISO date); undefined where something is missing. */
export function resultOf(
  formula: Formula,
  values: { readonly [ref: string]: Json | undefined },
  today: string,
): number | string | undefined {
  if (!("field" in formula)) {
    const [left, right] = [formula.left, formula.right].map((one) =>
      one.kind === "number" ? one.value : numberOf(values[one.ref]),
    ) as [number | null, number | null];
    if (left === null || right === null) return undefined;
    const result = {
      plus: left + right,
      minus: left - right,
      times: left * right,
      over: right === 0 ? Number.NaN : left / right,
    }[formula.op];
    return Number.isFinite(result) ? result : undefined;
  }
  const value = values[formula.field];
  const [day, now] = [dayOf(value), dayOf(today)];
  if (day === null || now === null) return undefined;
  switch (formula.op) {
    case "yearsSince":
      return yearsBetween(String(value), today);
    case "daysSince":
      return now - day;
    case "daysUntil":
      return day - now;
    case "daysAfter":
      return new Date((day + formula.days) * DAY).toISOString().slice(0, 10);
  }
}
