/** Development only: one sample as the email it is, without its style element or its pictures if asked for. */
import { familyOf, showIn } from "#core/clients/index.ts";
import { mergeText, prepare } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { type Sample, samples } from "#core/testing/samples.ts";
import { surroundings } from "#server/campaigns/emails.ts";
import { sheetPolicy } from "#server/http/policies.ts";
import { getPictures, oldestPictures } from "#server/store/pictures.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/gallery.sample.ts";

/** All samples, by their names: drawn anew only where other pictures stand in them. */
let drawn: { readonly of: string; readonly samples: ReadonlyMap<string, Sample> } | undefined;
function sampleNamed(name: string, pictures: readonly [string, ...string[]]): Sample | undefined {
  const of = pictures.join();
  if (drawn?.of !== of) {
    drawn = { of, samples: new Map(samples(pictures).map((one) => [one.name, one])) };
  }
  return drawn.samples.get(name);
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services, sql, now } = at(context);
  // The oldest: what is uploaded later changes no sample.
  const [picture = "0".repeat(64), , ...others] = await oldestPictures(sql, 3);
  const sample = sampleNamed(params.name, [picture, ...others]);
  if (!services.config.gallery || !sample) return new Response("No such sample", { status: 404 });
  const around = await surroundings(sql, services.config, sample.doc, now);
  const shown = await getPictures(sql, new Set([...around.pictures.keys(), picture]));
  const pictures = new Map(shown.map((one) => [one.id, one]));
  // The same items on every day, whatever the sources bring.
  const { live } = sample;
  const compiled = compile(sample.doc, { ...around, pictures, live, publicAddress: "" });
  // As on the sheet: a sample shows where a picture will be, too.
  const sign = services.signer.seal;
  const options = { links: "direct", marks: false, unfilled: true, sign } as const;
  const own = mergeText(prepare(compiled, options).html, { values: {}, token: "t" });
  const family = familyOf(new URL(request.url).searchParams.get("as") ?? "sent");
  const { html } = showIn(family, own);
  return new Response(html, {
    headers: {
      "Content-Type": "text/html; charset=utf-8",
      "Content-Security-Policy": sheetPolicy,
    },
  });
}
