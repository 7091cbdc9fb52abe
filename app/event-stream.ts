/** Server-sent events (WHATWG HTML, 9.2) for somebody signed in: they end with the session, and a session has only a few. */
import type { RouterContextProvider } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { sessionContext } from "#server/http/context.ts";
import { memberOfSession } from "#server/store/team.ts";
import { at } from "./request.ts";

const HEARTBEAT_MS = 20_000;

export interface EventWriter {
  /** Sends an event, of a kind where it has one. */
  send(data: unknown, kind?: string): void;
  /** Ends the stream from this side. */
  end(): void;
}

/**
 * Answers with a stream. `start` begins to write to it and gives what is to be done when it has ended, whoever ends it;
 * a failure of what it promises ends it too. 429 where too many are open.
 */
export function eventStream(
  request: Request,
  context: Readonly<RouterContextProvider>,
  start: (writer: EventWriter) => { stop: () => void; first?: Promise<void> },
): Response {
  const { services, sql, member } = at(context);
  const session = context.get(sessionContext);
  const encoder = new TextEncoder();
  let end = () => {};
  const free = services.streams.open(session, () => end());
  if (!free) return new Response("Too many are open already.", { status: 429 });
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      let ended = false;
      let stop = () => {};
      const write = (text: string) => {
        if (ended) return;
        // A reader that has stopped reading is not waited for: it asks anew for what it missed.
        if ((controller.desiredSize ?? 0) < -LIMITS.streamWaiting) end();
        else controller.enqueue(encoder.encode(text));
      };
      const heartbeat = setInterval(async () => {
        const still = await memberOfSession(sql, session, services.clock.now()).catch(() => member);
        if (still) write(": still here\n\n");
        else end();
      }, HEARTBEAT_MS);
      end = () => {
        if (ended) return;
        ended = true;
        clearInterval(heartbeat);
        stop();
        free();
        try {
          controller.close();
        } catch {
          // Closed by the other side already.
        }
      };
      request.signal.addEventListener("abort", end);
      write(": following\n\n");
      const begun = start({
        send: (data, kind) =>
          write(`${kind ? `event: ${kind}\n` : ""}data: ${JSON.stringify(data)}\n\n`),
        end: () => end(),
      });
      stop = begun.stop;
      if (ended) stop();
      try {
        await begun.first;
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
