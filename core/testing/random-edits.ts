/** Random edits of every kind that fit a document, with letters that stand nowhere else. */
import { createBand, createBlock, createColumn } from "../blocks/index.ts";
import {
  apply,
  type DocNode,
  type Edit,
  type EmailDocument,
  isBlock,
  type SimpleEdit,
  walk,
} from "../document/index.ts";
import type { Json } from "../json.ts";
import type { Chance } from "../random.ts";
import type { Rule } from "../rules/index.ts";
import { doc, paragraph, parseText, type TextJson, type TextKind } from "../text/index.ts";

/** Letters of one session: each stands for one stroke of a key. */
export interface Letters {
  next(): string;
}
const FIRST = 0x4e00;
export function lettersFrom(): Letters {
  let n = 0;
  return { next: () => String.fromCharCode(FIRST + n++) };
}
/** The letters that stand in a value. */
export const lettersOf = (value: unknown): Set<string> =>
  new Set(JSON.stringify(value).match(/[\u4e00-\u9fff]/g) ?? []);

const RULE: Rule = { type: "field", field: "city", op: "hasValue", argument: null };

interface Place {
  readonly node: string;
  readonly path: string[];
  readonly text: TextJson;
}

/** Every text of a document, those of translations too. */
function textsIn(document: EmailDocument): Place[] {
  const found: Place[] = [];
  const visit = (node: DocNode, value: Json, path: string[]) => {
    if (typeof value !== "object" || value === null || Array.isArray(value)) return;
    const object = value as { readonly [name: string]: Json };
    if (object.type === "doc" || object.type === "phrase" || object.type === "line") {
      found.push({ node: node.id, path, text: object as unknown as TextJson });
    } else if (path.length < 5) {
      for (const [name, inner] of Object.entries(object)) visit(node, inner, [...path, name]);
    }
  };
  for (const node of walk(document.root)) {
    if (isBlock(node.type) || node.type === "email") visit(node, node.props, []);
  }
  return found;
}

/** Writing, deleting or writing over, anywhere in a text. */
function textEdit(document: EmailDocument, chance: Chance, letters: Letters): SimpleEdit | null {
  const texts = textsIn(document);
  if (texts.length === 0) return null;
  const { node, path, text } = chance.pick(texts);
  const spots: number[] = [];
  const root = parseText(text, text.type as TextKind);
  if (root.inlineContent) for (let at = 0; at <= root.content.size; at++) spots.push(at);
  root.descendants((inner, pos) => {
    if (!inner.isTextblock) return;
    for (let at = 0; at <= inner.content.size; at++) spots.push(pos + 1 + at);
  });
  const from = chance.pick(spots);
  const block = root.resolve(from);
  const to = chance.is(0.65) ? from : Math.min(block.end(), from + 1 + chance.below(4));
  const words = to > from && chance.is(0.5) ? "" : letters.next() + (chance.is(0.5) ? "x" : "");
  if (words === "" && to === from) return null;
  if (to > from && words === "" && chance.is(0.2) && root.type.name === "doc") {
    const mark = { stepType: "addMark", mark: { type: "strong" }, from, to };
    return { type: "text", node, path, steps: [mark as never] };
  }
  const step = {
    stepType: "replace",
    from,
    to,
    ...(words && { slice: { content: [{ type: "text", text: words }] } }),
  };
  return { type: "text", node, path, steps: [step as never] };
}

/** One edit that fits, or null where the chosen kind has nothing to work on. */
function simple(
  document: EmailDocument,
  chance: Chance,
  letters: Letters,
  newId: () => string,
): SimpleEdit | null {
  const nodes = [...walk(document.root)];
  const ofType = (type: string) => nodes.filter((node) => node.type === type);
  const blocks = nodes.filter((node) => isBlock(node.type));
  const columns = ofType("column");
  const after = (parent: DocNode, not?: string) =>
    chance.pick([null, ...parent.children.map(({ id }) => id).filter((id) => id !== not)]);
  const kind = chance.below(20);
  if (kind < 9) return textEdit(document, chance, letters);
  if (kind < 11 && columns.length > 0) {
    const parent = chance.pick(columns);
    const node = createBlock("text", newId, { words: doc(letters.next()) });
    return { type: "insert", parent: parent.id, after: after(parent), node };
  }
  if (kind === 11) {
    const node = createBand(newId, [createColumn(newId, [createBlock("heading", newId)])]);
    return { type: "insert", parent: document.root.id, after: after(document.root), node };
  }
  if (kind === 12 && blocks.length > 1) {
    const out = chance.is(0.15) ? chance.pick(ofType("band")) : chance.pick(blocks);
    return { type: "remove", node: out.id };
  }
  if (kind < 15 && blocks.length > 0 && columns.length > 0) {
    const node = chance.pick(blocks);
    const parent = chance.pick(columns);
    return { type: "move", node: node.id, parent: parent.id, after: after(parent, node.id) };
  }
  const texts = blocks.filter(({ type }) => type === "text");
  if (kind === 15 && texts.length > 0) {
    const node = chance.pick(texts).id;
    return { type: "set", node, path: ["words"], value: doc(letters.next()) as never };
  }
  if (kind === 16 && texts.length > 0) {
    const node = chance.pick(texts).id;
    const value = { of: "x", value: doc(letters.next()) } as never;
    const path = ["tr", chance.pick(["fr", "de"]), chance.pick(["words", "other"])];
    return { type: "set", node, path, value, make: true };
  }
  if (blocks.length === 0) return null;
  const node = chance.pick(blocks).id;
  const number = () => chance.below(40);
  if (kind === 17) {
    const others = { alternatives: [{ seenBy: RULE as never, source: letters.next() }] };
    const value = { source: letters.next(), of: "x", ...(chance.is(0.3) && others) };
    return { type: "set", node, path: ["plain"], value: chance.is(0.7) ? value : null };
  }
  if (kind === 18) {
    const value = chance.is(0.5) ? (RULE as never) : null;
    return { type: "set", node, path: ["seenBy"], value };
  }
  if (chance.is(0.5)) {
    return { type: "set", node, path: ["box", "padding", "top"], value: number() };
  }
  const value = { top: number(), right: number(), bottom: number(), left: number() };
  return { type: "set", node, path: ["box", "padding"], value };
}

/** A random edit that fits: one change, or a group of several made one after another. */
export function randomEdit(
  document: EmailDocument,
  chance: Chance,
  letters: Letters,
  newId: () => string,
  earlier: readonly EmailDocument[] = [],
): Edit | null {
  if (earlier.length > 0 && chance.is(0.02)) {
    return { type: "restore", root: chance.pick(earlier).root };
  }
  const count = chance.is(0.2) ? 2 + chance.below(3) : 1;
  const edits: SimpleEdit[] = [];
  let state = document;
  for (let i = 0; i < count; i++) {
    const edit = simple(state, chance, letters, newId);
    if (!edit) continue;
    try {
      state = apply(state, edit);
      edits.push(edit);
    } catch {
      // A mark over a tag, a sixth column: the next one fits.
    }
  }
  if (edits.length === 0) return null;
  return edits.length === 1 && chance.is(0.9) ? edits[0]! : { type: "group", edits };
}

/** A small email to begin with: three bands, with texts of several paragraphs, a translation and a condition. */
export function startDocument(newId: () => string): DocNode[] {
  const text = (...words: string[]) =>
    createBlock("text", newId, {
      words: doc(...words.map((one) => paragraph(one))),
      tr: { fr: { words: { of: "x", value: doc("bonjour") } } },
    } as never);
  return [
    createBand(newId, [
      createColumn(newId, [createBlock("heading", newId), text("one two", "three")]),
      createColumn(newId, [text("four five six")]),
    ]),
    createBand(newId, [createColumn(newId, [text("seven"), createBlock("button", newId)])]),
    createBand(newId, [createColumn(newId, [createBlock("spacer", newId)])]),
  ];
}
