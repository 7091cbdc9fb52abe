/** The marks on a campaign's rooms: how far each is. */
import type { Finding } from "#core/kinds/kind.ts";

export type Mark = "ready" | "half" | "open";
export interface Readiness {
  readonly compose: Mark;
  readonly readers: Mark;
  readonly proof: Mark;
  readonly schedule: Mark;
  readonly results: Mark;
}

/** How many things ask for something: hints do not. */
export const weightOf = (findings: readonly Finding[]): number =>
  findings.filter(({ severity }) => severity !== "hint").length;

/**
 * The marks that hang on what the checks find; the proof's on what has been looked at, too: `looked` is whether that is
 * the smallest set of versions in which everything is seen.
 */
export function marksOf(
  findings: readonly Finding[],
  looked: boolean,
): Pick<Readiness, "compose" | "proof"> {
  const stops = findings.some((finding) => finding.severity === "stop");
  return {
    compose: stops ? "half" : "ready",
    proof: stops ? "open" : looked ? "ready" : "half",
  };
}
