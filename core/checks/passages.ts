/** All the words of an email as its readers read them: text by text, in each of its languages. */
import { textsOf } from "../blocks/index.ts";
import type { EmailProps } from "../blocks/layout.ts";
import { isPartShown } from "../blocks/parts.ts";
import { type DocNode, type EmailDocument, type SimpleEdit, valueAt } from "../document/index.ts";
import { inLanguage, translationKey } from "../languages/index.ts";
import { shownNodes } from "../mentions/index.ts";
import { type Letters, lettersIn, replaceFound, type TextJson } from "../text/index.ts";
import { placeOf } from "./check.ts";

export interface Passage {
  readonly node: DocNode;
  /** Where its text stands, as it is edited. */
  readonly path: readonly string[];
  readonly text: TextJson;
  readonly lang: string;
  readonly role: "subject" | "preview" | "heading" | "alt" | "words";
  /** Its paragraphs; a letter for each position, `ATOM` for tags and line breaks. */
  readonly paragraphs: readonly Letters[];
}

const letters = new WeakMap<TextJson, readonly Letters[]>();
function paragraphsOf(text: TextJson): readonly Letters[] {
  const found = letters.get(text) ?? lettersIn(text);
  letters.set(text, found);
  return found;
}

function roleOf(node: DocNode, path: readonly string[]): Passage["role"] {
  const last = path.at(-1)!;
  if (node.type === "email") {
    if (last === "subject") return "subject";
    if (last === "preview") return "preview";
  }
  if (last === "alt") return "alt";
  return node.type === "heading" && last === "words" ? "heading" : "words";
}

const known = new WeakMap<EmailDocument, readonly Passage[]>();

/** All passages of an email where it is shown, top to bottom; translations after what they translate. */
export function passagesOf(doc: EmailDocument): readonly Passage[] {
  const before = known.get(doc);
  if (before) return before;
  const { lang: main, others } = doc.root.props as unknown as EmailProps;
  const found: Passage[] = [];
  const mains = new Map<string, TextJson>();
  for (const lang of [main, ...others]) {
    for (const { node, holder } of shownNodes(inLanguage(doc, lang))) {
      for (const { path } of textsOf(node.type)) {
        const text = valueAt(node.props, path) as unknown as TextJson | undefined;
        if (!text?.type || !isPartShown(node, path, holder)) continue;
        const key = `${node.id} ${path.join(".")}`;
        // What is not translated is the same text.
        if (lang === main) mains.set(key, text);
        else if (mains.get(key) === text) continue;
        const own = lang === main ? path : ["tr", lang, translationKey(path), "value"];
        const paragraphs = paragraphsOf(text);
        found.push({ node, path: own, text, lang, role: roleOf(node, path), paragraphs });
      }
    }
  }
  known.set(doc, found);
  return found;
}

/** Where a finding about a passage leads. */
export const inPassage = ({ node, path }: Passage) => ({ at: placeOf(node), in: path });

/** The edit that puts other words in a place of a passage. */
export const rewording = (
  passage: Passage,
  { start }: Letters,
  [from, to]: readonly [from: number, to: number],
  words: string,
): SimpleEdit => ({
  type: "text",
  node: passage.node.id,
  path: [...passage.path],
  steps: replaceFound(passage.text, [{ from: start + from, to: start + to }], words),
});

/** Of each paragraph what fits a pattern (with the flag g), with where. */
export function* matchesIn(
  passages: readonly Passage[],
  pattern: RegExp,
): Generator<{ passage: Passage; paragraph: Letters; match: RegExpMatchArray; at: number }> {
  for (const passage of passages) {
    for (const paragraph of passage.paragraphs) {
      for (const match of paragraph.letters.matchAll(pattern)) {
        yield { passage, paragraph, match, at: match.index };
      }
    }
  }
}

/** What is read in the body, without the envelope and without alt texts. */
export const bodyOf = (passages: readonly Passage[]): Passage[] =>
  passages.filter(({ node, role }) => node.type !== "email" && role !== "alt");

const lines = new WeakMap<Passage, string>();
/** The words of a passage in one line; tags are “…”. */
export function said(passage: Passage): string {
  let line = lines.get(passage);
  if (line === undefined) {
    line = passage.paragraphs.map(({ letters: own }) => own.replaceAll("\ufffc", " … ")).join(" ");
    lines.set(passage, line);
  }
  return line;
}
