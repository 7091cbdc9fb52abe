/** The web version of a reader's message, or of a test. */
import { languageOf } from "#core/languages/index.ts";
import { mergeText, prepare } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { readerOf, worldOfEmail } from "#server/audience/readers.ts";
import { launchReader, readyFor, surroundings } from "#server/campaigns/emails.ts";
import { servicesContext } from "#server/http/context.ts";
import { webVersionHeaders } from "#server/http/policies.ts";
import type { Services } from "#server/services.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { getContact } from "#server/store/contacts.ts";
import { loadDocument } from "#server/store/documents.ts";
import { getRecipient } from "#server/store/launches/progress.ts";
import type { Route } from "./+types/reader.web.ts";

async function page(
  services: Services,
  text: string,
): Promise<{ html: string; lang: string } | null> {
  const { database, signer, config, clock } = services;
  const { sql } = database;
  const token = signer.read(text);
  if (!token) return null;
  if (token.kind === "message") {
    const recipient = await getRecipient(sql, token.recipient);
    const launch = recipient && (await readyFor(sql, recipient, signer));
    if (!launch) return null;
    const own = launchReader(launch, recipient, text);
    const { web, compiled } = launch.forReader(own);
    return { html: mergeText(web.html, own), lang: compiled.lang };
  }
  if (token.kind !== "sample") return null;
  const campaign = await getCampaign(sql, token.campaign);
  const stored = campaign && (await loadDocument(sql, campaign.documentId));
  if (!stored) return null;
  const around = await surroundings(sql, config, stored.doc, clock.now(), campaign.id);
  const unsent = { doc: stored.doc, around, campaign };
  const world = await worldOfEmail(services, unsent);
  const contact = await getContact(sql, token.contact);
  const reader = await readerOf(services, unsent, world, contact, text);
  const own = compile(stored.doc, around, languageOf(stored.doc, reader.values));
  const options = { links: "direct", marks: false, sign: signer.seal } as const;
  return { html: mergeText(prepare(own, options).html, reader), lang: own.lang };
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const found = await page(context.get(servicesContext), params.token);
  if (!found) return new Response("This address is not complete.", { status: 404 });
  return new Response(found.html, { headers: webVersionHeaders(found.lang) });
}
