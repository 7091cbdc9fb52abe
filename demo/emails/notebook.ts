/** The email that waits for its time. */
import { createBlock, createDocument, itemKind } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { box, pad } from "#core/kinds/common.ts";
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
  masthead,
  web,
} from "./parts.ts";

export function notebook(pictures: DemoPictures): EmailDocument {
  const id = counter("n");
  const bands = [
    masthead(id),
    bandOf(id, "Opening", [
      createBlock("heading", id, { words: phrase("The gardeners’ notebook") }),
      createBlock("text", id, {
        words: doc(
          paragraph("Hello ", firstName("gardener"), ", three things from the beds this week."),
        ),
      }),
      createBlock("image", id, {
        picture: pictures.glasshouse,
        alt: line("The glasshouse in the evening"),
        corner: 4,
      }),
      createBlock("text", id, {
        words: doc(
          "The glass was cleaned on Tuesday, and the ferns noticed before we did.",
          "Cuttings taken now root in four weeks on a north sill. Keep them damp, not wet.",
        ),
      }),
      createBlock("button", id, {
        label: line("Read the notebook"),
        to: web("https://larkmoor.example/notebook"),
      }),
      createBlock(
        "signOff",
        id,
        {
          greeting: line("Until next week"),
          name: line("The gardeners"),
          role: line("Larkmoor Hill"),
          box: box(pad(16, 28)),
        },
        [
          createItem(itemKind("signOff.way")!, id, {
            label: line("Write to us"),
            to: { kind: "mail", address: "garden@larkmoor.example" },
          }),
        ],
      ),
    ]),
    footer(id),
  ];
  return createDocument(bands, {
    theme: GARDEN_THEME,
    envelope: envelope(
      line("From the gardeners’ notebook"),
      line("Clean glass, cuttings, and a word on ferns."),
    ),
  });
}
