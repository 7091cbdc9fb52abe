/** Which items of sources come into an email: picked by hand, or by rule. */
import { z } from "zod";
import { FIELD_ID } from "../fields/index.ts";
import { LIMITS } from "../limits.ts";
import { ruleSchema } from "../rules/index.ts";
import { ORDERS, orderOf } from "./orders.ts";

const orderId = z.enum(ORDERS.map(({ id }) => id) as [string, ...string[]]);
const sourceId = z.string().regex(FIELD_ID);

export const choiceSchema = z.strictObject({
  /** The sources, all of one kind; none: every source of that kind. */
  sources: z.array(sourceId).max(LIMITS.choiceSources, "Too many sources."),
  /** Picked by hand, in this order; null: by rule. */
  picked: z
    .array(z.strictObject({ source: sourceId, key: z.string().min(1).max(LIMITS.lineLength) }))
    .max(LIMITS.choiceItems)
    .nullable(),
  /** What fits; null: all of them. */
  rule: ruleSchema.nullable(),
  /** A field of the items that says the same as one of the reader (a way as rules name it); null: none has to. */
  match: z
    .strictObject({ field: z.string().regex(FIELD_ID), reader: z.string().min(1).max(160) })
    .nullable(),
  /** Not older than so many days; null: however old. */
  newerThan: z.number().int().min(1).max(LIMITS.ruleDays).nullable(),
  /** What comes first, looking back so many days. */
  order: orderId,
  days: z.number().int().min(1).max(LIMITS.ruleDays),
  /** What comes after, where there are too few; null: nothing. */
  fill: orderId.nullable(),
  count: z.number().int().min(1).max(LIMITS.choiceItems),
  skip: z.number().int().min(0).max(LIMITS.choiceItems),
  onePerSource: z.boolean(),
  /** Only what no campaign has sent before. */
  unsent: z.boolean(),
  /** Only what the reader has not bought. */
  unbought: z.boolean(),
  /** Only products that can be had. */
  inStock: z.boolean(),
});
export type Choice = z.infer<typeof choiceSchema>;

export const newChoice = (change: Partial<Choice> = {}): Choice => ({
  sources: [],
  picked: null,
  rule: null,
  match: null,
  newerThan: null,
  order: "newest",
  days: 90,
  fill: null,
  count: 3,
  skip: 0,
  onePerSource: false,
  unsent: false,
  unbought: false,
  inStock: false,
  ...change,
});

/** Whether it comes out differently for each reader. */
export const isPersonal = ({ picked, match, unbought, order, fill }: Choice): boolean =>
  picked === null &&
  (match !== null ||
    unbought ||
    orderOf(order).personal === true ||
    (fill !== null && orderOf(fill).personal === true));

/** The values of readers it asks for, by their refs. */
export const refsOfChoice = ({ picked, match }: Choice): string[] =>
  picked === null && match ? [`contact:${match.reader}`] : [];

/** It in words: what fits, and what comes first. `describe` says the rule. */
export function choiceWords(choice: Choice, describe: (rule: Choice["rule"]) => string): string {
  if (choice.picked) return "Picked by hand";
  const parts = [
    choice.inStock && "in stock",
    choice.rule && describe(choice.rule),
    choice.match && "the same as the reader’s",
    choice.newerThan !== null && `not older than ${choice.newerThan} days`,
    choice.unsent && "not sent before",
    choice.unbought && "not bought by the reader",
  ].filter(Boolean);
  const order = orderOf(choice.order);
  const first = order.looksBack ? `${order.label} (${choice.days} days)` : order.label;
  return [...(parts.length ? [parts.join(", ")] : []), first].join(" · ");
}
