/** What was brought and what becomes of it, as HTML for a frame. */
import type { EmailDocument } from "#core/document/index.ts";
import { mergeText, prepare, refsOf, unsigned } from "#core/merge/index.ts";
import { pictureAddress } from "#core/picture-id.ts";
import { compile } from "#core/render/index.ts";
import { surroundings } from "../campaigns/emails.ts";
import type { Services } from "../services.ts";
import type { Arrival } from "../store/arrivals.ts";
import { getSchema } from "../store/fields.ts";
import { getPictures } from "../store/pictures.ts";
import { tagFields } from "../store/tag-values.ts";

/** As it came; its images are ours, and nothing is fetched from anywhere. */
export async function cameAs(
  { database }: Pick<Services, "database">,
  { html, pictures }: Pick<Arrival, "html" | "pictures">,
): Promise<string> {
  const ids = Object.values(pictures).filter((id) => id !== null);
  const known = new Map((await getPictures(database.sql, ids)).map((one) => [one.id, one]));
  let shown = html;
  for (const [src, id] of Object.entries(pictures)) {
    const picture = id && known.get(id);
    if (!picture) continue;
    const address = pictureAddress("", picture);
    for (const written of [src, src.replaceAll("&", "&amp;")]) {
      shown = shown
        .replaceAll(`"${written}"`, `"${address}"`)
        .replaceAll(`'${written}'`, `'${address}'`);
    }
  }
  return shown
    .replace(/\bsrcset\s*=/gi, "data-srcset=")
    .replace(/\b(src|background|poster)(\s*=\s*["']?\s*)(?:https?:)?\/\//gi, "data-$1$2//")
    .replace(/url\(\s*(["']?)\s*(?:https?:)?\/\//gi, "url($1about:");
}

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
