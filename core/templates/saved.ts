/** Ready-made parts that ship: mastheads, banners and footers to be put into any email. A new one is an entry here. */
import type { DocNode } from "../document/index.ts";
import { box, pad } from "../kinds/common.ts";
import { line, phrase } from "../text/index.ts";
import { footerOf, type Kit, kitOf, nameOnAccent, nameOnSheet } from "./parts.ts";

export interface ReadyMade {
  readonly key: string;
  readonly name: string;
  make(kit: Kit): DocNode;
}

const middle = (top: number, bottom = top) => box(pad(top, 28, bottom), "center");

export const READY_MADE: readonly ReadyMade[] = [
  { key: "masthead-accent", name: "Masthead on the accent", make: (kit) => nameOnAccent(kit) },
  { key: "masthead-plain", name: "Masthead, plain", make: (kit) => nameOnSheet(kit) },
  {
    key: "banner-news",
    name: "Banner with a button",
    make: ({ band, heading, centred, button }) =>
      band(
        "Banner",
        [
          heading("One thing to say", 1, { colour: "onAccent", box: middle(36, 4) }),
          centred("And a sentence that makes somebody want to know more.", 40, {
            colour: "onAccent",
            box: middle(4, 12),
          }),
          button("Find out more", {
            ...{ fill: "sheet", colour: "accent" },
            box: middle(8, 36),
          }),
        ],
        { background: "accent" },
      ),
  },
  {
    key: "banner-line",
    name: "Banner of one line",
    make: ({ band, block }) =>
      band(
        "Banner",
        [
          block("heading", {
            words: phrase("Until Sunday: everything for the winter garden"),
            ...{ level: 3, box: middle(12) },
          }),
        ],
        { background: "tint" },
      ),
  },
  { key: "footer-rule", name: "Footer under a line", make: (kit) => footerOf(kit) },
  {
    key: "footer-links",
    name: "Footer with links",
    make: ({ band, block, item }) =>
      band(
        "Footer",
        [
          block("linksRow", {}, [
            ...["Visit", "What is on", "Shop"].map((label) =>
              item("linksRow.link", { label: line(label) }),
            ),
          ]),
          block("footer"),
        ],
        { background: "tint" },
      ),
  },
];

/** A ready-made part by its key; null where there is none. */
export function readyMade(key: string): DocNode | null {
  const found = READY_MADE.find((one) => one.key === key);
  return found ? found.make(kitOf(null)) : null;
}
