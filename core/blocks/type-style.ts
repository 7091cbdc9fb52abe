/** How running words look: what several blocks share, and what a person can set about them. */
import { z } from "zod";
import { dress } from "../kinds/dress.ts";
import type { BlockContext } from "../kinds/kind.ts";
import type { Markup, TextLook } from "../markup/index.ts";
import { type Colour, type Font, fontSchema, fontStack, type Theme } from "../theme/theme.ts";

/** What can be set about words; null is as the block has it from the theme. */
export const typeSchema = z.strictObject({
  font: fontSchema.nullable(),
  /** px */
  size: z.number().int().min(10).max(72).nullable(),
  /** Per cent of the size. */
  lineHeight: z.number().int().min(100).max(220).nullable(),
  /** Space between letters, tenths of a px. */
  spacing: z.number().int().min(-20).max(100),
  capitals: z.boolean(),
});
export type Type = z.infer<typeof typeSchema>;
export const PLAIN_TYPE: Type = {
  font: null,
  size: null,
  lineHeight: null,
  spacing: 0,
  capitals: false,
};

export interface Words {
  readonly font: Font;
  readonly size: number;
  /** Times the size. */
  readonly lineHeight: number;
  readonly colour: Colour;
  readonly bold?: boolean;
  /** Headings are bold by themselves, so that a light one has to say so. */
  readonly heading?: boolean;
  readonly more?: Record<string, string | number>;
}

/**
 * The stack of a font, or nothing where it is the running words' own: that one stands on the cell of the band,
 * from which every engine takes it over into nested tables.
 */
export function ownFont(font: Font, theme: Theme): string | null {
  const stack = fontStack(font, theme);
  return stack === fontStack("body", theme) ? null : stack;
}

/** The properties of running words but for their colour. */
export function typeCss(
  theme: Theme,
  words: Omit<Words, "colour">,
  type: Type = PLAIN_TYPE,
): Record<string, string | number | null> {
  const size = type.size ?? words.size;
  const lineHeight = type.lineHeight === null ? words.lineHeight : type.lineHeight / 100;
  return {
    "font-family": ownFont(type.font ?? words.font, theme),
    "font-size": `${size}px`,
    "line-height": `${Math.round(size * lineHeight)}px`,
    "font-weight": words.bold ? 700 : words.heading ? 400 : null,
    "letter-spacing": type.spacing ? `${type.spacing / 10}px` : null,
    "text-transform": type.capitals ? "uppercase" : null,
    ...words.more,
  };
}

/** The attributes (class and style) of an element that holds running words. */
export const wordAttrs = (theme: Theme, words: Words, type: Type = PLAIN_TYPE): Markup =>
  dress(theme, { ink: words.colour }, typeCss(theme, words, type));

/** The looks of a rich text inside a block. */
export function textLook(
  ctx: BlockContext,
  options: { link: Colour; gap: number; underline?: boolean },
): TextLook {
  const { theme, node, dir } = ctx;
  const decoration = options.underline === false ? "none" : "underline";
  return {
    node,
    dir,
    paragraphGap: options.gap,
    link: {
      outer: dress(theme, { ink: options.link }, { "text-decoration": decoration }),
      inner: dress(theme, { ink: options.link }),
    },
    ink: (colour) => dress(theme, { ink: colour as Colour }),
    ground: (colour) => dress(theme, { ground: colour as Colour }),
  };
}
