/** When a launch stops by itself, and for how long. */
import { LIMITS } from "../limits.ts";
import type { Kind } from "./outcomes.ts";

export const PAUSES = [
  "person",
  "service",
  "connection",
  "message",
  "bounces",
  "unsure",
  "items",
  "split",
] as const;
/** Why a launch stands still. Those of the service end by themselves; the others wait for a person. */
export type Pause = (typeof PAUSES)[number];

/** Whether a launch tries by itself after a while. */
export const triesItself = (pause: Pause): boolean => pause === "service" || pause === "connection";

/** How long to wait for the service, ms; `waits` counts those before it with no message taken in between. */
export const waitFor = (waits: number): number =>
  LIMITS.serviceWaits[Math.min(waits, LIMITS.serviceWaits.length - 1)]!;

/** How one message went, as pausing looks at it. */
export type Answer = "taken" | "bounced" | "deferred" | Kind;

export interface Watch {
  /** Takes an answer in; says whether the launch is to stop, and why. */
  saw(answer: Answer): Pause | null;
}

/**
 * Watches the answers of a launch. `before` are those of its earlier runs; `share` is the part of readers (0–1)
 * that may bounce; null where somebody has said that more may.
 */
export function watchAnswers(
  before: { readonly taken: number; readonly bounced: number },
  share: number | null,
): Watch {
  let { taken, bounced } = before;
  const recent: boolean[] = [];
  return {
    saw(answer) {
      if (answer === "service" || answer === "connection") return answer;
      recent.push(answer === "message");
      if (recent.length > LIMITS.recentAnswers) recent.shift();
      if (recent.filter(Boolean).length >= LIMITS.refusedMessages) return "message";
      if (answer === "taken") taken++;
      if (answer === "bounced") bounced++;
      const answers = taken + bounced;
      return share !== null && answers >= LIMITS.bounceAnswers && bounced / answers > share
        ? "bounces"
        : null;
    },
  };
}
