/** An invitation: what, when and where at a glance, what there will be, who speaks, and a place to be kept. */
import { newRow, TABLE_KINDS } from "../blocks/table-items.ts";
import { createItem } from "../kinds/item.ts";
import { footerOf, kitOf, nameOnSheet, type Scenes, templateOf } from "./parts.ts";

export function comeToThis(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { id, band, columns, block, heading, text, button, wide } = kit;
  return templateOf([
    nameOnSheet(kit),
    band("Image", [wide("path")]),
    columns("What and when", [
      [
        [heading("Come to this"), text("What it is, in two sentences: why it is worth the way.")],
        3,
      ],
      [
        [
          block("table", { header: false, rowHeader: true, rules: "none", onNarrow: "stay" }, [
            createItem(TABLE_KINDS.column, id, { share: 40 }),
            createItem(TABLE_KINDS.column, id, { share: 60 }),
            newRow(id, ["Day", "Saturday, 7 March"]),
            newRow(id, ["Time", "10:00 to 12:00"]),
            newRow(id, ["Place", "At the gate"]),
          ]),
        ],
        2,
      ],
    ]),
    band("Answer", [button("Keep me a place", { wide: "full" })]),
    band(
      "What there will be",
      [
        heading("What there will be", 2),
        text(
          "First this, with coffee.",
          "Then that, out of doors: bring shoes that may get wet.",
          "And at noon something to take home.",
        ),
        block("quote"),
      ],
      { background: "tint" },
    ),
    footerOf(kit, false),
  ]);
}
