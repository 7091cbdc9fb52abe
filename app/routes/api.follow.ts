/** Follows a campaign's email: server-sent events (WHATWG HTML, 9.2) with every edit as it is stored. */
import type { StoredEdit } from "#core/document/index.ts";
import { editsSince } from "#server/store/documents.ts";
import { at, campaignOf } from "../request.ts";
import type { Route } from "./+types/api.follow.ts";

const HEARTBEAT_MS = 20_000;

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { documentId } = await campaignOf(context, params.campaign);
  const { services, sql, member } = at(context);
  const query = new URL(request.url).searchParams;
  const since = Number(query.get("since")) || 0;
  const tab = (query.get("tab") ?? "").slice(0, 40);
  const encoder = new TextEncoder();
  let end = () => {};
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      const write = (text: string) => controller.enqueue(encoder.encode(text));
      const tell = (edits: readonly StoredEdit[]) => {
        if (edits.length) write(`data: ${JSON.stringify(edits)}\n\n`);
      };
      write(": following\n\n");
      // Follow first, then read what was missed: an edit may come twice, never get lost.
      const unfollow = services.followers.follow(
        documentId,
        { tab, name: member.name },
        {
          edits: tell,
          presence: (people) => write(`event: presence\ndata: ${JSON.stringify(people)}\n\n`),
        },
      );
      const heartbeat = setInterval(() => write(": still here\n\n"), HEARTBEAT_MS);
      end = () => {
        clearInterval(heartbeat);
        unfollow();
      };
      request.signal.addEventListener("abort", () => {
        end();
        try {
          controller.close();
        } catch {
          // Closed by the other side already.
        }
      });
      tell(await editsSince(sql, documentId, since));
    },
    cancel: () => end(),
  });
  return new Response(body, {
    headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-store" },
  });
}
