/** What the composer asks of the server about a campaign. */
import { answerTo, ask, type Reply } from "../../ask.ts";
import type { EditsAnswer } from "../wire.ts";

export interface Answer<T> {
  readonly ok: boolean;
  /** What was answered; where it was refused, the reason. */
  readonly body: T & { readonly message?: string };
}

export function createRemote(campaign: string) {
  const address = `/campaigns/${campaign}`;
  return {
    get: <T>(path: string): Promise<Reply<T>> => ask<T>(`${address}/${path}`),
    /** What was answered, or null for whatever reason. */
    ask: <T>(path: string): Promise<T | null> => answerTo<T>(`${address}/${path}`),
    /** Tells the server something; null where it does not answer. */
    async tell<T>(path: string, json: unknown): Promise<Answer<T> | null> {
      const reply = await ask<T>(`${address}/${path}`, { json });
      if (reply.kind !== "ok" && reply.kind !== "refused") return null;
      return { ok: reply.kind === "ok", body: reply.body as Answer<T>["body"] };
    },
    /** Sends edits; `keepalive` lets the request outlive the page. */
    edits: (json: unknown, keepalive = false): Promise<Reply<EditsAnswer>> =>
      ask<EditsAnswer>(`${address}/edits`, { json, keepalive }),
    follow: (since: number, tab: string) =>
      new EventSource(`${address}/follow?since=${since}&tab=${tab}`),
  };
}
export type Remote = ReturnType<typeof createRemote>;
