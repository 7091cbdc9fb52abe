/** What is new, in cards: one article over the whole width, others in pairs, and what else one may have missed. */
import { footerOf, kitOf, nameOnSheet, type Scenes, templateOf } from "./parts.ts";

export function digestInCards(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, heading, text, live } = kit;
  return templateOf([
    nameOnSheet(kit, { parts: { logo: false, issue: true, links: false, webVersion: false } }),
    band("Opening", [
      heading("New to read this week"),
      text("One sentence that says what these have in common, and for whom they are."),
    ]),
    band("The newest", [live("digest", "lead", { order: "newest", count: 3 })]),
    band(
      "Missed",
      [heading("In case you missed it", 2), live("digest", "titles", { count: 4, skip: 3 })],
      { background: "tint" },
    ),
    footerOf(kit, false),
  ]);
}
