/** Words over a picture, against how light it is. */
import type { Finding, Picture } from "../kinds/kind.ts";
import { nameInAddress } from "../picture-id.ts";
import { colourPairs, type Pair } from "../render/index.ts";
import { forcedDark } from "../theme/forced-dark.ts";
import { colourOf, luminance } from "../theme/theme.ts";
import { lostOver } from "../theme/tones.ts";
import type { Check, CheckInput } from "./check.ts";
import { needed } from "./contrast.ts";

/** Of so much of a picture words may be lost: they seldom stand everywhere. Per cent. */
const SOME = 25;
/** From here on they are lost wherever they stand, or nearly. */
const MOST = 60;

/** The luminance that stands out from black and from white alike. */
const MIDDLE = 0.179;

interface Lost {
  readonly where: string;
  readonly share: number;
}

/** Where most of a pair's words is lost over its picture; null where little is. */
function lostWords(pair: Pair, tones: readonly number[], { email }: CheckInput): Lost | null {
  const { dark } = email.theme;
  const least = needed(pair);
  const inks = [{ where: "", ink: pair.ink, least }];
  if (dark && pair.inkRole) {
    inks.push({ where: " in dark mail programs", ink: colourOf(dark, pair.inkRole), least });
  }
  // Pictures stay as they are there, and that words can still be made out is enough. Nobody can do anything about
  // programs that turn light words over dark pictures as well.
  const [, { ink }] = forcedDark(pair.ink, pair.ground);
  inks.push({ where: " in mail programs that darken by force", ink, least: Math.min(least, 3) });
  const all = inks.map((one): Lost => ({ ...one, share: lostOver(one.ink, tones, one.least) }));
  return all.find(({ share }) => share >= SOME) ?? null;
}

/** Words that stand out too little from the picture behind them (WCAG 2.2, 1.4.3). */
export const imageContrast: Check = {
  id: "image-contrast",
  run(input) {
    const { compiled, surroundings } = input;
    const pictures = new Map<string, Picture>();
    for (const one of surroundings.pictures.values()) pictures.set(nameInAddress(one.file), one);
    const told = new Set<string>();
    return colourPairs(compiled.html).flatMap((pair): Finding[] => {
      if (pair.over === null || pair.unsure || told.has(pair.node)) return [];
      const picture = pictures.get(pair.over.slice(pair.over.lastIndexOf("/") + 1));
      const lost = picture?.tones ? lostWords(pair, picture.tones, input) : null;
      if (!lost) return [];
      told.add(pair.node);
      const byForce = lost.where.endsWith("force");
      return [
        {
          check: "image-contrast",
          severity: lost.share < MOST || byForce ? "hint" : "look",
          message: `Words are hard to read on their image${lost.where}`,
          detail: `“${pair.words}” stands out too little from ${lost.share} % of “${picture!.name}”: give the words a background, or choose an image that is ${luminance(pair.ink) > MIDDLE ? "darker" : "lighter"}.`,
          at: pair.node,
        },
      ];
    });
  },
};
