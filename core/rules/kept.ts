/** Segments the application keeps by itself: the same for everybody, always current. */
import type { Rule } from "./rule.ts";
import { didOnce } from "./terms/activity.ts";

export interface KeptSegment {
  readonly id: string;
  readonly name: string;
  readonly rule: Rule;
}

const standing = (is: string): Rule => ({
  type: "field",
  field: "standing",
  op: "is",
  argument: is,
});
const few = (rule: ReturnType<typeof didOnce>, op: "atLeast" | "atMost", count: number): Rule => ({
  ...rule,
  times: { op, count },
});

export const KEPT_SEGMENTS: readonly KeptSegment[] = [
  {
    id: "kept-new",
    name: "New this month",
    rule: { type: "field", field: "added", op: "withinLast", argument: 30 },
  },
  {
    id: "kept-engaged",
    name: "Engaged",
    rule: {
      type: "any",
      rules: [few(didOnce("opened", 90), "atLeast", 2), didOnce("clicked", 90)],
    },
  },
  {
    id: "kept-drifting",
    name: "Drifting",
    rule: {
      type: "all",
      rules: [didOnce("opened"), few(didOnce("opened", 180), "atMost", 0), didOnce("sent", 180)],
    },
  },
  {
    id: "kept-silent",
    name: "Never opened",
    rule: {
      type: "all",
      rules: [few(didOnce("sent"), "atLeast", 3), few(didOnce("opened"), "atMost", 0)],
    },
  },
  { id: "kept-bounced", name: "Bounced", rule: standing("Bounced") },
  { id: "kept-left", name: "Unsubscribed", rule: standing("Unsubscribed") },
];
