/** How tests take foreign emails apart: every image is in the library, no tag means anything, ids count on. */
import { createHash } from "node:crypto";
import type { Foreign, Kept, Taking } from "../import/emails/index.ts";
import { keptIn, takeApart } from "../import/emails/index.ts";
import { STANDARD_THEME } from "../theme/theme.ts";

const pictureOf = (src: string) => createHash("sha256").update(src).digest("hex");

export function taking(): Taking {
  let n = 0;
  return {
    ...{ subject: "", theme: STANDARD_THEME, keepLook: true, aloneIsButton: false },
    meanings: new Map(),
    newId: () => `n${++n}`,
    pictureOf,
    addressOf: () => null,
  };
}

/** What is kept of an email that is taken apart so, and the document that comes of it. */
export function keptOf(foreign: Foreign): { doc: ReturnType<typeof takeApart>["doc"]; kept: Kept } {
  const { doc } = takeApart(foreign, taking());
  const srcs = new Map(foreign.images.map((src) => [pictureOf(src), src]));
  const kept = keptIn(
    foreign.body,
    doc,
    () => "",
    (picture) => srcs.get(picture) ?? picture,
  );
  return { doc, kept };
}
