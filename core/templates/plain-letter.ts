/** A letter: no image and no button, as one person writes to another. */
import { dear, footerOf, kitOf, nameOnSheet, type Scenes, templateOf } from "./parts.ts";

export function plainLetter(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, text, block } = kit;
  return templateOf([
    nameOnSheet(kit),
    band("Letter", [
      text(
        dear("friend"),
        "Begin with why you write today. A letter is read to its end where each sentence is needed.",
        "Then the matter itself: what happened, what it means for them, and what you think of it.",
        "Close with the one thing you ask of them, and with a link in the words where it belongs.",
      ),
      block("signOff", {
        parts: { picture: false, greeting: true, signature: false, role: true },
      }),
    ]),
    footerOf(kit),
  ]);
}
