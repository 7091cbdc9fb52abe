/** The email as a Liquid template, to download. */
import { toLiquid } from "#core/export/liquid/index.ts";
import { compile } from "#core/render/index.ts";
import { surroundings } from "#server/campaigns/emails.ts";
import { loadDocument } from "#server/store/documents.ts";
import { at, campaignOf } from "../request.ts";
import type { Route } from "./+types/api.liquid.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, sql, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const { doc } = (await loadDocument(sql, campaign.documentId))!;
  const template = toLiquid(
    compile(doc, await surroundings(sql, services.config, doc, now, campaign.id)),
    {
      links: "direct",
      sign: services.signer.seal,
    },
  );
  return new Response(template.html, {
    headers: {
      "Content-Type": "text/plain; charset=utf-8",
      "Content-Disposition": `attachment; filename="email.liquid"`,
    },
  });
}
