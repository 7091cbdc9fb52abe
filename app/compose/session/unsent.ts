/**
 * What must not be lost with a tab, kept in the browser's storage: edits on their way, until the server has
 * them, and words that could not be joined with somebody else's, until a choice is made. The next tab that
 * opens the email takes over what it finds. An edit that is sent twice does no harm: it has an id.
 */
import { z } from "zod";
import { type Change, changeSchema, editSchema, type Unmerged } from "#core/document/index.ts";

const UNSENT = "septima.unsent.";
const CLASH = "septima.clash.";

/** The state that the edits stand on, and the edits in their order. */
const entrySchema = z.union([
  z.object({ seq: z.number().int().min(0), changes: z.array(changeSchema) }),
  // As it was written before undo was an edit like any other.
  z
    .object({
      seq: z.number().int().min(0),
      envelopes: z.array(z.object({ id: z.string(), edit: editSchema })),
    })
    .transform(({ seq, envelopes }) => ({
      seq,
      changes: envelopes.map(
        ({ id, edit }): Change => ({ id, edit, does: "do", step: id, of: null }),
      ),
    })),
]);

const clashSchema = z.object({
  node: z.string(),
  path: z.array(z.string()).nullable(),
  mine: z.json().nullable(),
  theirs: z.json().nullable(),
  lost: z.object({ parent: z.string(), after: z.string().nullable(), node: z.any() }).nullable(),
});

/** Storage may be off, full, or missing where this runs on the server. */
function storage(): Storage | null {
  try {
    return globalThis.localStorage ?? null;
  } catch {
    return null;
  }
}

/** The entries whose name begins so, as a schema reads them; those that cannot be read are passed over. */
function entries<T>(prefix: string, schema: z.ZodType<T>): { key: string; value: T }[] {
  const store = storage();
  if (!store) return [];
  const keys = Array.from({ length: store.length }, (_, i) => store.key(i) ?? "");
  return keys
    .filter((key) => key.startsWith(prefix))
    .sort()
    .flatMap((key) => {
      try {
        return [{ key, value: schema.parse(JSON.parse(store.getItem(key) ?? "")) }];
      } catch {
        return [];
      }
    });
}

function put(key: string, value: unknown): void {
  try {
    storage()?.setItem(key, JSON.stringify(value));
  } catch {
    // Full: it still stands in this tab.
  }
}

/** What one tab left behind, and the way to clear it. */
export interface Left {
  readonly seq: number;
  readonly changes: readonly Change[];
  clear(): void;
}

/** Words that wait for a choice. */
export interface Kept extends Unmerged {
  readonly id: string;
}

export interface Unsent {
  /** Keeps the edits of this tab that are on their way, made on the state `seq`; an empty list clears the entry. */
  keep(seq: number, changes: readonly Change[]): void;
  /** What other tabs of this email left behind. */
  left(): Left[];
  keepClash(clash: Kept): void;
  dropClash(id: string): void;
  clashes(): Kept[];
}

export function createUnsent(campaign: string, tab: string): Unsent {
  const prefix = `${UNSENT}${campaign}.`;
  const clashPrefix = `${CLASH}${campaign}.`;
  const own = `${prefix}${tab}`;
  let kept = false;
  return {
    keep(seq, changes) {
      if (changes.length) put(own, { seq, changes });
      else if (kept) storage()?.removeItem(own);
      kept = changes.length > 0;
    },
    left: () =>
      entries(prefix, entrySchema)
        .filter(({ key }) => key !== own)
        .map(({ key, value }) => ({ ...value, clear: () => storage()?.removeItem(key) })),
    keepClash: ({ id, ...clash }) => put(`${clashPrefix}${id}`, clash),
    dropClash: (id) => storage()?.removeItem(`${clashPrefix}${id}`),
    clashes: () =>
      entries(clashPrefix, clashSchema).map(({ key, value }) => ({
        ...(value as Unmerged),
        id: key.slice(clashPrefix.length),
      })),
  };
}
