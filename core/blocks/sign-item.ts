/** Signs that lead somewhere, as social links and share rows show them. */
import { z } from "zod";
import type { Align } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, Control } from "../kinds/kind.ts";
import { hrefMarkup, html, lineMarkup, type Markup } from "../markup/index.ts";
import { pictureAddress } from "../picture-id.ts";
import { sentWidth } from "../pictures/sizes.ts";
import { type Line, type Link, wordsOf } from "../text/index.ts";
import { type Colour, colourSchema, isRole, resolveColour, type Theme } from "../theme/theme.ts";
import { flowRow } from "./flow.ts";
import { imgTag, made } from "./picture.ts";
import { SIGNS } from "./signs.ts";

export const signName = z.enum(SIGNS.map(({ name }) => name) as [string, ...string[]]);

/** How the signs of a row look, for spreading into a block's schema. */
export const signRowShape = {
  shape: z.enum(["bare", "round", "square"]),
  /** px */
  size: z.number().int().min(20).max(48),
  ink: colourSchema,
  ground: colourSchema,
  /** The words beside each sign; without them they are only read aloud. */
  words: z.boolean(),
};
export interface SignRow {
  readonly shape: "bare" | "round" | "square";
  readonly size: number;
  readonly ink: Colour;
  readonly ground: Colour;
  readonly words: boolean;
}
export const signRow = (words: boolean): SignRow => ({
  shape: "round",
  size: 32,
  ink: "onAccent",
  ground: "accent",
  words,
});
export const signControl: Control = {
  control: "choice",
  path: ["sign"],
  label: "Icon",
  options: SIGNS.map(({ name, label }) => ({ value: name, label })),
};
export const signRowControls: readonly Control[] = [
  {
    control: "choice",
    path: ["shape"],
    label: "Shape",
    options: [
      { value: "bare", label: "Only the icon" },
      { value: "round", label: "On a disc" },
      { value: "square", label: "On a square" },
    ],
  },
  { control: "number", path: ["size"], label: "Size", min: 20, max: 48, unit: "px" },
  { control: "colour", path: ["ink"], label: "Icon" },
  { control: "colour", path: ["ground"], label: "Disc or square" },
  { control: "switch", path: ["words"], label: "With text" },
];

export interface SignLink {
  readonly sign: string;
  readonly label: Line;
  readonly to: Link;
  /** A picture of one's own instead of the sign. */
  readonly picture?: string | null;
  readonly mark: Markup;
  readonly ctx: BlockContext;
}

/** A tap target (px, WCAG 2.5.5). */
const TARGET = 44;

function signHtml(link: SignLink, row: SignRow): Markup {
  const { ctx, label } = link;
  const { theme } = ctx;
  const own = link.picture ? ctx.pictures.get(link.picture) : undefined;
  const drawn = (colours: Pick<Theme, "colours">) =>
    made({
      kind: "icon",
      words: null,
      settings: {
        sign: link.sign,
        shape: row.shape,
        ink: resolveColour(row.ink, colours),
        ground: resolveColour(row.ground, colours),
      },
    });
  // Where the words stand beside it, the sign says nothing more.
  const alt = row.words ? html`` : lineMarkup(label, "attribute");
  const sized = (src: string | Markup, scheme?: "light" | "dark") =>
    imgTag(ctx, { src, alt, width: row.size, height: row.size }, { scheme });
  // Strokes alone would vanish on a ground that turns dark: they have another picture there.
  const twice = !own && row.shape === "bare" && isRole(row.ink) && theme.dark;
  const img = own
    ? sized(pictureAddress(ctx.publicAddress, own, sentWidth(own, row.size, false)))
    : twice
      ? html`${sized(drawn(theme), "light")}${sized(drawn({ colours: twice }), "dark")}`
      : sized(drawn(theme));
  const side = Math.max(4, Math.ceil((TARGET - row.size) / 2));
  const colour = row.shape === "bare" ? row.ink : row.ground;
  const anchor = dress(
    theme,
    { ink: colour },
    {
      display: "inline-block",
      padding: `${side}px`,
      "vertical-align": "middle",
      "text-decoration": "none",
    },
  );
  const words = row.words
    ? html`<span${ctx.text("label")}${dress(theme, { ink: colour }, { display: "inline-block", "font-size": "15px", "line-height": "20px", padding: "0 0 0 6px", "vertical-align": "middle" })}>${lineMarkup(label, "html")}</span>`
    : null;
  const size = dress(
    theme,
    {},
    {
      display: "inline-block",
      width: `${row.size}px`,
      "vertical-align": "middle",
      "font-size": "14px",
    },
  );
  const inner = html`<span${size}>${img}</span>${words}`;
  const href = hrefMarkup(link.to, ctx.node, wordsOf(label));
  return href
    ? html`<a${link.mark}${href}${anchor}>${inner}</a>`
    : html`<span${link.mark}${anchor}>${inner}</span>`;
}

/** A row of signs. */
export function signsHtml(
  links: readonly SignLink[],
  row: SignRow,
  ctx: BlockContext,
  align: Align,
): Markup {
  const signs = links.map((link) => signHtml(link, row));
  return html`<div style="font-size:0">${flowRow(signs, { gap: 4, align, dir: ctx.dir })}</div>`;
}
