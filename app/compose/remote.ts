/** What a session asks of the server. A lost connection gives null. */
import type { EditsAnswer } from "./wire.ts";

export function createRemote(campaign: string) {
  const address = `/campaigns/${campaign}`;
  const post = (path: string, body: unknown, keepalive = false) =>
    fetch(`${address}/${path}`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
      keepalive,
    }).catch(() => null);
  const read = async <T>(response: Response | null, ...statuses: number[]): Promise<T | null> => {
    if (!response || !statuses.includes(response.status)) return null;
    return (await response.json().catch(() => null)) as T | null;
  };
  return {
    async ask<T>(path: string): Promise<T | null> {
      return read<T>(await fetch(`${address}/${path}`).catch(() => null), 200);
    },
    /** Sends edits, or asks for undo or redo; `keepalive` lets it outlive the page. */
    async edits(body: unknown, keepalive = false): Promise<EditsAnswer | null> {
      return read<EditsAnswer>(await post("edits", body, keepalive), 200, 409);
    },
    async here(tab: string, at: string | null): Promise<void> {
      // What is lost here others hear of with the next move.
      await post("presence", { tab, at });
    },
    follow: (since: number, tab: string) =>
      new EventSource(`${address}/follow?since=${since}&tab=${tab}`),
  };
}
