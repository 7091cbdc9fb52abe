/** For members alone: an evening, its programme, images of the last one, and a code for the door. */
import { newRow, TABLE_KINDS } from "../blocks/table-items.ts";
import { box, pad } from "../kinds/common.ts";
import { createItem } from "../kinds/item.ts";
import { line } from "../text/index.ts";
import { footerOf, kitOf, nameOnSheet, type Scene, type Scenes, templateOf } from "./parts.ts";

export function membersEvening(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { id, band, columns, block, item, heading, text, button, scene } = kit;
  const image = (which: Scene, caption: string) =>
    item("pictureGrid.picture", { caption: line(caption), ...scene(which) });
  return templateOf([
    nameOnSheet(kit, { box: box(pad(22, 28, 10), "center"), layout: "middle" }),
    columns(
      "For members",
      [
        [[heading("An evening for members"), text("When it is, where, and who will be there.")], 3],
        [[block("qrCode", { size: 120, caption: line("Your way in") })], 2],
      ],
      { background: "tint" },
    ),
    band("Programme", [
      heading("The evening", 2),
      block("table", { header: false, rowHeader: true, onNarrow: "stay" }, [
        createItem(TABLE_KINDS.column, id, { share: 25 }),
        createItem(TABLE_KINDS.column, id, { share: 75 }),
        newRow(id, ["18:00", "The doors open"]),
        newRow(id, ["18:30", "A walk by lantern"]),
        newRow(id, ["20:00", "Soup and bread"]),
      ]),
      button("I will come"),
    ]),
    band("Last year", [
      heading("As it was last year", 2),
      block("pictureGrid", { shape: 75 }, [
        image("house", "Under glass"),
        image("path", "By the brook"),
      ]),
    ]),
    footerOf(kit),
  ]);
}
