/** What of a foreign email is found again in ours: its words, where its links lead, its images. */
import { type DocNode, type EmailDocument, isBlock, walk } from "../../document/index.ts";
import type { Json } from "../../json.ts";
import { mentionsIn } from "../../mentions/index.ts";
import { linkFrom, type TextJson } from "../../text/index.ts";
import { imageIs, isButton, isBlock as standsAlone } from "./leaves.ts";
import { isHidden } from "./look.ts";
import { type El, isEl, letters, some } from "./tree.ts";

export interface Kept {
  readonly words: readonly [kept: number, of: number];
  readonly links: readonly [kept: number, of: number];
  readonly images: readonly [kept: number, of: number];
}

const WORD = /[\p{L}\p{N}]+/gu;
const wordsIn = (text: string): string[] => text.normalize("NFC").match(WORD) ?? [];

/** How many of some things are among others, each as often as it is there. */
function shared(wanted: readonly string[], there: readonly string[]): readonly [number, number] {
  const left = new Map<string, number>();
  for (const one of there) left.set(one, (left.get(one) ?? 0) + 1);
  let kept = 0;
  for (const one of wanted) {
    const n = left.get(one) ?? 0;
    if (n > 0) kept++;
    left.set(one, n - 1);
  }
  return [kept, wanted.length];
}

/** Words end at these too. */
const ENDS = new Set(["br", "img", "option", "select", "button", "input"]);

const isImage = (el: El): boolean => el.tag === "img" && imageIs(el) === "image";

/** What is to be seen in a foreign email, in the order it is read. */
export function seenIn(body: El): { words: string[]; links: string[]; images: string[] } {
  const seen = { words: [] as string[], links: [] as string[], images: [] as string[] };
  // Words go on over what only marks them, and end where a block does.
  let text = "";
  const visit = (el: El) => {
    for (const one of el.children) {
      if (!isEl(one)) text += one;
      else if (!isHidden(one)) {
        if (isImage(one)) seen.images.push(one.attrs.src!);
        // What has neither words nor an image nobody can follow.
        const leads = one.tag === "a" && (letters(one) > 0 || some(one, isImage));
        const to = leads ? linkFrom(one.attrs.href ?? "") : null;
        if (to && "address" in to) seen.links.push(JSON.stringify(to.address));
        const ends = standsAlone(one) || ENDS.has(one.tag) || isButton(one);
        if (ends) text += " ";
        visit(one);
        if (ends) text += " ";
      }
    }
  };
  visit(body);
  return { ...seen, words: wordsIn(text) };
}

/** Every word of a document, in its order: of its texts, and of the HTML in it. Tags say their names. */
export function wordsOfDocument(root: DocNode, written: (ref: string) => string): string[] {
  const words: string[] = [];
  const tagWords = ({ attrs }: TextJson) => (attrs?.ref ? written(String(attrs.ref)) : "");
  const visit = (value: Json | undefined): void => {
    if (Array.isArray(value)) {
      const texts = value as unknown as readonly TextJson[];
      if (texts.some((one) => one?.type === "text")) {
        words.push(...wordsIn(texts.map((one) => one.text ?? ` ${tagWords(one)} `).join("")));
      } else for (const one of value) visit(one);
    } else if (typeof value === "object" && value !== null) {
      const text = value as unknown as TextJson;
      if (text.type === "text") words.push(...wordsIn(text.text ?? ""));
      else if (text.type === "tag") words.push(...wordsIn(written(String(text.attrs?.ref))));
      else if (!("kind" in value)) for (const one of Object.values(value)) visit(one as Json);
    }
  };
  for (const node of walk(root)) {
    visit(node.props as Json);
    if (node.type === "html")
      words.push(
        ...wordsIn(
          String(node.props.source)
            .replace(/<[^>]*>/g, " ")
            .replace(/&[a-z]+;/g, " "),
        ),
      );
  }
  return words;
}

/** What was kept. `written` says how a tag was written there; `srcOf`, which address a picture had. */
export function keptIn(
  body: El,
  doc: EmailDocument,
  written: (ref: string) => string,
  srcOf: (picture: string) => string,
): Kept {
  const seen = seenIn(body);
  const links: string[] = [];
  const images: string[] = [];
  for (const one of mentionsIn(doc)) {
    if (one.what === "link" && "address" in one.to) links.push(JSON.stringify(one.to.address));
    if (one.what === "picture") images.push(srcOf(one.picture));
  }
  for (const node of walk(doc.root)) {
    if (node.type !== "html") continue;
    for (const [, src] of String(node.props.source).matchAll(/<img[^>]* src="([^"]*)"/g))
      images.push(src!);
  }
  return {
    words: shared(seen.words, wordsOfDocument(doc.root, written)),
    // Neighbours that lead to the same place have become one link.
    links: shared([...new Set(seen.links)], [...new Set(links)]),
    images: shared(seen.images, images),
  };
}

/** How many blocks an email has. */
export const countBlocks = ({ root }: EmailDocument): number =>
  [...walk(root)].filter(({ type }) => isBlock(type)).length;
