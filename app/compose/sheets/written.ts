/** The email as a sheet holds it: compiled, merged for the reader, and with the looks of a sheet. */
import { shallow } from "zustand/shallow";
import { isWhole } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { mergeText, prepareBody, type Reader, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";

export interface SheetContent {
  readonly doc: EmailDocument;
  /** The language it is shown in. */
  readonly lang: string;
  readonly surroundings: Surroundings;
  readonly reader: Reader;
  /** All that only some readers see. */
  readonly everything: boolean;
}

export const contentOf = ({
  doc,
  lang,
  surroundings,
  reader,
  everything,
}: SheetContent): SheetContent => ({ doc, lang, surroundings, reader, everything });

export const OPTIONS = { links: "direct", marks: true, sign: unsigned } as const;

/** Looks of the sheet that are not the email's: tags as marked words, the cursor, pictures off, empty columns. Every band is laid out and painted by itself, so that a letter costs no more in a long email than in a short one. */
const SHEET_STYLE = `
[data-tag]{background:#f3e6ec;border-bottom:2px solid #6a2747;border-radius:3px;padding:0 2px}
@media (prefers-color-scheme:dark){[data-tag]{background:#4a2338;border-bottom-color:#d99ab8}}
[role=article]>table{isolation:isolate;contain:layout}
html{overflow:hidden;cursor:default}
a{cursor:default}
[data-text]:focus{outline:none}
.writing{outline:2px solid #6a2747!important;outline-offset:4px;cursor:text;white-space:pre-wrap;overflow-wrap:break-word}
.writing .ProseMirror-selectednode{outline:2px solid #6a2747}
[data-who]{background:#fbeccd;border-bottom:2px solid #c98a1b;border-radius:2px}
@media (prefers-color-scheme:dark){[data-who]{background:#4d3a12;border-bottom-color:#e5b04f}}
.pictures-off img{visibility:hidden}
.em{height:52px!important;outline:1px dashed #6a2747;outline-offset:-6px}
`;

interface Written {
  readonly content: SheetContent;
  /** The whole page. */
  readonly html: string;
}

/** What was written last, by its document: the sheets differ in their width alone. */
const written = new WeakMap<EmailDocument, Written>();

export function writtenOf(content: SheetContent): Written {
  const { doc, surroundings, lang, reader, everything } = content;
  const last = written.get(doc);
  if (last && shallow(last.content, content)) return last;
  const compiled = compile(doc, surroundings, lang);
  const email = mergeText(prepareBody(compiled.html, compiled, { ...OPTIONS, everything }), reader);
  const html = email.replace("</head>", () => `<style>${SHEET_STYLE}</style></head>`);
  const made = { content, html };
  if (isWhole(doc.root)) written.set(doc, made);
  return made;
}

/** Marks a sheet's page that came with the email in it. */
const SERVED = "data-served";

/** The page for a frame that gets the email from the server: nothing can be done in it until the application takes it over. */
export const servedPage = (content: SheetContent): string =>
  writtenOf(content)
    .html.replace(/^[\s\S]*?<html/i, `<!doctype html><html ${SERVED}`)
    .replace("<body", "<body inert");

/** Whether the page of a frame came with the email in it. */
export const isServed = (page: Document): boolean => page.documentElement.hasAttribute(SERVED);
