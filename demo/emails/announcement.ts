/** A short email about one thing, as campaigns of the demo that are still to come or only begun. */
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

export interface Announced {
  readonly subject: string;
  readonly preview: string;
  readonly title: string;
  readonly words: string;
  readonly button: string;
  /** Where the button leads; nothing while nobody knows yet. */
  readonly to?: string;
  readonly picture?: keyof DemoPictures;
  readonly alt?: string;
}

export function announcement(pictures: DemoPictures, about: Announced): EmailDocument {
  const id = counter("a");
  const image = about.picture
    ? [wideImage(id, pictures[about.picture], about.alt ?? "", about.to)]
    : [];
  const bands = [
    masthead(id),
    bandOf(id, "Announcement", [
      ...image,
      createBlock("heading", id, { words: phrase(about.title) }),
      createBlock("text", id, {
        words: doc(paragraph("Dear ", firstName("gardener"), ","), paragraph(about.words)),
      }),
      createBlock("button", id, {
        label: line(about.button),
        ...(about.to && { to: web(about.to) }),
      }),
    ]),
    footer(id),
  ];
  return createDocument(bands, {
    theme: GARDEN_THEME,
    envelope: envelope(line(about.subject), line(about.preview)),
  });
}
