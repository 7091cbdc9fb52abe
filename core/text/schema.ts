/**
 * The one text type of Septima, as a ProseMirror schema. Three kinds of text share it:
 * - `line`: words and tags only (subject, label, address, alt text);
 * - `phrase`: one paragraph with marks (a heading);
 * - `doc`: paragraphs and lists.
 */
import { Node as ProseNode, Schema } from "prosemirror-model";
import { z } from "zod";
import type { Json } from "../json.ts";
import { LIMITS } from "../limits.ts";
import { ruleSchema } from "../rules/index.ts";
import { linkOf } from "./link.ts";
import { type Tag, tagSchema } from "./tag.ts";

export type TextKind = "line" | "phrase" | "doc";

/** A text as JSON, in the spelling of prosemirror-model. */
export interface TextJson {
  readonly type: string;
  readonly text?: string;
  readonly attrs?: { readonly [name: string]: Json };
  readonly marks?: readonly {
    readonly type: string;
    readonly attrs?: { readonly [name: string]: Json };
  }[];
  readonly content?: readonly TextJson[];
}
export type Line = TextJson;

const tagAttrs = (value: unknown, name: "ref" | "fallback" | "format") => {
  const result = tagSchema.shape[name].safeParse(value);
  if (!result.success) throw new RangeError(`This merge tag's ${name} is not valid`);
};

/** How a colour is spelled inside a text: six-digit hex, or the name of a role of the theme. */
const COLOUR = /^(#[0-9a-f]{6}|[a-z][A-Za-z]{1,20})$/;
const checkColour = (value: unknown) => {
  if (typeof value !== "string" || !COLOUR.test(value)) throw new RangeError("Not a colour");
};

const checkRule = (value: unknown) => {
  if (value !== null && !ruleSchema.safeParse(value).success) throw new RangeError("Not a rule");
};

/** Fixed colours show in the editor by themselves; those of roles come from the sheet they are on. */
const hexStyle = (property: string, colour: string): string | null =>
  colour.startsWith("#") ? `${property}:${colour}` : null;

/** Links hold lines and texts hold links: both are of this file, so that no text is ever read without the check. */
const checkLink = (value: unknown) => {
  const result = linkSchema.safeParse(value);
  if (!result.success) throw new RangeError(result.error.issues[0]?.message ?? "Not a link");
};

export const textSchema = new Schema({
  nodes: {
    doc: { content: "(paragraph | bullet_list | ordered_list | indented)+" },
    phrase: { content: "inline*" },
    line: { content: "(text | tag)*", marks: "who" },
    paragraph: { content: "inline*", toDOM: () => ["p", 0], parseDOM: [{ tag: "p" }] },
    bullet_list: { content: "list_item+", toDOM: () => ["ul", 0], parseDOM: [{ tag: "ul" }] },
    ordered_list: { content: "list_item+", toDOM: () => ["ol", 0], parseDOM: [{ tag: "ol" }] },
    /** Paragraphs and lists set in from the side, once for each time they are wrapped. */
    indented: {
      content: "(paragraph | bullet_list | ordered_list | indented)+",
      toDOM: () => ["div", { class: "indented" }, 0],
      parseDOM: [{ tag: "div.indented" }, { tag: "blockquote" }],
    },
    list_item: {
      content: "paragraph (paragraph | bullet_list | ordered_list)*",
      toDOM: () => ["li", 0],
      parseDOM: [{ tag: "li" }],
      defining: true,
    },
    hard_break: {
      inline: true,
      group: "inline",
      selectable: false,
      toDOM: () => ["br"],
      parseDOM: [{ tag: "br" }],
    },
    tag: {
      inline: true,
      group: "inline",
      atom: true,
      attrs: {
        ref: { validate: (v: unknown) => tagAttrs(v, "ref") },
        fallback: { default: null, validate: (v: unknown) => tagAttrs(v, "fallback") },
        format: { default: null, validate: (v: unknown) => tagAttrs(v, "format") },
      },
    },
    text: { group: "inline" },
  },
  marks: {
    /** Words that only some readers see; with a chain, one of several alternatives. */
    who: {
      attrs: {
        seenBy: { validate: checkRule },
        chain: { default: null, validate: "string|null" },
      },
      // What is written over such words, or on at their end, is for the same readers.
      toDOM: () => ["span", { "data-who": "" }, 0],
    },
    link: {
      attrs: { to: { validate: (v: unknown) => checkLink(v) } },
      inclusive: false,
      toDOM: () => ["a", { href: "#" }, 0],
    },
    strong: {
      toDOM: () => ["strong", 0],
      parseDOM: [{ tag: "strong" }, { tag: "b" }],
    },
    em: { toDOM: () => ["em", 0], parseDOM: [{ tag: "em" }, { tag: "i" }] },
    underline: { toDOM: () => ["u", 0], parseDOM: [{ tag: "u" }] },
    strike: { toDOM: () => ["s", 0], parseDOM: [{ tag: "s" }, { tag: "del" }, { tag: "strike" }] },
    superscript: {
      excludes: "superscript subscript",
      toDOM: () => ["sup", 0],
      parseDOM: [{ tag: "sup" }],
    },
    subscript: {
      excludes: "superscript subscript",
      toDOM: () => ["sub", 0],
      parseDOM: [{ tag: "sub" }],
    },
    /** Colour of the words, and of the ground behind them. */
    colour: {
      attrs: { to: { validate: checkColour } },
      toDOM: ({ attrs: { to } }) => [
        "span",
        { "data-colour": to, style: hexStyle("color", to) },
        0,
      ],
    },
    ground: {
      attrs: { to: { validate: checkColour } },
      toDOM: ({ attrs: { to } }) => [
        "span",
        { "data-ground": to, style: hexStyle("background-color", to) },
        0,
      ],
    },
  },
});

/**
 * Reads a text of the given kind from JSON and gives it back in its normal spelling.
 * Throws a RangeError when it is not such a text.
 */
export function parseText(json: unknown, kind: TextKind): ProseNode {
  const node = ProseNode.fromJSON(textSchema, json);
  if (node.type.name !== kind) throw new RangeError(`Expected a ${kind}, got a ${node.type.name}`);
  node.check();
  return node;
}

/** A Zod schema that accepts and normalises a text of one kind. */
export function textOf(kind: TextKind) {
  return z.unknown().transform((value, ctx): TextJson => {
    try {
      const node = parseText(value, kind);
      if (kind === "line" && node.textContent.length > LIMITS.lineLength) {
        ctx.addIssue({ code: "custom", message: "This is too long." });
      }
      return node.toJSON() as TextJson;
    } catch (error) {
      ctx.addIssue({ code: "custom", message: (error as Error).message });
      return z.NEVER;
    }
  });
}
export const lineSchema = textOf("line");
export const phraseSchema = textOf("phrase");
export const docSchema = textOf("doc");
export const linkSchema = linkOf(lineSchema);

type Piece = string | Tag;
const pieces = (parts: readonly Piece[]): TextJson[] =>
  parts
    .filter((part) => part !== "")
    .map((part) =>
      typeof part === "string"
        ? { type: "text", text: part }
        : { type: "tag", attrs: { ref: part.ref, fallback: part.fallback, format: part.format } },
    );
const holding = (type: string, content: readonly TextJson[]): TextJson =>
  content.length ? { type, content } : { type };

/** A line of words and tags. */
export const line = (...parts: Piece[]): Line => holding("line", pieces(parts));
/** A heading's text. */
export const phrase = (...parts: Piece[]): TextJson => holding("phrase", pieces(parts));
/** A paragraph, for `doc`. */
export const paragraph = (...parts: Piece[]): TextJson => holding("paragraph", pieces(parts));
/** A text of paragraphs; strings become paragraphs. */
export const doc = (...blocks: (string | TextJson)[]): TextJson => ({
  type: "doc",
  content: (blocks.length ? blocks : [""]).map((b) => (typeof b === "string" ? paragraph(b) : b)),
});
/** A tag with its fallback and format. */
export const tag = (
  ref: string,
  fallback: string | null = null,
  format: Tag["format"] = null,
): Tag => ({ ref, fallback, format });

/** Every tag of a text, in reading order (tags inside link addresses included). */
export function tagsOf(text: TextJson): Tag[] {
  const found: Tag[] = [];
  const visit = (node: TextJson) => {
    if (node.type === "tag") found.push(node.attrs as unknown as Tag);
    for (const mark of node.marks ?? []) {
      const to = mark.attrs?.to as { address?: TextJson } | undefined;
      if (to?.address && typeof to.address === "object") visit(to.address);
    }
    node.content?.forEach(visit);
  };
  visit(text);
  return found;
}

/** True when the text has neither words nor tags. */
export function isBlank(text: TextJson): boolean {
  if (text.type === "tag") return false;
  if (text.text?.trim()) return false;
  return (text.content ?? []).every(isBlank);
}
