/** Colours as the eye orders them: OKLab and OKLCh (CSS Color 4, 9.3). */
import { converter, formatHex } from "culori";
import { contrast } from "./theme.ts";

/** Lightness 0–1, and two opposing axes. */
export type Lab = readonly [l: number, a: number, b: number];
const toOklab = converter("oklab");

export function labOf(hex: string): Lab {
  const { l, a, b } = toOklab(hex)!;
  return [l, a, b];
}
/** The nearest colour of sRGB, as hex. */
export function hexOfLab([l, a, b]: Lab): string {
  // Chroma gives way until a screen can show it, lightness and hue stay.
  for (let share = 1; share > 0; share -= 0.05) {
    const rgb = converter("rgb")({ mode: "oklab", l, a: a * share, b: b * share });
    if ([rgb.r, rgb.g, rgb.b].every((one) => one > -0.002 && one < 1.002)) return formatHex(rgb)!;
  }
  return formatHex({ mode: "oklab", l, a: 0, b: 0 })!;
}

export const chroma = ([, a, b]: Lab): number => Math.hypot(a, b);
export const apart = (x: Lab, y: Lab): number => Math.hypot(x[0] - y[0], x[1] - y[1], x[2] - y[2]);
const withLightness = ([, a, b]: Lab, l: number): Lab => [l, a, b];
/** The same hue, as light as asked for, and no more colourful than this. */
export function shade(of: Lab, l: number, most: number): string {
  const c = chroma(of);
  const share = c > most ? most / c : 1;
  return hexOfLab([l, of[1] * share, of[2] * share]);
}

/**
 * A colour of the same hue that words in it are read on all of some grounds: it goes darker or lighter, whichever is
 * nearer, until the ratio holds (WCAG 2.2, 1.4.3).
 */
export function readableOn(hex: string, grounds: readonly string[], least = 4.5): string {
  const lab = labOf(hex);
  const fits = (one: string) => grounds.every((ground) => contrast(one, ground) >= least);
  for (let step = 0; step <= 100; step++) {
    for (const way of [-1, 1]) {
      const l = lab[0] + (way * step) / 100;
      if (l < 0 || l > 1) continue;
      const one = step === 0 ? hex : hexOfLab(withLightness(lab, l));
      if (fits(one)) return one;
    }
  }
  const [black, white] = ["#000000", "#ffffff"];
  const worst = (one: string) => Math.min(...grounds.map((ground) => contrast(one, ground)));
  return worst(black) >= worst(white) ? black : white;
}
