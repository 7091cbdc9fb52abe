/** A picture as blocks show it: with alt text, at its display size, linked where that is wanted. */
import { z } from "zod";
import type { BlockContext, Control } from "../kinds/kind.ts";
import {
  attrs,
  css,
  hrefMarkup,
  html,
  isBlank,
  isEmptyLink,
  type Line,
  type Link,
  lineMarkup,
  lineSchema,
  Markup,
  plain,
  slot,
  wordsOf,
} from "../text/index.ts";
import { FONTS, resolveColour } from "../theme/theme.ts";

/** The properties of a picture, for spreading into a block's schema. */
export const pictureShape = {
  /** The id of a picture, or null while there is none. */
  picture: z
    .string()
    .regex(/^[a-f0-9]{64}$/)
    .nullable(),
  alt: lineSchema,
  /** Purely decorative: read aloud as nothing, and no alt text is asked for. */
  decorative: z.boolean(),
};
export interface PictureProps {
  readonly picture: string | null;
  readonly alt: Line;
  readonly decorative: boolean;
}

/** The settings of a picture, but for where it leads. */
export const pictureControls: readonly Control[] = [
  { control: "picture", path: ["picture"], label: "Picture" },
  {
    control: "line",
    path: ["alt"],
    label: "Alt text",
    hint: "What the picture says, for those who do not see it.",
  },
  { control: "switch", path: ["decorative"], label: "Only decoration" },
];

/** The picture (px wide), or the place where it will be. */
export function pictureHtml(
  props: PictureProps,
  ctx: BlockContext,
  options: { width: number; corner: number; to: Link },
): Markup {
  const { width, corner, to } = options;
  const picture = props.picture ? ctx.pictures.get(props.picture) : undefined;
  if (!picture) return placeholder(width, ctx.theme.colours.line, ctx.theme.colours.quiet);
  const height = Math.max(1, Math.round((width * picture.height) / picture.width));
  const style = css({
    display: "block",
    width: "100%",
    "max-width": `${width}px`,
    height: "auto",
    border: "0",
    "border-radius": corner ? `${corner}px` : null,
    // Alt text is written in this font where pictures are off.
    "font-family": FONTS[ctx.theme.fonts.body].stack,
    "font-size": "14px",
    "line-height": "20px",
    color: resolveColour("quiet", ctx.theme),
  });
  const alt = props.decorative ? Markup.empty : lineMarkup(props.alt, "attribute");
  const src = `${ctx.publicAddress}/pictures/${picture.file}`;
  const img = html`<img${attrs({ src, width, height })} alt="${alt}" style="${style}">`;
  const href = hrefMarkup(to, ctx.node, wordsOf(props.alt) || "Picture");
  return href ? html`<a${href} style="text-decoration:none">${img}</a>` : img;
}

/** An empty picture still shows where it will be. */
const placeholder = (width: number, line: string, ink: string) =>
  html`<table role="presentation" width="${width}" border="0" cellpadding="0" cellspacing="0" style="${css({ width: "100%", "max-width": `${width}px` })}"><tr><td align="center" height="120" style="${css({ height: "120px", border: `1px dashed ${line}`, "font-family": FONTS.plainSans.stack, "font-size": "14px", color: ink, "text-align": "center" })}">No picture yet</td></tr></table>`;

/** The picture in plain text: its alt text, and where it leads. */
export function pictureText(props: PictureProps, ctx: BlockContext, to: Link): Markup {
  if (props.decorative || isBlank(props.alt)) return Markup.empty;
  const words = plain`[${lineMarkup(props.alt, "text")}]`;
  if (isEmptyLink(to)) return words;
  return plain`${words}\n${slot({ slot: "link", node: ctx.node, to, words: wordsOf(props.alt), as: "text" })}`;
}

/** What the proof says about a picture. */
export function pictureFindings(props: PictureProps) {
  if (props.decorative || !isBlank(props.alt)) return [];
  return [
    {
      check: "alt-text",
      severity: "look" as const,
      message: "A picture has no alt text",
      detail: "Readers with pictures off, or who listen, get nothing from it.",
    },
  ];
}
