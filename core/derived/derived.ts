/**
 * Derived tags: merge tags whose value is chosen by rules, in order, with a last resort. Words, plain or with
 * marks and links, where a link leads, a picture, a sender, or a number or date that is worked out. Used like
 * any tag as `derived:ID`; a sender's parts are `derived:ID.name` and `derived:ID.address`, and a picture's name
 * stands where a picture's does.
 */
import { z } from "zod";
import { MAIL_ADDRESS } from "../fields/index.ts";
import { LIMITS } from "../limits.ts";
import { PICTURE_ID } from "../picture-id.ts";
import { type Rule, ruleSchema } from "../rules/index.ts";
import {
  isBlank,
  type Line,
  lineSchema,
  phraseSchema,
  plainLine,
  ruleKey,
  type TextJson,
  tagsOf,
  textMentions,
  type When,
  webAddressProblem,
} from "../text/index.ts";
import { dateFormulaSchema, type Formula, formulaRefs, numberFormulaSchema } from "./formula.ts";

export const DERIVED_KINDS = [
  "text",
  "rich",
  "link",
  "picture",
  "sender",
  "number",
  "date",
] as const;
export type DerivedKind = (typeof DERIVED_KINDS)[number];
export const DERIVED_ID = /^[A-Za-z0-9_-]{1,40}$/;

export interface TextValue {
  /** A line; of rich words, a phrase. */
  readonly words: TextJson;
}
export interface PictureValue {
  /** The id of a picture of the library, or null for none. */
  readonly picture: string | null;
  /** What it says; where this is empty, what the block says of its picture. */
  readonly alt: Line;
}
export interface SenderValue {
  readonly name: Line;
  readonly address: Line;
}
export type DerivedValue = TextValue | PictureValue | SenderValue | Formula;

export interface DerivedTag {
  readonly id: string;
  readonly name: string;
  readonly kind: DerivedKind;
  readonly cases: readonly { readonly rule: Rule; readonly value: DerivedValue }[];
  /** For everybody else, and where what was chosen is empty. */
  readonly otherwise: DerivedValue;
}

const textValue = z.strictObject({ words: lineSchema });
const hasConditions = (text: TextJson): boolean =>
  (text.marks ?? []).some(({ type }) => type === "who") || (text.content ?? []).some(hasConditions);
const richValue = z.strictObject({
  words: phraseSchema
    .refine((words) => !hasConditions(words), "Who sees it is said by the cases.")
    .refine(
      (words) => JSON.stringify(words).length <= LIMITS.richLength,
      "This is too long for a tag.",
    ),
});
const pictureValue = z.strictObject({
  picture: z.string().regex(PICTURE_ID).nullable(),
  alt: lineSchema,
});
const linkValue = textValue.superRefine(({ words }, ctx) => {
  const problem = isBlank(words) ? "Write where it leads." : webAddressProblem(words);
  if (problem) ctx.addIssue({ code: "custom", message: problem, path: ["words"] });
});
const senderValue = z.strictObject({
  name: lineSchema,
  address: lineSchema.refine(
    (line) => tagsOf(line).length > 0 || MAIL_ADDRESS.test(plainLine(line, () => "")),
    "This is not a mail address.",
  ),
});
/** The last resort of a sender must do without the reader. */
const lastSender = senderValue.refine(
  ({ address }) => tagsOf(address).length === 0,
  "The last address must be a fixed one.",
);

const shape = <V extends z.ZodType, L extends z.ZodType>(kind: DerivedKind, value: V, last: L) =>
  z.strictObject({
    kind: z.literal(kind),
    name: z.string().trim().min(1, "Give it a name.").max(LIMITS.nameLength),
    cases: z
      .array(z.strictObject({ rule: ruleSchema, value }))
      .max(LIMITS.derivedCases, `At most ${LIMITS.derivedCases} cases.`),
    otherwise: last,
  });
export const derivedSchema: z.ZodType<Omit<DerivedTag, "id">> = z.discriminatedUnion("kind", [
  shape("text", textValue, textValue),
  shape("rich", richValue, richValue),
  shape("picture", pictureValue, pictureValue),
  shape("link", linkValue, linkValue),
  shape("sender", senderValue, lastSender),
  shape("number", numberFormulaSchema, numberFormulaSchema),
  shape("date", dateFormulaSchema, dateFormulaSchema),
]) as never;

const linesOf = (value: DerivedValue): TextJson[] => {
  if ("words" in value) return [value.words];
  if ("picture" in value) return [value.alt];
  return "address" in value ? [value.name, value.address] : [];
};

const valuesOf = ({ cases, otherwise }: DerivedTag): DerivedValue[] => [
  ...cases.map(({ value }) => value),
  otherwise,
];

/** The refs a text reads: its tags, and the derived tags that its links lead by. */
function refsOfText(text: TextJson): string[] {
  const refs: string[] = [];
  textMentions(text, "html", null, (mention) => {
    if (mention.what === "tag") refs.push(mention.tag.ref);
    if (mention.what === "link" && mention.to.kind === "derived")
      refs.push(`derived:${mention.to.tag}`);
  });
  return refs;
}

/** The refs a derived tag reads: of fields, and of other derived tags, as links too. */
export const derivedRefs = (tag: DerivedTag): string[] => [
  ...new Set(
    valuesOf(tag).flatMap((value) =>
      "op" in value ? formulaRefs(value) : linesOf(value).flatMap(refsOfText),
    ),
  ),
];

/** The id of the derived tag a ref names, or null where it is another one. */
export const derivedIdOf = (ref: string): string | null =>
  ref.startsWith("derived:") ? ref.slice("derived:".length).split(".")[0]! : null;

export type DerivedTags = ReadonlyMap<string, DerivedTag>;

/** The derived tags that some refs lead to, by way of others too; each once, the nearest first. */
export function derivedBehind(refs: Iterable<string>, tags: DerivedTags): DerivedTag[] {
  const found = new Map<string, DerivedTag>();
  const visit = (ref: string) => {
    const id = derivedIdOf(ref);
    const tag = id === null ? undefined : tags.get(id);
    if (!tag || found.has(tag.id)) return;
    found.set(tag.id, tag);
    for (const inner of derivedRefs(tag)) visit(inner);
  };
  for (const ref of refs) visit(ref);
  return [...found.values()];
}

/** Whether a derived tag would be led to by itself. */
export const isDerivedCircle = (tag: DerivedTag, tags: DerivedTags): boolean =>
  derivedBehind(derivedRefs(tag), new Map(tags).set(tag.id, tag)).some(({ id }) => id === tag.id);

/** The rules its cases depend on, as their canonical text. */
export const derivedConditions = ({ cases }: DerivedTag): string[] =>
  cases.map(({ rule }) => ruleKey(rule));

const isEmpty = (value: DerivedValue): boolean =>
  "picture" in value ? value.picture === null : "words" in value && isBlank(value.words);

/**
 * The values of a derived tag, each with when it is the one, for those that are more than a word: they stand
 * in an email one beside another, and each reader gets theirs. An empty one is as the last resort.
 */
export function alternativesOf<V extends DerivedValue>(
  tag: DerivedTag,
): { readonly when: When; readonly value: V }[] {
  const keys = derivedConditions(tag);
  return valuesOf(tag).map((value, i) => ({
    when: { all: keys.slice(i, i + 1), none: keys.slice(0, i) },
    value: (isEmpty(value) ? tag.otherwise : value) as V,
  }));
}
