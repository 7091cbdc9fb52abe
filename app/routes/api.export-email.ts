/** An email as a file to download; `sheet` is its HTML with images of this house, for painting. */
import { z } from "zod";
import type { EmailProps } from "#core/blocks/layout.ts";
import { exportedOf } from "#server/export/email.ts";
import { FORMATS, type Format, isFormat } from "#server/export/formats.ts";
import { fileNameOf } from "#server/export/name.ts";
import { at, campaignOf } from "../request.ts";
import type { Route } from "./+types/api.export-email.ts";

const querySchema = z.object({
  contact: z.coerce.number().int().min(0).catch(0),
  tags: z.stringbool().catch(false),
  lang: z.string().max(20).nullable().catch(null),
});

const SHEET: Format = {
  ...{ label: "", about: "", ending: "html", type: "text/html; charset=utf-8", as: "reader" },
  make: (email) => email.written().html.replaceAll(`${email.services.config.publicAddress}/`, "/"),
};

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services } = at(context);
  const { format: key } = params;
  const format: Format | null = key === "sheet" ? SHEET : isFormat(key) ? FORMATS[key] : null;
  if (!format) return new Response("There is no such file.", { status: 404 });
  const campaign = await campaignOf(context, params.campaign);
  const asked = new URL(request.url).searchParams;
  const query = querySchema.parse({
    contact: asked.get("contact") ?? 0,
    tags: asked.get("tags") ?? "no",
    lang: asked.get("lang") || null,
  });
  const email = await exportedOf(services, campaign, {
    ...query,
    lang: (known) => {
      const { lang, others } = known.root.props as unknown as EmailProps;
      return [lang, ...others].find((one) => one === query.lang) ?? null;
    },
  });
  if (!email) return new Response("The email of this campaign is gone.", { status: 404 });
  const body = await format.make(email);
  return new Response(typeof body === "string" ? body : new Uint8Array(body), {
    headers: {
      "Content-Type": format.type,
      "Content-Disposition": `attachment; filename="${fileNameOf(campaign.name)}.${format.ending}"`,
      "Cache-Control": "no-store",
      // Whatever it holds, nothing of it runs here.
      "Content-Security-Policy": "sandbox; default-src 'none'",
    },
  });
}
