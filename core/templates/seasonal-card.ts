/** A card for a season: the image first, a wish, a name, and hardly a word more. */
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import { box, pad } from "../kinds/common.ts";
import { line } from "../text/index.ts";
import { footerOf, kitOf, type Scenes, templateOf } from "./parts.ts";

export function seasonalCard(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, heading, centred, wide, block } = kit;
  return templateOf([
    band("Image", [wide("path")]),
    band("Wish", [
      heading("A good winter", 1, {
        type: { ...PLAIN_TYPE, size: 40, spacing: 2 },
        box: box(pad(36, 40, 8), "center"),
      }),
      centred("May the dark months be kind to you, and the first green come early.", 72),
      block("divider", { share: 20, box: box(pad(8, 28), "center") }),
      block("masthead", {
        name: line("Your name here"),
        type: { ...PLAIN_TYPE, spacing: 10 },
        box: box(pad(4, 28, 36), "center"),
      }),
    ]),
    footerOf(kit, false),
  ]);
}
