/**
 * Edits on their way, kept in the browser's storage until the server has them: closing a tab without a
 * connection loses nothing. Each tab has an entry of its own; the next tab that opens the email takes over
 * what it finds. An edit that is sent twice does no harm: it has an id.
 */
import { z } from "zod";
import { type Envelope, envelopeSchema } from "#core/document/index.ts";

const PREFIX = "septima.unsent.";
const listSchema = z.array(envelopeSchema);

/** Storage may be off, full, or missing where this runs on the server. */
function storage(): Storage | null {
  try {
    return globalThis.localStorage ?? null;
  } catch {
    return null;
  }
}

export interface Unsent {
  /** Keeps the edits of this tab that are on their way; an empty list clears the entry. */
  keep(envelopes: readonly Envelope[]): void;
  /** What other tabs of this email left behind, and the way to clear it. */
  left(): { envelopes: Envelope[]; clear: () => void };
}

export function createUnsent(campaign: string, tab: string): Unsent {
  const own = `${PREFIX}${campaign}.${tab}`;
  let kept = false;
  return {
    keep(envelopes) {
      try {
        if (envelopes.length) storage()?.setItem(own, JSON.stringify(envelopes));
        else if (kept) storage()?.removeItem(own);
        kept = envelopes.length > 0;
      } catch {
        // Full: the edits are still in this tab, and are sent from here.
      }
    },
    left() {
      const store = storage();
      const keys = Array.from({ length: store?.length ?? 0 }, (_, i) => store!.key(i)!).filter(
        (key) => key.startsWith(`${PREFIX}${campaign}.`) && key !== own,
      );
      const envelopes = keys.flatMap((key) => {
        try {
          return listSchema.parse(JSON.parse(store!.getItem(key) ?? "[]"));
        } catch {
          return [];
        }
      });
      const clear = () => {
        for (const key of keys) store!.removeItem(key);
      };
      return { envelopes, clear };
    },
  };
}
