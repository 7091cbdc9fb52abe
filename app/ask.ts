/**
 * The one way in which screens ask the server beside navigation. What comes of it is one of four: an answer, a
 * refusal with words for the person, no session any more, or no line.
 */
import { z } from "zod";

export type Reply<T> =
  | { readonly kind: "ok"; readonly body: T }
  | { readonly kind: "refused"; readonly body: Partial<T> & { readonly message?: string } }
  | { readonly kind: "signedOut" }
  | { readonly kind: "away" };

/** What is said where there is no answer. */
export const NO_LINE = "There is no connection; try again in a moment.";
const SIGNED_OUT = "You are signed out. Sign in again, then try once more.";
const TOO_MUCH = "This is more than can be sent at once.";

const toldSchema = z.object({ message: z.string().optional(), problem: z.string().nullish() });

/** What a refusal says, in words for the person; `otherwise` where it says nothing. */
export function wordsOf(reply: Exclude<Reply<unknown>, { kind: "ok" }>, otherwise: string): string {
  if (reply.kind === "away") return NO_LINE;
  if (reply.kind === "signedOut") return SIGNED_OUT;
  const told = toldSchema.safeParse(reply.body).data;
  return told?.message ?? told?.problem ?? otherwise;
}

export interface Asking {
  /** Sent as JSON. */
  readonly json?: unknown;
  /** Sent as it is: a form, or a file. */
  readonly body?: FormData | URLSearchParams | Blob;
  /** Lets go of the answer; the reply is `away` then. */
  readonly signal?: AbortSignal;
  /** The request outlives the page. */
  readonly keepalive?: boolean;
}

/** Asks with GET, or with POST where something is sent. Never throws. */
export async function ask<T>(
  path: string,
  { json, body, signal, keepalive }: Asking = {},
): Promise<Reply<T>> {
  const sent = json !== undefined ? JSON.stringify(json) : body;
  try {
    const response = await fetch(path, {
      ...(sent !== undefined && { method: "POST", body: sent }),
      ...(json !== undefined && { headers: { "Content-Type": "application/json" } }),
      ...(body instanceof Blob && { headers: { "Content-Type": "application/octet-stream" } }),
      signal,
      keepalive,
    });
    if (response.status === 401) return { kind: "signedOut" };
    // A failure on the other side may be over in a moment.
    if (response.status >= 500) return { kind: "away" };
    if (response.status === 413) return { kind: "refused", body: { message: TOO_MUCH } as never };
    const text = await response.text();
    // Anything but JSON from this application (a proxy's page, a cut line) counts as no line.
    return { kind: response.ok ? "ok" : "refused", body: text ? JSON.parse(text) : {} };
  } catch {
    return { kind: "away" };
  }
}

/** What was answered, or null for whatever reason. */
export async function answerTo<T>(path: string, asking?: Asking): Promise<T | null> {
  const reply = await ask<T>(path, asking);
  return reply.kind === "ok" ? reply.body : null;
}
