/** What becomes of what was brought, as HTML for a frame: each tag says what it is. */
import type { EmailDocument } from "#core/document/index.ts";
import { refsOf } from "#core/merge/index.ts";
import { previewOf } from "../campaigns/looks.ts";
import type { Services } from "../services.ts";
import { tagChoices } from "./arrive.ts";

export async function shownAs(services: Services, doc: EmailDocument): Promise<string> {
  const labels = new Map((await tagChoices(services)).map(({ ref, label }) => [ref, label]));
  return previewOf(services, doc, (email) =>
    Object.fromEntries(refsOf(email).map((ref) => [ref, `‹${labels.get(ref) ?? ref}›`])),
  );
}
