/** A counted link: leads only to addresses that stand in the email itself. */
import { redirect } from "react-router";
import { linkAddress } from "#core/merge/index.ts";
import { launchReader, readyFor } from "#server/campaigns/emails.ts";
import { servicesContext } from "#server/http/context.ts";
import { signalOf } from "#server/http/signal.ts";
import { getRecipient } from "#server/store/launches/progress.ts";
import { recordReading } from "#server/store/reading.ts";
import type { Route } from "./+types/reader.click.ts";

const notFound = () => new Response("This link is not complete.", { status: 404 });

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { database, signer, clock } = context.get(servicesContext);
  const { sql } = database;
  const token = signer.read(params.token);
  const number = /^[1-9][0-9]{0,4}$/.test(params.link) ? Number(params.link) : 0;
  if (token?.kind !== "message" || number === 0) return notFound();
  const recipient = await getRecipient(sql, token.recipient);
  const launch = recipient && (await readyFor(sql, recipient, signer));
  if (!launch) return notFound();
  const reader = launchReader(launch, recipient, params.token);
  const address = linkAddress(launch.forReader(reader).compiled, number, reader);
  if (!address) return notFound();
  await recordReading(sql, "clicked", recipient, clock.now(), signalOf(request), number);
  return redirect(address, { headers: { "Cache-Control": "no-store" } });
}
