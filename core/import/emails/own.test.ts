/** Our own emails, taken out as HTML and in again: nothing of what is read in them is lost. */
import fc from "fast-check";
import { expect, it } from "vitest";
import { documentArbitrary } from "../../testing/arbitrary-documents.ts";
import { rendered } from "../../testing/rendered.ts";
import { STANDARD_THEME } from "../../theme/theme.ts";
import { keptIn, readForeign, takeApart } from "./index.ts";

function again(html: string) {
  let n = 0;
  const foreign = readForeign(html);
  const pictureOf = (src: string) => Buffer.from(src).toString("hex").padEnd(64, "0").slice(-64);
  const { doc } = takeApart(foreign, {
    ...{ subject: "", theme: STANDARD_THEME, keepLook: true, aloneIsButton: false },
    meanings: new Map(),
    newId: () => `n${++n}`,
    pictureOf,
  });
  const srcs = new Map(foreign.images.map((src) => [pictureOf(src), src]));
  return keptIn(
    foreign.body,
    doc,
    () => "",
    (picture) => srcs.get(picture) ?? picture,
  );
}

it("keeps every word, link and image of any of our emails", () => {
  fc.assert(
    fc.property(documentArbitrary, (document) => {
      const kept = again(rendered(document).html);
      for (const [some, all] of Object.values(kept)) expect(some).toBe(all);
    }),
    { numRuns: 100 },
  );
});
