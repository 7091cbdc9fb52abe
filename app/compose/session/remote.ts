/** What the composer asks of the server about a campaign. */
import type { EditsAnswer } from "../wire.ts";

/** What comes of asking: an answer, a refusal with its reason, no session any more, or no line. */
export type Reply<T> =
  | { readonly kind: "ok"; readonly body: T }
  | { readonly kind: "refused"; readonly body: Partial<T> & { readonly message?: string } }
  | { readonly kind: "signedOut" }
  | { readonly kind: "away" };

export interface Answer<T> {
  readonly ok: boolean;
  /** What was answered; where it was refused, the reason. */
  readonly body: T & { readonly message?: string };
}

/** Reads a response. Anything but JSON from this application (a proxy's page, a cut line) counts as no line. */
async function read<T>(asking: Promise<Response>): Promise<Reply<T>> {
  try {
    const response = await asking;
    if (response.status === 401) return { kind: "signedOut" };
    if (response.status >= 500) return { kind: "away" };
    // Asking again would be no use.
    if (response.status === 413) {
      return {
        kind: "refused",
        body: { message: "This is more than can be sent at once." } as never,
      };
    }
    const text = await response.text();
    const body = text ? JSON.parse(text) : {};
    return { kind: response.ok ? "ok" : "refused", body };
  } catch {
    return { kind: "away" };
  }
}

export function createRemote(campaign: string) {
  const address = `/campaigns/${campaign}`;
  const post = (path: string, body: string, keepalive = false) =>
    fetch(`${address}/${path}`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body,
      keepalive,
    });
  const get = <T>(path: string) => read<T>(fetch(`${address}/${path}`));
  return {
    get,
    /** What was answered, or null for whatever reason. */
    async ask<T>(path: string): Promise<T | null> {
      const reply = await get<T>(path);
      return reply.kind === "ok" ? reply.body : null;
    },
    /** Tells the server something; null where it does not answer. */
    async tell<T>(path: string, body: unknown): Promise<Answer<T> | null> {
      const reply = await read<T>(post(path, JSON.stringify(body)));
      if (reply.kind !== "ok" && reply.kind !== "refused") return null;
      return { ok: reply.kind === "ok", body: reply.body as Answer<T>["body"] };
    },
    /** Sends edits; `keepalive` lets the request outlive the page. */
    edits: (envelope: unknown, keepalive = false): Promise<Reply<EditsAnswer>> =>
      read<EditsAnswer>(post("edits", JSON.stringify(envelope), keepalive)),
    follow: (since: number, tab: string) =>
      new EventSource(`${address}/follow?since=${since}&tab=${tab}`),
  };
}
export type Remote = ReturnType<typeof createRemote>;
