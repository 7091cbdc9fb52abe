/** The web version of a reader's message, or of a test. */
import { mergeText, prepare } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { servicesContext } from "#server/context.ts";
import { readyLaunchById, surroundings } from "#server/emails.ts";
import { webVersionPolicy } from "#server/http/policies.ts";
import type { Services } from "#server/services.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { getContact, readerOf } from "#server/store/contacts.ts";
import { loadDocument } from "#server/store/documents.ts";
import { getRecipient } from "#server/store/launches.ts";
import type { Route } from "./+types/reader.web.ts";

async function page(services: Services, text: string): Promise<string | null> {
  const { database, signer, config } = services;
  const { sql } = database;
  const token = signer.read(text);
  if (!token) return null;
  if (token.kind === "message") {
    const recipient = await getRecipient(sql, token.recipient);
    const launch = recipient && (await readyLaunchById(sql, recipient.launchId, signer));
    if (!launch) return null;
    return mergeText(launch.web.html, { values: recipient.values, token: text });
  }
  if (token.kind === "person") return null;
  const campaign = await getCampaign(sql, token.campaign);
  const stored = campaign && (await loadDocument(sql, campaign.documentId));
  if (!stored) return null;
  const compiled = compile(stored.doc, await surroundings(sql, config));
  const contact = await getContact(sql, token.contact);
  return mergeText(
    prepare(compiled, { links: "direct", marks: false, sign: signer.seal }).html,
    await readerOf(sql, contact, text),
  );
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const html = await page(context.get(servicesContext), params.token);
  if (html === null) return new Response("This address is not complete.", { status: 404 });
  return new Response(html, {
    headers: {
      "Content-Type": "text/html; charset=utf-8",
      "Content-Security-Policy": webVersionPolicy,
    },
  });
}
