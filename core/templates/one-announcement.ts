/** One thing only: a large image, a line that says it, what it means, and what to do. */
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import { box, pad } from "../kinds/common.ts";
import { footerOf, kitOf, nameOnAccent, type Scenes, templateOf } from "./parts.ts";

export function oneAnnouncement(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, heading, centred, button, wide } = kit;
  return templateOf([
    nameOnAccent(kit),
    band("Image", [wide("house")]),
    band(
      "The news",
      [
        heading("The one thing you want them to know", 1, {
          box: box(pad(30, 40, 8), "center"),
          type: { ...PLAIN_TYPE, size: 34 },
          colour: "onAccent",
        }),
        centred(
          "From when it holds, where, and what changes for them: two sentences are enough.",
          56,
          {
            colour: "onAccent",
          },
        ),
      ],
      { background: "accent" },
    ),
    band(
      "What to do",
      [button("Say what to do now", { box: box(pad(24, 28, 24), "center"), size: 18 })],
      { background: "tint" },
    ),
    footerOf(kit, false),
  ]);
}
