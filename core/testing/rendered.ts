/** What tests of blocks and rendering share: surroundings, and documents as a reader gets them. */
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import type { Picture, Surroundings } from "../kinds/kind.ts";
import { mergeText, type PrepareOptions, prepare, type Reader, unsigned } from "../merge/index.ts";
import { compile } from "../render/index.ts";

export const PICTURE = "a".repeat(64);
export const picture = (id: string, more: Partial<Picture> = {}): Picture => ({
  id,
  file: `${id}.png`,
  width: 800,
  height: 400,
  name: "x",
  alpha: false,
  ...more,
});
export const SURROUNDINGS: Surroundings = {
  brand: { name: "Larkmoor", postalAddress: "Brook Lane 7\nLarkmoor" },
  publicAddress: "https://mail.example.org",
  pictures: new Map([[PICTURE, picture(PICTURE)]]),
};

export const DIRECT: PrepareOptions = { links: "direct", marks: false, sign: unsigned };
const NOBODY: Reader = { values: {}, token: "t" };

/** Both versions of a document as a reader gets them. */
export function rendered(
  document: EmailDocument,
  options: Partial<PrepareOptions> & { reader?: Reader; pictures?: Surroundings["pictures"] } = {},
): { html: string; text: string } {
  const { reader = NOBODY, pictures, ...rest } = options;
  const around = pictures ? { ...SURROUNDINGS, pictures } : SURROUNDINGS;
  const prepared = prepare(compile(document, around), { ...DIRECT, ...rest });
  return { html: mergeText(prepared.html, reader), text: mergeText(prepared.text, reader) };
}

/** Ids r1, r2 … */
export function ids(prefix = "r"): () => string {
  let n = 0;
  return () => `${prefix}${++n}`;
}

/** An email of one column with these blocks. */
export const emailOf = (blocks: readonly DocNode[], props: object = {}): EmailDocument => {
  const id = ids("e");
  return createDocument([createBand(id, [createColumn(id, blocks)])], props);
};

/** A block alone in an email, as a reader gets it; the text without the blank lines around it. */
export function blockAlone(
  type: string,
  props: object = {},
  options: Parameters<typeof rendered>[1] & { children?: DocNode[]; email?: object } = {},
): { html: string; text: string } {
  const { children, email, ...rest } = options;
  const { html, text } = rendered(
    emailOf([createBlock(type, ids(), props, children)], email),
    rest,
  );
  return { html, text: text.trim() };
}

/** An email from its body on: the rules in its head are those for all its readers. */
export const bodyOf = (html: string): string => html.slice(html.indexOf("<body"));
