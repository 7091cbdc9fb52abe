/** What somebody has decided about an email, and whether that still holds: it does for the very state they saw. */
import { derivedBehind } from "../derived/index.ts";
import { type EmailDocument, walk } from "../document/index.ts";
import { canonical } from "../json.ts";
import type { Surroundings } from "../kinds/kind.ts";
import { refsIn } from "../mentions/index.ts";
import type { LiveState } from "./live.ts";

/** The state of an email: what it says and looks like, who gets it, and the items it shows by themselves. */
export interface ReviewState {
  /** The last edit. */
  readonly seq: number;
  /** Marks of everything in it, and of the rule for its readers. */
  readonly content: string;
  readonly audience: string;
  readonly live: LiveState;
}

export interface Decision extends ReviewState {
  readonly approves: boolean;
  readonly note: string;
  readonly at: Date;
}

/** All of an email that somebody decides about, as text: the same as long as nobody changes anything in it. Items of sources come and go by themselves and are not in it. */
export function contentOf(
  { root }: EmailDocument,
  { brand, derived = new Map(), fallbacks = new Map(), linkParameters = [] }: Surroundings,
): string {
  const refs = [...walk(root)].flatMap((node) => [...refsIn(node)]);
  const said = refs.map((ref) => [ref, fallbacks.get(ref) ?? null]);
  const named = derivedBehind(refs, derived);
  return canonical({ root, brand, derived: named, fallbacks: said, linkParameters });
}

export type Standing = "waiting" | "approved" | "asked" | "stale";

/** Whether two states are one for those who decide. */
const isSame = (one: ReviewState, other: ReviewState): boolean =>
  one.content === other.content && one.audience === other.audience;

/** How a reviewer stands to an email as it is now. */
export function standingOf(decision: Decision | null, now: ReviewState): Standing {
  if (!decision) return "waiting";
  if (!decision.approves) return "asked";
  return isSame(decision, now) ? "approved" : "stale";
}

/** Whether anything that was decided about has changed since. */
export const hasChanged = (decision: Decision, now: ReviewState): boolean => !isSame(decision, now);
