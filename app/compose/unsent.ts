/**
 * Edits on their way, kept in the browser's storage until the server has them: closing a tab without a
 * connection loses nothing. Each tab has an entry of its own; the next tab that opens the email takes over
 * what it finds. An edit that is sent twice does no harm: it has an id.
 */
import { z } from "zod";
import { type Envelope, envelopeSchema } from "#core/document/index.ts";

const PREFIX = "septima.unsent.";
/** The state that the edits stand on, and the edits in their order. */
const entrySchema = z.object({ seq: z.number().int().min(0), envelopes: z.array(envelopeSchema) });

/** Storage may be off, full, or missing where this runs on the server. */
function storage(): Storage | null {
  try {
    return globalThis.localStorage ?? null;
  } catch {
    return null;
  }
}

/** What one tab left behind, and the way to clear it. */
export interface Left extends z.infer<typeof entrySchema> {
  clear(): void;
}

export interface Unsent {
  /** Keeps the edits of this tab that are on their way, made on the state `seq`; an empty list clears the entry. */
  keep(seq: number, envelopes: readonly Envelope[]): void;
  /** What other tabs of this email left behind; entries that cannot be read are passed over. */
  left(): Left[];
}

export function createUnsent(campaign: string, tab: string): Unsent {
  const prefix = `${PREFIX}${campaign}.`;
  const own = `${prefix}${tab}`;
  let kept = false;
  return {
    keep(seq, envelopes) {
      try {
        if (envelopes.length) storage()?.setItem(own, JSON.stringify({ seq, envelopes }));
        else if (kept) storage()?.removeItem(own);
        kept = envelopes.length > 0;
      } catch {
        // Full: the edits are still in this tab, and are sent from here.
      }
    },
    left() {
      const store = storage();
      if (!store) return [];
      const keys = Array.from({ length: store.length }, (_, i) => store.key(i) ?? "");
      return keys
        .filter((key) => key.startsWith(prefix) && key !== own)
        .flatMap((key): Left[] => {
          try {
            const entry = entrySchema.parse(JSON.parse(store.getItem(key) ?? ""));
            return [{ ...entry, clear: () => store.removeItem(key) }];
          } catch {
            return [];
          }
        });
    },
  };
}
