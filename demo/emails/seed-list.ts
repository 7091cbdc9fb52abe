/** The email that has been sent. */
import { createBlock, createDocument } from "#core/blocks/index.ts";
import { newRow, TABLE_KINDS } from "#core/blocks/table-items.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { createItem } from "#core/kinds/item.ts";
import { doc, line, paragraph, phrase } from "#core/text/index.ts";
import {
  bandOf,
  counter,
  type DemoPictures,
  envelope,
  firstName,
  footer,
  GARDEN_THEME,
  linked,
  masthead,
  web,
  wideImage,
} from "./parts.ts";

export function seedList(pictures: DemoPictures): EmailDocument {
  const id = counter("s");
  const bands = [
    masthead(id),
    bandOf(id, "Opening", [
      wideImage(
        id,
        pictures["seed-packets"],
        "Three seed packets: plum, green and gold",
        "https://larkmoor.example/seeds",
      ),
      createBlock("heading", id, { words: phrase("The new seed list is here") }),
      createBlock("text", id, {
        words: doc(
          paragraph(
            "Dear ",
            firstName("gardener"),
            ", forty kinds, all grown and saved on our own ground. The first orders leave on Monday.",
          ),
        ),
      }),
      createBlock("button", id, {
        label: line("See the list"),
        to: web("https://larkmoor.example/seeds/list"),
      }),
    ]),
    bandOf(id, "New this year", [
      createBlock("heading", id, { words: phrase("New this year"), level: 2 }),
      createBlock("table", id, { onNarrow: "pairs" }, [
        createItem(TABLE_KINDS.column, id, { share: 45 }),
        createItem(TABLE_KINDS.column, id, { share: 35 }),
        createItem(TABLE_KINDS.column, id, { share: 20, align: "end" }),
        newRow(id, ["Kind", "Sow", "Packet"]),
        newRow(id, ["Saltmere sweet pea", "March, under glass", "£2.40"]),
        newRow(id, ["Brook angelica", "May, where it stays", "£1.90"]),
        newRow(id, ["Larkmoor marigold", "April to June", "£1.60"]),
      ]),
    ]),
    bandOf(
      id,
      "How to sow",
      [
        createBlock("heading", id, { words: phrase("How to sow them"), level: 2 }),
        createBlock("text", id, {
          words: doc({
            type: "paragraph",
            content: [
              { type: "text", text: "Our gardeners wrote down " },
              linked("what they do week by week", "https://larkmoor.example/notebook/sowing"),
              { type: "text", text: "." },
            ],
          }),
        }),
      ],
      { background: "tint" },
    ),
    footer(id),
  ];
  return createDocument(bands, {
    theme: GARDEN_THEME,
    envelope: envelope(
      line("The new seed list, ", firstName("gardener")),
      line("Forty kinds from our own ground."),
    ),
  });
}
