/** A link with its words, as it repeats in rows, mastheads and sign-offs. */
import { z } from "zod";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, ItemKind } from "../kinds/kind.ts";
import {
  addressText,
  hrefMarkup,
  html,
  join,
  lineMarkup,
  type Markup,
  plain,
  trusted,
} from "../markup/index.ts";
import {
  isBlank,
  isEmptyLink,
  type Line,
  type Link,
  line,
  lineSchema,
  linkSchema,
  wordsOf,
} from "../text/index.ts";
import type { Colour } from "../theme/theme.ts";

const schema = z.strictObject({ label: lineSchema, to: linkSchema });
export type LinkItem = z.infer<typeof schema>;

export const webLink = (address = ""): Link => ({
  kind: "web",
  address: address ? line(address) : line(),
});

/** The kind of link that a block holds. */
export function linkKind(
  type: string,
  words: { label: string; plural: string; least: number; most: number },
): ItemKind<LinkItem> {
  return {
    type,
    ...words,
    schema,
    create: () => ({ label: line("A link"), to: webLink() }),
    texts: [{ path: ["label"], kind: "line", label: "Text" }],
    content: [
      { control: "line", path: ["label"], label: "Text" },
      { control: "link", path: ["to"], label: "Link to" },
    ],
    style: [],
    name: (props) => wordsOf(props.label),
    checks: (props) => linkFindings(props.label, props.to),
  };
}

/** What the proof says about a link without words, or one that leads nowhere. */
export function linkFindings(label: Line, to: Link) {
  const nowhere = isEmptyLink(to);
  if (!nowhere && !isBlank(label)) return [];
  return [
    {
      check: "empty-link",
      severity: "look" as const,
      message: nowhere
        ? `The link “${wordsOf(label)}” leads nowhere`
        : "A link has no text to click",
      detail: nowhere ? "Give it an address, or take it out." : "Write where it leads.",
    },
  ];
}

/** A link as an inline block, high enough for a thumb (44 px, WCAG 2.5.5) with lines of 20 px. */
export function linkHtml(
  item: LinkItem,
  ctx: BlockContext,
  look: {
    mark: Markup;
    colour: Colour;
    underline: boolean;
    classes?: readonly (string | null)[];
    flush?: boolean;
    path?: string;
  },
): Markup {
  const ink = dress(ctx.theme, { ink: look.colour });
  const anchor = dress(
    ctx.theme,
    { ink: look.colour },
    {
      display: "inline-block",
      // Flush: the first stands under the words above it.
      padding: look.flush
        ? ctx.dir === "rtl"
          ? "12px 0 12px 16px"
          : "12px 16px 12px 0"
        : "12px 8px",
      "line-height": "20px",
      "text-decoration": look.underline ? "underline" : "none",
    },
    { classes: look.classes },
  );
  const words = html`<span${ctx.text(look.path ?? "label")}${ink}>${lineMarkup(item.label, "html")}</span>`;
  const href = hrefMarkup(item.to, ctx.node, wordsOf(item.label));
  return href
    ? html`<a${look.mark}${href}${anchor}>${words}</a>`
    : html`<span${look.mark}${anchor}>${words}</span>`;
}

/** Words in a line that lead somewhere, with the span that keeps their colour; the words alone where they lead nowhere. */
export function linkedWords(
  words: Markup,
  to: Link,
  ctx: BlockContext,
  { name, colour }: { readonly name: string; readonly colour: Colour },
): Markup {
  const href = hrefMarkup(to, ctx.node, name);
  if (!href) return words;
  const anchor = dress(ctx.theme, { ink: colour }, { "text-decoration": "underline" });
  return html`<a${href}${anchor}><span${dress(ctx.theme, { ink: colour })}>${words}</span></a>`;
}

/** Links after one another. The table-only engine knows no padding on them and gets its room in blanks. */
export function inLine(links: readonly Markup[]): Markup {
  const room = html`${trusted("<!--[if mso]>&nbsp; &nbsp;<![endif]-->")} `;
  return join(links.flatMap((link, i) => (i > 0 ? [room, link] : [link])));
}

export const linkText = (item: LinkItem, ctx: BlockContext): Markup =>
  plain`${lineMarkup(item.label, "text")}${addressText(item.to, ctx.node, wordsOf(item.label), ": ")}`;

/** Links one under another, as plain text has them. */
export const linkLines = (links: readonly { item: LinkItem; ctx: BlockContext }[]): Markup =>
  join(
    links.map(({ item, ctx }) => linkText(item, ctx)),
    "\n",
  );

/** The items of one kind with what each is rendered with. */
export function itemsOf<P>(ctx: BlockContext, kind: ItemKind<P>) {
  return ctx.children
    .filter((child) => child.type === kind.type)
    .map((child) => ({ ...ctx.item(child), node: child, props: child.props as unknown as P }));
}
