/** Styles of words that several blocks share. */
import { css, type Markup } from "../text/index.ts";
import { type Colour, FONTS, type FontName, resolveColour, type Theme } from "../theme/theme.ts";

/** Font, size, line height and colour of running words, as longhand properties. */
export function wordStyle(
  theme: Theme,
  options: {
    font: FontName;
    size: number;
    lineHeight: number;
    colour: Colour;
    weight?: number;
    more?: Record<string, string | number>;
  },
): Markup {
  return css({
    "font-family": FONTS[options.font].stack,
    "font-size": `${options.size}px`,
    "line-height": `${Math.round(options.size * options.lineHeight)}px`,
    "font-weight": options.weight ?? 400,
    color: resolveColour(options.colour, theme),
    ...options.more,
  });
}
