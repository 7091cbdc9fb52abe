/**
 * How often passwords may be guessed: for an account from one network, and for an account from everywhere. Where
 * somebody has signed in before, guesses from elsewhere do not lock them out.
 */

import { LIMITS } from "#core/limits.ts";
import type { Clock } from "../clock.ts";

export interface Guesses {
  /** How long to wait before another guess, ms; 0 where one may be made. */
  wait(account: string, network: string): number;
  /** Takes down a wrong guess, or a right one. */
  made(account: string, network: string, right: boolean): void;
}

/** The latest of each kind are remembered, and no more. */
const KEPT = 10_000;

export function createGuesses(clock: Clock): Guesses {
  const wrong = new Map<string, number[]>();
  const known = new Set<string>();
  const now = () => clock.now().getTime();
  const recent = (key: string) =>
    (wrong.get(key) ?? []).filter((at) => at > now() - LIMITS.guessSpan);
  const remember = <T>(kept: { size: number; delete(key: T): boolean; keys(): Iterator<T> }) => {
    if (kept.size > KEPT) kept.delete(kept.keys().next().value as T);
  };
  const left = (key: string, most: number) => {
    const times = recent(key);
    return times.length < most ? 0 : times.at(-most)! + LIMITS.guessSpan - now();
  };
  const here = (account: string, network: string) => `${account}\n${network}`;
  return {
    wait(account, network) {
      const own = left(here(account, network), LIMITS.guessesHere);
      if (known.has(here(account, network))) return own;
      return Math.max(own, left(account, LIMITS.guessesEverywhere));
    },
    made(account, network, right) {
      const own = here(account, network);
      if (right) {
        wrong.delete(own);
        known.delete(own);
        known.add(own);
        remember(known);
        return;
      }
      for (const key of [own, account]) {
        const times = [...recent(key), now()];
        wrong.delete(key);
        wrong.set(key, times);
        remember(wrong);
      }
    },
  };
}
