/** A shop's shelf: a code, what sells best, one product told at length, and how to order. */
import { line } from "../text/index.ts";
import { footerOf, kitOf, nameOnAccent, type Scenes, templateOf } from "./parts.ts";

export function shopShelf(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, block, item, heading, text, live, scene } = kit;
  return templateOf([
    nameOnAccent(kit),
    band(
      "Departments",
      [
        block(
          "linksRow",
          { between: "bar" },
          ["New", "For sowing now", "Gifts"].map((label) =>
            item("linksRow.link", { label: line(label), to: { kind: "web", address: line() } }),
          ),
        ),
      ],
      { background: "tint" },
    ),
    band("Opening", [
      heading("Fresh on the shelf"),
      text("What is new in the shop, and why now is the time for it."),
      block("coupon", { title: line("Free delivery this week") }),
    ]),
    band("Shelf", [live("shelf", "three", { order: "sold", count: 3, inStock: true })]),
    band(
      "One of them",
      [
        block("pictureAndWords", {
          ...scene("goods"),
          level: 2,
          parts: { picture: true, title: true, words: true, button: true },
        }),
      ],
      { background: "tint" },
    ),
    footerOf(kit, false),
  ]);
}
