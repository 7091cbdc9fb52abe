/** What the composer asks of the server about a campaign. A lost connection gives null. */
import type { EditsAnswer } from "./wire.ts";

export interface Answer<T> {
  readonly ok: boolean;
  /** What was answered; where it was refused, the reason. */
  readonly body: T & { readonly message?: string };
}

export function createRemote(campaign: string) {
  const address = `/campaigns/${campaign}`;
  const read = async <T>(
    asking: Promise<Response>,
  ): Promise<(Answer<T> & { status: number }) | null> => {
    try {
      const response = await asking;
      const text = await response.text();
      return { ok: response.ok, status: response.status, body: text ? JSON.parse(text) : {} };
    } catch {
      return null;
    }
  };
  const post = (path: string, body: unknown, keepalive = false) =>
    fetch(`${address}/${path}`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
      keepalive,
    });
  return {
    async ask<T>(path: string): Promise<T | null> {
      const answer = await read<T>(fetch(`${address}/${path}`));
      return answer?.ok ? answer.body : null;
    },
    tell: <T>(path: string, body: unknown): Promise<Answer<T> | null> => read<T>(post(path, body)),
    /** Sends edits, or asks for undo or redo; `keepalive` lets it outlive the page. */
    async edits(body: unknown, keepalive = false): Promise<EditsAnswer | null> {
      const answer = await read<EditsAnswer>(post("edits", body, keepalive));
      return answer && (answer.ok || answer.status === 409) ? answer.body : null;
    },
    follow: (since: number, tab: string) =>
      new EventSource(`${address}/follow?since=${since}&tab=${tab}`),
  };
}
