/** What every kind of edit has in common. */
import type { z } from "zod";
import type { Json } from "../../json.ts";
import type { Draft, Lookup } from "../draft.ts";
import type { DocNode } from "../model.ts";

export type EditProblem = "missing" | "misplaced" | "duplicate" | "invalid" | "limit";

/** An edit that does not fit the document. The document is left as it was. */
export class EditError extends Error {
  constructor(
    readonly problem: EditProblem,
    message: string,
  ) {
    super(message);
    this.name = "EditError";
  }
}

/** Where something stands: a whole node (`path` null), or one property of it. */
export interface Touch {
  readonly node: string;
  readonly path: readonly string[] | null;
}

/** True when a path leads to the same place as the other, or to one around it. */
export const covers = (around: Touch, inner: Touch): boolean =>
  around.node === inner.node &&
  (around.path === null ||
    (inner.path !== null && around.path.every((name, i) => inner.path![i] === name)));

/** What an edit is moved over: what others stored since it was made. */
export interface Past {
  /** The state the edit was made on. */
  readonly before: Lookup;
  /** The state it has to apply to. */
  readonly now: Lookup;
  /**
   * Whether it gives way to what was stored since. An edit made just now does not: of two that write one
   * place, the one stored later stands. One that takes an earlier edit back does.
   */
  readonly yields: boolean;
  /** The steps of a text edit as they must be now; "clash" where both cannot be kept of what it writes. */
  steps(edit: object): readonly Json[] | "clash";
}

/** Both cannot be kept: what this edit would have written at a place is taken out, and shown beside what stands there. */
export class Clash {
  constructor(readonly at: Touch) {}
}

/** What an edit becomes where others were first: null where there is nothing left to do. */
export type Moved<E> = E | Clash | null;

/** One kind of edit. `apply(apply(doc, e), invert(doc, e))` is `doc`, byte for byte in canonical JSON. */
export interface EditKind<E> {
  readonly schema: z.ZodType<E>;
  /** Changes the draft. Throws an EditError, and leaves the draft as it was, when the edit does not fit. */
  apply(draft: Draft, edit: E): void;
  /** The edit that takes `edit` back; `doc` is the state before it. */
  invert(doc: Lookup, edit: E): unknown;
  /**
   * This edit as it must be where what is in `past` was stored first. What it gives applies to `past.now`
   * and keeps what the person meant; where nothing can be kept of words, it is a clash.
   */
  over(edit: E, past: Past): Moved<E>;
  /** What it writes; `doc` is the state before it. A removal erases every node it takes along. */
  touches(edit: E, doc: Lookup): Touch[];
}

/** Whether a value has words that somebody wrote: a text, plain text or code by hand, or something that holds them. */
export function holdsWords(value: Json | undefined): boolean {
  if (typeof value === "string") return /\s/.test(value.trim());
  if (typeof value !== "object" || value === null) return false;
  if (Array.isArray(value)) return value.some(holdsWords);
  const { type, text, source } = value as { readonly [key: string]: Json };
  if (type === "text" && typeof text === "string") return true;
  if (typeof source === "string" && source.trim() !== "") return true;
  return Object.values(value).some(holdsWords);
}

/** Whether a node, or anything in it, has words that somebody wrote. */
export const nodeHoldsWords = (node: DocNode): boolean =>
  holdsWords(node.props) || node.children.some(nodeHoldsWords);

/**
 * The sibling to stand after, where the one that was meant may have gone: the nearest before it that is
 * still there; null for the first place.
 */
export function nearestSibling(past: Past, parent: string, after: string | null): string | null {
  if (after === null) return null;
  const there = new Set(past.now.find(parent)?.node.children.map(({ id }) => id));
  if (there.has(after)) return after;
  const before = past.before.find(parent)?.node.children ?? [];
  const at = before.findIndex(({ id }) => id === after);
  return before.slice(0, Math.max(0, at)).findLast(({ id }) => there.has(id))?.id ?? null;
}
