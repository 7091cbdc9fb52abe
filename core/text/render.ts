/** Rich text to markup: HTML with inline styles, and plain text. */
import { isEmptyLink, type Link } from "./link.ts";
import { attrs, html, join, type Landing, type Markup, plain, slot, trusted } from "./markup.ts";
import { type TextJson, wordsOf } from "./schema.ts";
import type { Tag } from "./tag.ts";

/** What the place a text stands in decides about its looks. */
export interface TextLook {
  /** The node the text belongs to: links are counted under it. */
  readonly node: string;
  /** Six-digit hex. */
  readonly linkColour: string;
  /** Space after a paragraph, px. */
  readonly paragraphGap: number;
}

/** A line of words and tags, made safe for where it lands. */
export function lineMarkup(text: TextJson, as: Landing): Markup {
  const write = as === "html" || as === "attribute" ? html : plain;
  return join(
    (text.content ?? []).map((part) =>
      part.type === "tag"
        ? slot({ slot: "tag", tag: part.attrs as unknown as Tag, as })
        : write`${as === "header" ? oneLine(part.text ?? "") : (part.text ?? "")}`,
    ),
  );
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

function inlineHtml(part: TextJson): Markup {
  let out: Markup;
  if (part.type === "tag") out = lineMarkup({ type: "line", content: [part] }, "html");
  else if (part.type === "hard_break") out = trusted("<br>");
  else out = html`${part.text ?? ""}`;
  for (const mark of [...(part.marks ?? [])].reverse()) {
    if (mark.type === "strong") out = html`<strong>${out}</strong>`;
    else if (mark.type === "em") out = html`<em>${out}</em>`;
    else if (mark.type === "underline") out = html`<u>${out}</u>`;
  }
  return out;
}

const linkOf = (part: TextJson): Link | null =>
  (part.marks?.find((mark) => mark.type === "link")?.attrs?.to as Link | undefined) ?? null;

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
  return join(
    runs(content).map(({ to, parts }) => {
      const inner = join(parts.map((part) => inlineHtml(part)));
      const href = to && hrefMarkup(to, look.node, wordsOf({ type: "line", content: parts }));
      if (!href) return inner;
      const colour = `color:${look.linkColour}`;
      return html`<a${href} style="${colour};text-decoration:underline"><span style="${colour}">${inner}</span></a>`;
    }),
  );
}

/** Margins that hold in every family: defaults of lists differ by 40 px between them. */
export const blockStyles = (gap: number) => ({
  p: `margin:0 0 ${gap}px 0`,
  pLast: "margin:0",
  list: `margin:0 0 ${gap}px 24px;padding:0`,
  li: `margin:0 0 ${Math.round(gap / 2)}px 0`,
});

function blockHtml(node: TextJson, look: TextLook, last: boolean): Markup {
  const styles = blockStyles(look.paragraphGap);
  if (node.type === "paragraph") {
    const inner = node.content?.length ? inlineMarkup(node.content, look) : trusted("&nbsp;");
    return html`<p style="${last ? styles.pLast : styles.p}">${inner}</p>`;
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
  const style = last ? styles.list.replace(/^margin:0 0 \d+px/, "margin:0 0 0") : styles.list;
  const open = trusted(`<${name}`);
  return html`${open}${attrs({ style })}>${items}</${trusted(name)}>`;
}

/** A whole text (`doc`) as HTML blocks. */
export function docMarkup(text: TextJson, look: TextLook): Markup {
  const blocks = text.content ?? [];
  return join(blocks.map((block, i) => blockHtml(block, look, i === blocks.length - 1)));
}

/** Inline content as plain text; a link's address follows its words. */
export function inlineText(content: readonly TextJson[], node: string): Markup {
  return join(
    runs(content).map(({ to, parts }) => {
      const inner = join(
        parts.map((part) => {
          if (part.type === "tag") return lineMarkup({ type: "line", content: [part] }, "text");
          if (part.type === "hard_break") return plain`\n`;
          return plain`${part.text ?? ""}`;
        }),
      );
      if (!to || isEmptyLink(to)) return inner;
      return plain`${inner} (${slot({ slot: "link", node, to, words: wordsOf({ type: "line", content: parts }), as: "text" })})`;
    }),
  );
}

/** A whole text (`doc`) as plain text: paragraphs apart by a blank line, lists with dashes or numbers. */
export function docText(text: TextJson, node: string, indent = ""): Markup {
  return join(
    (text.content ?? []).map((block) => {
      if (block.type === "paragraph") return plain`${inlineText(block.content ?? [], node)}`;
      return join(
        (block.content ?? []).map((item, i) => {
          const sign = block.type === "bullet_list" ? "- " : `${i + 1}. `;
          return plain`${indent}${sign}${docText(item, node, `${indent}  `)}`;
        }),
        "\n",
      );
    }),
    text.type === "doc" ? "\n\n" : "\n",
  );
}
