/** How running words look: what several blocks share, and what a person can set about them. */
import { z } from "zod";
import { dress } from "../kinds/dress.ts";
import type { BlockContext } from "../kinds/kind.ts";
import { LINE_HEIGHT, NARROW, WORDS_SIZE } from "../kinds/narrow.ts";
import type { Markup, TextLook } from "../markup/index.ts";
import { type Colour, type Font, fontSchema, fontStack, type Theme } from "../theme/theme.ts";

/** The numbers that can be set about words, and how far they go. */
export const TYPE_NUMBERS = {
  size: { ...WORDS_SIZE, label: "Size", unit: "px", empty: "theme" },
  narrow: { ...WORDS_SIZE, label: "Size on narrow", unit: "px", empty: "as on wide" },
  lineHeight: { ...LINE_HEIGHT, label: "Line height", unit: "%", empty: "theme" },
  spacing: { min: -20, max: 100, label: "Letter spacing", unit: "px", per: 10, empty: undefined },
} as const;
const within = ({ min, max }: { min: number; max: number }) => z.number().int().min(min).max(max);

/** What can be set about words; null is as the block has it from the theme. */
export const typeSchema = z.strictObject({
  font: fontSchema.nullable(),
  /** px */
  size: within(TYPE_NUMBERS.size).nullable(),
  /** px, where the window is narrow; null is as on wide. */
  narrow: within(TYPE_NUMBERS.narrow).nullable(),
  /** Per cent of the size. */
  lineHeight: within(TYPE_NUMBERS.lineHeight).nullable(),
  /** Space between letters, tenths of a px. */
  spacing: within(TYPE_NUMBERS.spacing),
  capitals: z.boolean(),
});
export type Type = z.infer<typeof typeSchema>;
export const PLAIN_TYPE: Type = {
  font: null,
  size: null,
  narrow: null,
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
 * The stack of a font, or nothing where it is the running words' own: that one stands around the bands,
 * from where every engine takes it over into nested tables.
 */
export function ownFont(font: Font, theme: Theme): string | null {
  const stack = fontStack(font, theme);
  return stack === fontStack("body", theme) ? null : stack;
}

/** The height of a line of words of a size, px. */
const lineOf = (size: number, words: Pick<Words, "lineHeight">, type: Type): number =>
  Math.round(size * (type.lineHeight === null ? words.lineHeight : type.lineHeight / 100));

/** The classes of words that have another size on narrow. */
export const narrowClasses = (words: Pick<Words, "lineHeight">, type: Type): string[] =>
  type.narrow === null
    ? []
    : [NARROW.size.name(type.narrow), NARROW.line.name(lineOf(type.narrow, words, type))];

/** The properties of running words but for their colour. */
export function typeCss(
  theme: Theme,
  words: Omit<Words, "colour">,
  type: Type = PLAIN_TYPE,
): Record<string, string | number | null> {
  const size = type.size ?? words.size;
  return {
    "font-family": ownFont(type.font ?? words.font, theme),
    "font-size": `${size}px`,
    "line-height": `${lineOf(size, words, type)}px`,
    "font-weight": words.bold ? 700 : words.heading ? 400 : null,
    "letter-spacing": type.spacing ? `${type.spacing / 10}px` : null,
    "text-transform": type.capitals ? "uppercase" : null,
    ...words.more,
  };
}

/** The attributes (class and style) of an element that holds running words. */
export const wordAttrs = (theme: Theme, words: Words, type: Type = PLAIN_TYPE): Markup =>
  dress(theme, { ink: words.colour }, typeCss(theme, words, type), {
    classes: narrowClasses(words, type),
  });

/** The looks of a rich text inside a block. */
export function textLook(
  ctx: BlockContext,
  options: {
    link: Colour;
    gap: number;
    underline?: boolean;
    /** Of words that are a link because what they stand in is one; else as links are. */
    ink?: Colour;
  },
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
    through: {
      outer: dress(theme, { ink: options.ink ?? options.link }, { "text-decoration": "none" }),
      inner: dress(theme, { ink: options.ink ?? options.link }),
    },
    ink: (colour) => dress(theme, { ink: colour as Colour }),
    ground: (colour) => dress(theme, { ground: colour as Colour }),
  };
}
