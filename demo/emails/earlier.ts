/** The newsletters of the last three years: one shape, each with a subject of its own. */
import { createBlock, createDocument } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
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
  wideImage,
} from "./parts.ts";

export function earlierNewsletter(pictures: DemoPictures, subject: string): EmailDocument {
  const id = counter("e");
  const page = "https://larkmoor.example/notebook";
  const bands = [
    masthead(id),
    bandOf(id, "Opening", [
      wideImage(id, pictures.glasshouse, "The glasshouse on the hill", page),
      createBlock("heading", id, { words: phrase(subject) }),
      createBlock("text", id, {
        words: doc(paragraph("Dear ", firstName("gardener"), ", here is what the season brings.")),
      }),
      createBlock("button", id, { label: line("Read it"), to: web(`${page}/now`) }),
    ]),
    footer(id),
  ];
  return createDocument(bands, {
    theme: GARDEN_THEME,
    envelope: envelope(line(subject), line("News from the garden.")),
  });
}
