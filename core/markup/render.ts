/** Rich text to markup: HTML with inline styles, and plain text. */
import { type Json, under } from "../json.ts";
import {
  isEmptyLink,
  LANDINGS,
  type Landing,
  type Link,
  OWN_ADDRESSES,
  seenOf,
  seenRuns,
  type Tag,
  type TextJson,
  type When,
  type WordsIn,
  wordsOf,
} from "../text/index.ts";
import { attrs, html, join, type Markup, plain, type Slot, slot, trusted } from "./markup.ts";
import { shownWhen } from "./shown.ts";

/** What the place a text stands in decides about its looks. */
export interface TextLook {
  /** The node the text belongs to: links are counted under it. */
  readonly node: string;
  /** Attributes of a link, and of the span in it that keeps its colour where links are recoloured. */
  readonly link: { readonly outer: Markup; readonly inner: Markup };
  /** The same of words that lead where all they stand in does (`linkedThrough`). */
  readonly through: { readonly outer: Markup; readonly inner: Markup };
  /** Space after a paragraph, px. */
  readonly paragraphGap: number;
  readonly dir: "ltr" | "rtl";
  /** Attributes of words in a colour, and of words on a ground. */
  ink(colour: string): Markup;
  ground(colour: string): Markup;
}

/** A tag; one that is an address of the email itself is written as that. */
function tagSlot(part: TextJson, as: Landing): Markup {
  const tag = part.attrs as unknown as Tag;
  const to = under(OWN_ADDRESSES, tag.ref);
  if (!to || as.encoding !== "none" || as.context === "header") {
    return slot({ slot: "tag", tag, as });
  }
  const context = as.context === "text" ? "text" : "html";
  return slot({ slot: "link", node: "", to, words: "", as: context });
}

/** A line of words and tags, made safe for where it lands; of a paragraph the words alone. */
export function lineMarkup(text: TextJson, context: WordsIn): Markup {
  const as = LANDINGS[context];
  const write = context === "html" || context === "attribute" ? html : plain;
  const bare = context === "header" || context === "text";
  // Only between elements there is room for a mark around words that some see.
  const of = context === "html" ? "words" : "part";
  return forSome(text.content ?? [], of, (parts) =>
    join(
      parts.map((part) =>
        part.type === "tag"
          ? tagSlot(part, as)
          : part.type === "chosen"
            ? writeChosen(part, of, (own) => lineMarkup({ type: "line", content: own }, context))
            : write`${bare ? oneLine(part.text ?? "") : (part.text ?? "")}`,
      ),
    ),
  );
}

/** Whether a mark stands around what only some see, or only the condition itself. */
type Shown = "part" | "words";

/** Inline content in runs that the same readers see, each written by `write`. */
function forSome(
  content: readonly TextJson[],
  of: Shown,
  write: (parts: readonly TextJson[]) => Markup,
): Markup {
  if (!content.some(seenOf)) return write(content);
  return join(seenRuns(content).map(({ when, parts }) => shownWhen(when, write(parts), of)));
}

/** No line break or other control character may enter a header (RFC 5322, 2.2). */
export function oneLine(text: string): string {
  // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is looked for
  return text.replace(/[\u0000-\u001f\u007f\u0085\u2028\u2029]+/g, " ");
}

/** `href="…"` for a link, or nothing where it leads nowhere. */
export function hrefMarkup(to: Link, node: string, words: string): Markup | null {
  if (isEmptyLink(to)) return null;
  return html` href="${slot({ slot: "link", node, to, words, as: "html" })}"`;
}

/**
 * Words of which each reader gets some, in the place of a tag: made for rendering alone, no text of a document
 * holds them.
 */
export const chosenWords = (
  alternatives: readonly { readonly when: When; readonly content: readonly TextJson[] }[],
  marks: TextJson["marks"],
): TextJson => ({
  type: "chosen",
  ...(marks && { marks }),
  content: alternatives.map(({ when, content }) => ({
    type: "alternative",
    attrs: { when: when as unknown as Json },
    content,
  })),
});
const writeChosen = (
  part: TextJson,
  of: Shown,
  write: (content: readonly TextJson[]) => Markup,
): Markup =>
  join(
    (part.content ?? []).map(({ attrs, content }) =>
      shownWhen(attrs!.when as unknown as When, write(content ?? []), of),
    ),
  );

function inlineHtml(part: TextJson, look: TextLook): Markup {
  let out: Markup;
  if (part.type === "tag") out = tagSlot(part, LANDINGS.html);
  else if (part.type === "chosen")
    out = writeChosen(part, "words", (own) => inlineMarkup(own, look));
  else if (part.type === "hard_break") out = trusted("<br>");
  else out = html`${part.text ?? ""}`;
  for (const mark of [...(part.marks ?? [])].reverse()) {
    if (mark.type === "strong") out = html`<strong>${out}</strong>`;
    else if (mark.type === "em") out = html`<em>${out}</em>`;
    else if (mark.type === "underline") out = html`<u>${out}</u>`;
    else if (mark.type === "strike") out = html`<s>${out}</s>`;
    else if (mark.type === "superscript") out = html`<sup${RAISED}>${out}</sup>`;
    else if (mark.type === "subscript") out = html`<sub${RAISED}>${out}</sub>`;
    else if (mark.type === "colour")
      out = html`<span${look.ink(String(mark.attrs?.to))}>${out}</span>`;
    else if (mark.type === "ground")
      out = html`<span${look.ground(String(mark.attrs?.to))}>${out}</span>`;
  }
  return out;
}

/** Raised and lowered words must not move the lines apart. */
const RAISED = trusted(' style="font-size:70%;line-height:1"');

const linkMark = (part: TextJson) => part.marks?.find((mark) => mark.type === "link");
const linkOf = (part: TextJson): Link | null =>
  (linkMark(part)?.attrs?.to as Link | undefined) ?? null;
const isThrough = (part: TextJson): boolean => linkMark(part)?.attrs?.through === true;

/**
 * A text in which all that is no link yet leads somewhere, because what it stands in does: made for rendering alone, no
 * text of a document has such links.
 */
export function linkedThrough(text: TextJson, to: Link): TextJson {
  if (isEmptyLink(to)) return text;
  if (text.type === "text" || text.type === "tag" || text.type === "chosen") {
    if (linkMark(text)) return text;
    const link = { type: "link", attrs: { to: to as unknown as Json, through: true } };
    return { ...text, marks: [...(text.marks ?? []), link] };
  }
  return text.content
    ? { ...text, content: text.content.map((part) => linkedThrough(part, to)) }
    : text;
}

/** Neighbouring pieces under one link make one `a`, so that a link is counted once. */
function runs(content: readonly TextJson[]): { to: Link | null; parts: TextJson[] }[] {
  const out: { to: Link | null; key: string; parts: TextJson[] }[] = [];
  for (const part of content) {
    const to = linkOf(part);
    const key = JSON.stringify(to);
    const last = out.at(-1);
    if (last && last.key === key) last.parts.push(part);
    else out.push({ to, key, parts: [part] });
  }
  return out;
}

/** Inline content (of a paragraph or a phrase) as HTML. */
export function inlineMarkup(content: readonly TextJson[], look: TextLook): Markup {
  return forSome(content, "words", (seen) =>
    join(
      runs(seen).map(({ to, parts }) => {
        const inner = join(parts.map((part) => inlineHtml(part, look)));
        const href = to && hrefMarkup(to, look.node, wordsOf({ type: "line", content: parts }));
        if (!href) return inner;
        const { outer, inner: colour } = look[isThrough(parts[0]!) ? "through" : "link"];
        return html`<a${href}${outer}><span${colour}>${inner}</span></a>`;
      }),
    ),
  );
}

/** Margins that hold in every family: defaults of lists differ by 40 px between them. */
export const blockStyles = (gap: number, dir: "ltr" | "rtl" = "ltr") => {
  const inset = (below: number, by: number) => {
    const bottom = below ? `${below}px` : "0";
    return dir === "rtl" ? `margin:0 ${by}px ${bottom} 0` : `margin:0 0 ${bottom} ${by}px`;
  };
  return {
    p: `margin:0 0 ${gap}px`,
    pLast: "margin:0",
    list: `${inset(gap, 24)};padding:0`,
    listLast: `${inset(0, 24)};padding:0`,
    li: `margin:0 0 ${Math.round(gap / 2)}px`,
    indented: `${inset(gap, 24)}`,
    indentedLast: `${inset(0, 24)}`,
  };
};

function blockHtml(node: TextJson, look: TextLook, last: boolean): Markup {
  const styles = blockStyles(look.paragraphGap, look.dir);
  if (node.type === "paragraph") {
    const inner = node.content?.length ? inlineMarkup(node.content, look) : trusted("&nbsp;");
    return html`<p style="${last ? styles.pLast : styles.p}">${inner}</p>`;
  }
  if (node.type === "indented") {
    const style = last ? styles.indentedLast : styles.indented;
    return html`<div style="${style}">${docMarkup(node, look)}</div>`;
  }
  const name = node.type === "bullet_list" ? "ul" : "ol";
  const items = (node.content ?? []).map(
    (item) =>
      html`<li style="${styles.li}">${(item.content ?? []).map((inner, i, all) =>
        inner.type === "paragraph" && all.length === 1
          ? inlineMarkup(inner.content ?? [], look)
          : blockHtml(inner, look, i === all.length - 1),
      )}</li>`,
  );
  const open = trusted(`<${name}`);
  const style = last ? styles.listLast : styles.list;
  return html`${open}${attrs({ style })}>${items}</${trusted(name)}>`;
}

/** A whole text (`doc`) as HTML blocks. */
export function docMarkup(text: TextJson, look: TextLook): Markup {
  const blocks = text.content ?? [];
  return join(blocks.map((block, i) => blockHtml(block, look, i === blocks.length - 1)));
}

/** An address in plain text with what leads to it; nothing where the link leads nowhere. */
export function addressText(
  to: Link,
  node: string,
  words: string,
  lead: Extract<Slot, { slot: "address" }>["lead"],
): Markup | null {
  // A place in the email has no address that could be written down.
  return isEmptyLink(to) || to.kind === "place"
    ? null
    : slot({ slot: "address", node, to, words, lead });
}

/** Inline content as plain text; a link's address follows its words. */
export function inlineText(content: readonly TextJson[], node: string): Markup {
  return forSome(content, "part", (seen) =>
    join(
      runs(seen).map(({ to, parts }) => {
        const inner = join(
          parts.map((part) => {
            if (part.type === "tag") return tagSlot(part, LANDINGS.text);
            if (part.type === "chosen")
              return writeChosen(part, "part", (own) => inlineText(own, node));
            if (part.type === "hard_break") return plain`\n`;
            return plain`${oneLine(part.text ?? "")}`;
          }),
        );
        const words = wordsOf({ type: "line", content: parts });
        return plain`${inner}${to && addressText(to, node, words, " (")}`;
      }),
    ),
  );
}

/** A whole text (`doc`) as plain text: paragraphs apart by a blank line, lists with dashes or numbers. */
export function docText(text: TextJson, node: string, indent = ""): Markup {
  return join(
    (text.content ?? []).map((block) => {
      if (block.type === "paragraph") return plain`${inlineText(block.content ?? [], node)}`;
      if (block.type === "indented") return docText(block, node, indent);
      return join(
        (block.content ?? []).map((item, i) => {
          const sign = block.type === "bullet_list" ? "- " : `${i + 1}. `;
          return plain`${indent}${sign}${docText(item, node, `${indent}  `)}`;
        }),
        "\n",
      );
    }),
    text.type === "list_item" ? "\n" : "\n\n",
  );
}
