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

/** Those that ask for something: hints do not. */
export const asking = (findings: readonly Finding[]): Finding[] =>
  findings.filter(({ severity }) => severity !== "hint");

/** Whether something has to be mended before anything goes out. */
export const isStopped = (findings: readonly Finding[]): boolean =>
  findings.some(({ severity }) => severity === "stop");

/**
 * The marks that hang on what the checks find; the proof's on what has been looked at, too: `looked` is whether that is
 * the smallest set of versions in which everything is seen.
 */
export function marksOf(
  findings: readonly Finding[],
  looked: boolean,
): Pick<Readiness, "compose" | "proof"> {
  const stops = isStopped(findings);
  return {
    compose: stops ? "half" : "ready",
    proof: stops ? "open" : looked ? "ready" : "half",
  };
}
