/** Conditions put into random documents, and what is left of a document where they are applied by hand. */
import fc from "fast-check";
import { type DocNode, type EmailDocument, isBlock } from "../document/index.ts";
import { type Json, sameJson } from "../json.ts";
import type { HandText } from "../kinds/hand-text.ts";
import type { Rule } from "../rules/index.ts";
import { ruleKey, type Seen, type TextJson } from "../text/index.ts";

const list = (id: string): Rule => ({ type: "list", list: id, is: true });
export const RULES: readonly Rule[] = [list("one"), list("two"), list("three"), list("four")];

/** Which of the rules hold for somebody. */
export const holdsArbitrary = fc
  .tuple(...RULES.map(() => fc.boolean()))
  .map((flags) => new Map(RULES.map((rule, i) => [ruleKey(rule), flags[i]!])));

/** A reader's bits for an email's conditions. */
export const bitsOf = (
  conditions: readonly string[],
  holds: ReadonlyMap<string, boolean>,
): string =>
  conditions
    // What is no rule of the list is “everybody”.
    .map((key) => ((holds.get(key) ?? true) ? "1" : "0"))
    .join("");

/** How a part is seen: mostly by all, sometimes by some, sometimes as one of several alternatives. */
const seenArbitrary = (rules: fc.Arbitrary<Rule>): fc.Arbitrary<Seen> =>
  fc.record({
    seenBy: fc.oneof({ weight: 2, arbitrary: fc.constant(null) }, { weight: 3, arbitrary: rules }),
    chain: fc.constantFrom(null, null, "a", "b"),
  });

const mapTexts = (value: Json, change: (text: TextJson) => TextJson): Json => {
  if (Array.isArray(value)) return value.map((inner) => mapTexts(inner, change));
  if (typeof value !== "object" || value === null) return value;
  // Where a link leads is the same for everybody.
  if ("kind" in value) return value;
  const { type } = value as unknown as TextJson;
  const inner = Object.fromEntries(
    Object.entries(value).map(([key, one]) => [
      key,
      key === "marks" ? one : mapTexts(one!, change),
    ]),
  ) as Json;
  const holdsWords = ["paragraph", "phrase", "line"].includes(type);
  return holdsWords ? (change(inner as unknown as TextJson) as unknown as Json) : inner;
};

const mayBeSeen = (node: DocNode) => node.type === "band" || isBlock(node.type);

/** The document with conditions on some of its bands, blocks and words. */
export const conditionalArbitrary = (
  document: EmailDocument,
  rules: fc.Arbitrary<Rule> = fc.constantFrom(...RULES),
): fc.Arbitrary<EmailDocument> =>
  fc.infiniteStream(seenArbitrary(rules)).map((stream) => {
    const next = () => stream.next().value!;
    const words = (text: TextJson): TextJson => ({
      ...text,
      ...(text.content && {
        content: [
          // A part without any words is left out when compiling, which merging cannot know.
          { type: "text", text: "·" },
          ...text.content.map((part) => {
            const seen = next();
            const marked = seen.seenBy !== null && part.type !== "hard_break";
            const who = { type: "who", attrs: seen as never };
            return marked ? { ...part, marks: [who, ...(part.marks ?? [])] } : part;
          }),
        ],
      }),
    });
    // What leads somewhere, or is drawn, takes no conditions.
    const free = ({ type }: DocNode) => !/^(qrCode|shareRow|social)/.test(type);
    const plain = (): HandText | null => {
      const rules = [next(), next()].flatMap(({ seenBy }) => seenBy ?? []);
      const own = (seenBy: Rule, i: number) => ({ seenBy, source: `· own words, ${i}` });
      return next().chain === "b"
        ? { source: "· by hand", of: "", alternatives: rules.map(own) }
        : null;
    };
    const visit = (node: DocNode): DocNode => ({
      ...node,
      props: {
        ...(free(node) ? (mapTexts(node.props, words) as DocNode["props"]) : node.props),
        ...(isBlock(node.type) && { plain: plain() as unknown as Json }),
        ...(mayBeSeen(node) && (next() as object)),
      },
      children: node.children.map(visit),
    });
    return { ...document, root: visit(document.root) };
  });

/** Of neighbours, those that somebody sees: the first of each chain, and those whose rule holds. */
function shownOf<T>(
  parts: readonly T[],
  seenOf: (part: T) => Seen | null,
  holds: ReadonlyMap<string, boolean>,
): T[] {
  const taken = new Set<string>();
  return parts.filter((part) => {
    const seen = seenOf(part);
    if (!seen) return true;
    const own = seen.seenBy === null || holds.get(ruleKey(seen.seenBy)) === true;
    const shown = own && !(seen.chain !== null && taken.has(seen.chain));
    if (own && seen.chain !== null) taken.add(seen.chain);
    return shown;
  });
}

/** The document that is left for somebody: without what they do not see, and without conditions. */
export function leftFor(
  document: EmailDocument,
  holds: ReadonlyMap<string, boolean>,
): EmailDocument {
  const whoOf = (part: TextJson) => part.marks?.find(({ type }) => type === "who") ?? null;
  const words = (text: TextJson): TextJson => {
    // Neighbours under one condition are one part.
    const groups: TextJson[][] = [];
    for (const part of text.content ?? []) {
      const before = groups.at(-1);
      if (before && sameJson(whoOf(before[0]!), whoOf(part))) before.push(part);
      else groups.push([part]);
    }
    const shown = shownOf(groups, ([first]) => whoOf(first!)?.attrs as unknown as Seen, holds);
    const content = shown.flat().map(({ marks, ...part }) => {
      const others = marks?.filter(({ type }) => type !== "who") ?? [];
      return others.length ? { ...part, marks: others } : part;
    });
    return { ...text, content };
  };
  const plain = (hand: HandText | null): Json => {
    if (!hand) return null;
    const own = hand.alternatives?.find(({ seenBy }) => holds.get(ruleKey(seenBy)));
    return { source: own?.source ?? hand.source, of: hand.of };
  };
  const visit = (node: DocNode): DocNode => ({
    ...node,
    props: {
      ...(mapTexts(node.props, words) as DocNode["props"]),
      ...(isBlock(node.type) && { plain: plain(node.props.plain as unknown as HandText | null) }),
      ...(mayBeSeen(node) && { seenBy: null, chain: null }),
    },
    children: shownOf(
      node.children,
      (child) => (mayBeSeen(child) ? (child.props as unknown as Seen) : null),
      holds,
    ).map(visit),
  });
  return { ...document, root: visit(document.root) };
}
