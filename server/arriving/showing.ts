/** What was brought and what becomes of it, as HTML for a frame. */
import type { EmailDocument } from "#core/document/index.ts";
import { mergeText, prepare, refsOf, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { surroundings } from "../campaigns/emails.ts";
import type { Services } from "../services.ts";
import { getSchema } from "../store/fields.ts";
import { tagFields } from "../store/tag-values.ts";

/** What becomes of it, as nobody in particular sees it. */
export async function shownAs(
  { database, config, clock }: Pick<Services, "database" | "config" | "clock">,
  doc: EmailDocument,
): Promise<string> {
  const around = await surroundings(database.sql, config, doc, clock.now());
  const email = compile(doc, { ...around, publicAddress: "" });
  const fields = tagFields(await getSchema(database.sql));
  const values = Object.fromEntries(
    refsOf(email).map((ref) => [ref, `‹${fields.get(ref.split(":")[1] ?? "")?.label ?? ref}›`]),
  );
  const options = { links: "direct", marks: false, unfilled: true, sign: unsigned } as const;
  return mergeText(prepare(email, options).html, { values, token: "" });
}
