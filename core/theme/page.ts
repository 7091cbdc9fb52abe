/** The colours of a page in a brand's theme: its own, as far as words can be read on them (WCAG 2.2, 1.4.3). */
import { contrast, type Palette } from "./theme.ts";

const ENOUGH = 4.5;

export interface PageColours {
  readonly ground: string;
  readonly sheet: string;
  readonly tint: string;
  readonly line: string;
  readonly ink: string;
  readonly quiet: string;
  /** Links, and the ground of buttons. */
  readonly accent: string;
  readonly onAccent: string;
  /** Something is wrong. */
  readonly wrong: string;
}

/** Black or white, whichever is read better on all of the grounds. */
const plainInk = (grounds: readonly string[]): string => {
  const least = (ink: string) => Math.min(...grounds.map((ground) => contrast(ink, ground)));
  return least("#000000") >= least("#ffffff") ? "#000000" : "#ffffff";
};

/** `wrong` is the red that is wanted. What cannot be read is replaced by what can. */
export function pageColours(palette: Palette, wrong: string): PageColours {
  const { ground, sheet, tint, line } = palette;
  const readable = (ink: string, on: readonly string[]) =>
    on.every((one) => contrast(ink, one) >= ENOUGH);
  // A sheet that is too unlike the ground for one ink to be read on both gives way to it.
  const together = [palette.ink, "#000000", "#ffffff"].some((ink) =>
    readable(ink, [ground, sheet]),
  );
  const shown = together ? sheet : ground;
  const grounds = [ground, shown];
  const ink = readable(palette.ink, grounds) ? palette.ink : plainInk(grounds);
  const orInk = (one: string) => (readable(one, grounds) ? one : ink);
  const accent = orInk(palette.accent);
  const onAccent = [palette.onAccent, sheet, ground].find((one) => readable(one, [accent]));
  return {
    ...{ ground, line, ink, accent },
    sheet: shown,
    tint: readable(accent, [tint]) && readable(ink, [tint]) ? tint : shown,
    quiet: orInk(palette.quiet),
    onAccent: onAccent ?? plainInk([accent]),
    wrong: orInk(wrong),
  };
}
