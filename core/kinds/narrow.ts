/**
 * What is another size where the window is narrow: a class for each size there can be, and the rule behind it. The
 * style element of an email has the rules of the classes in it; on sheets, where any block may come in, all of them.
 */
import { LIMITS } from "../limits.ts";

/** Of words, px. */
export const WORDS_SIZE = { min: 10, max: 72 } as const;
/** Heights of lines that words can have, per cent of their size. */
export const LINE_HEIGHT = { min: 100, max: 220 } as const;
/** The highest line there can be: the largest words at 220 %. */
const LINE_MOST = Math.round((WORDS_SIZE.max * LINE_HEIGHT.max) / 100);

interface Sized {
  /** The class of a size, px. */
  name(px: number): string;
  rule(px: number): string;
  readonly min: number;
  readonly max: number;
}
const sized = (letter: string, min: number, max: number, css: (px: number) => string): Sized => ({
  name: (px) => `${letter}${px}`,
  rule: (px) => `.${letter}${px}{${css(px)}}`,
  min,
  max,
});

export const NARROW = {
  size: sized("n", WORDS_SIZE.min, WORDS_SIZE.max, (px) => `font-size:${px}px!important`),
  line: sized("l", WORDS_SIZE.min, LINE_MOST, (px) => `line-height:${px}px!important`),
  /** Of empty room, whose line is as high as it is. */
  room: sized(
    "h",
    LIMITS.spacer.least,
    LIMITS.spacer.most,
    (px) => `height:${px}px!important;font-size:${px}px!important;line-height:${px}px!important`,
  ),
} as const;

export const SIZE_RULES: readonly string[] = Object.values(NARROW).flatMap(({ rule, min, max }) =>
  Array.from({ length: max - min + 1 }, (_, i) => rule(min + i)),
);
