/** Follows a campaign's email: server-sent events (WHATWG HTML, 9.2) with every edit as it is stored. */
import { z } from "zod";
import type { StoredEdit } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { sessionContext } from "#server/http/context.ts";
import { editsSince } from "#server/store/documents.ts";
import { memberOfSession } from "#server/store/team.ts";
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

const HEARTBEAT_MS = 20_000;

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { documentId } = await campaignOf(context, params.campaign);
  const { services, sql, member } = at(context);
  const session = context.get(sessionContext);
  const query = new URL(request.url).searchParams;
  const { since, tab } = querySchema.parse(Object.fromEntries(query));
  const encoder = new TextEncoder();
  let end = () => {};
  const free = services.streams.open(session, () => end());
  if (!free) return new Response("Too many are open already.", { status: 429 });
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      const write = (text: string) => {
        // A reader that has stopped reading is not waited for: it asks anew for what it missed.
        if ((controller.desiredSize ?? 0) < -LIMITS.streamWaiting) end();
        else controller.enqueue(encoder.encode(text));
      };
      const tell = (edits: readonly StoredEdit[]) => {
        if (edits.length) write(`data: ${JSON.stringify(edits)}\n\n`);
      };
      write(": following\n\n");
      // Follow first, then read what was missed: an edit may come twice, never get lost.
      const unfollow = services.followers.follow(
        documentId,
        tab === "" ? null : { tab, name: member.name },
        {
          edits: tell,
          presence: (people) => write(`event: presence\ndata: ${JSON.stringify(people)}\n\n`),
        },
      );
      const heartbeat = setInterval(async () => {
        const still = await memberOfSession(sql, session, services.clock.now()).catch(() => member);
        if (still) write(": still here\n\n");
        else end();
      }, HEARTBEAT_MS);
      let ended = false;
      end = () => {
        if (ended) return;
        ended = true;
        clearInterval(heartbeat);
        unfollow();
        free();
        try {
          controller.close();
        } catch {
          // Closed by the other side already.
        }
      };
      request.signal.addEventListener("abort", end);
      try {
        tell(await editsSince(sql, documentId, since));
      } catch (error) {
        end();
        throw error;
      }
    },
    cancel: () => end(),
  });
  return new Response(body, {
    headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-store" },
  });
}
