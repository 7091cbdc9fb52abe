/** Which variant is best, and how sure that is. */
import { type Interval, shareInterval } from "./intervals.ts";

/** From this probability on, the best is taken as found. */
export const SURE = 0.95;

/** What came of a variant among those it was tried on. */
export interface Tried {
  readonly readers: number;
  /** Those of them who did what counts. */
  readonly hits: number;
}

/** Points at which the densities are looked at. */
const STEPS = 2_000;
/** How many standard deviations around each share are looked at. */
const REACH = 9;

/**
 * The probability of each variant that its share is the largest, before which nothing was known of any: shares are
 * Beta(1 + hits, 1 + others), and P(best) is the integral of one's density times the others' distributions. They add
 * up to 1.
 */
export function chancesOfBest(tried: readonly Tried[]): number[] {
  if (tried.length < 2) return tried.map(() => 1);
  const shapes = tried.map(({ hits, readers }) => {
    const [a, b] = [hits + 1, readers - hits + 1];
    const mean = a / (a + b);
    return { a, b, mean, deviation: Math.sqrt((mean * (1 - mean)) / (a + b + 1)) };
  });
  // The points lie closely where something is to be seen, and not at 0 and 1, where logarithms end.
  const from = Math.max(0, Math.min(...shapes.map((s) => s.mean - REACH * s.deviation)));
  const to = Math.min(1, Math.max(...shapes.map((s) => s.mean + REACH * s.deviation)));
  const narrowest = Math.min(...shapes.map((s) => s.deviation));
  const steps = Math.max(STEPS, Math.ceil(((to - from) / narrowest) * 40));
  const points = Array.from({ length: steps }, (_, i) => from + ((to - from) * (i + 0.5)) / steps);
  const curves = shapes.map(({ a, b }) => {
    const logs = points.map((x) => (a - 1) * Math.log(x) + (b - 1) * Math.log1p(-x));
    const top = logs.reduce((most, one) => Math.max(most, one), Number.NEGATIVE_INFINITY);
    const density = logs.map((log) => Math.exp(log - top));
    const all = density.reduce((sum, d) => sum + d, 0);
    let before = 0;
    // Half of a point's own weight lies below it.
    const below = density.map((d) => {
      const here = (before + d / 2) / all;
      before += d;
      return here;
    });
    return { density: density.map((d) => d / all), below };
  });
  const chances = curves.map(({ density }, i) =>
    density.reduce(
      (sum, d, at) =>
        sum + curves.reduce((all, other, j) => (j === i ? all : all * other.below[at]!), d),
      0,
    ),
  );
  const sum = chances.reduce((all, one) => all + one, 0);
  return chances.map((one) => one / sum);
}

export interface Standing extends Tried, Interval {
  /** 0–1 */
  readonly share: number;
  /** The probability that it is the best. */
  readonly best: number;
}

/** How variants stand, with intervals of 95 %. */
export function standingsOf(tried: readonly Tried[]): Standing[] {
  const chances = chancesOfBest(tried);
  return tried.map((one, i) => ({
    ...one,
    ...shareInterval(one.hits, one.readers),
    share: one.readers === 0 ? 0 : one.hits / one.readers,
    best: chances[i]!,
  }));
}

export interface Verdict {
  /** The one that is most likely the best, by its number. */
  readonly leader: number;
  /** It is the best with at least the probability that counts as sure; else it is too close to call. */
  readonly sure: boolean;
}

export function verdictOn(standings: readonly Standing[]): Verdict {
  const leader = standings.reduce(
    (best, one, i) => (one.best > standings[best]!.best ? i : best),
    0,
  );
  return { leader, sure: (standings[leader]?.best ?? 0) >= SURE };
}
