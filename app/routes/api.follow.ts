/** Follows a campaign's email: an event with every edit as it is stored. */
import { z } from "zod";
import type { StoredEdit } from "#core/document/index.ts";
import { editsSince } from "#server/store/documents.ts";
import { eventStream } from "../event-stream.ts";
import { at, campaignOf } from "../request.ts";
import type { Route } from "./+types/api.follow.ts";

/** What cannot be read counts as nothing known yet, and as a tab without a name, which nobody sees there. */
const querySchema = z.object({
  since: z.coerce.number().int().min(0).catch(0),
  tab: z
    .string()
    .regex(/^[A-Za-z0-9_-]{4,40}$/)
    .catch(""),
});

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { documentId } = await campaignOf(context, params.campaign);
  const { services, sql, member } = at(context);
  const query = new URL(request.url).searchParams;
  const { since, tab } = querySchema.parse(Object.fromEntries(query));
  return eventStream(request, context, ({ send }) => {
    const tell = (edits: readonly StoredEdit[]) => {
      if (edits.length) send(edits);
    };
    // Follow first, then read what was missed: an edit may come twice, never get lost.
    const stop = services.followers.follow(
      documentId,
      tab === "" ? null : { tab, name: member.name },
      { edits: tell, presence: (people) => send(people, "presence") },
    );
    return { stop, first: editsSince(sql, documentId, since).then(tell) };
  });
}
