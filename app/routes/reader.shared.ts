/** The web version for others: the email as anybody would get it, nothing of the reader's in it. */
import { mergeText } from "#core/merge/index.ts";
import { launchReader, readyFor } from "#server/campaigns/emails.ts";
import { servicesContext } from "#server/http/context.ts";
import { webVersionHeaders } from "#server/http/policies.ts";
import { getRecipient, sentToMost } from "#server/store/launches/progress.ts";
import type { Route } from "./+types/reader.shared.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { database, signer } = context.get(servicesContext);
  const token = signer.read(params.token);
  const recipient =
    token?.kind === "message" ? await getRecipient(database.sql, token.recipient) : null;
  // What the team shares is of nobody: as the launch sent it to most, in its main language.
  const of =
    recipient ?? (token?.kind === "launch" ? await sentToMost(database.sql, token.launch) : null);
  const launch = of && (await readyFor(database.sql, of, signer));
  if (!launch) return new Response("This address is not complete.", { status: 404 });
  // Others read it in the language of whoever shares it; nothing else of that reader is in it.
  const { shared, compiled } = launch.forReader(recipient ?? { values: {} });
  const html = mergeText(shared().html, launchReader(launch, null, ""));
  return new Response(html, { headers: webVersionHeaders(compiled.lang) });
}
