/** Our own emails, taken out as HTML and in again: nothing of what is read in them is lost. */
import fc from "fast-check";
import { expect, it } from "vitest";
import { documentArbitrary } from "../../testing/arbitrary-documents.ts";
import { keptOf } from "../../testing/foreign.ts";
import { rendered } from "../../testing/rendered.ts";
import { readForeign } from "./index.ts";

it("keeps every word, link and image of any of our emails", () => {
  fc.assert(
    fc.property(documentArbitrary, (document) => {
      const { kept } = keptOf(readForeign(rendered(document).html));
      for (const [some, all] of Object.values(kept)) expect(some).toBe(all);
    }),
    { numRuns: 100 },
  );
});
