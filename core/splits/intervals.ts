/** What shares seen in a sample say of everybody: intervals, and how many readers a difference takes. */

/** Quantiles of the standard normal distribution: 97.5 % (an interval of 95 %), and 80 % (the power of a test). */
const Z_INTERVAL = 1.959964;
const Z_POWER = 0.841621;

export interface Interval {
  readonly low: number;
  readonly high: number;
}

/** A share (0–1) as an interval of 95 %: Wilson's score interval (1927), which holds for few readers and near 0 and 1. */
export function shareInterval(hits: number, of: number): Interval {
  if (of === 0) return { low: 0, high: 1 };
  const z2 = Z_INTERVAL ** 2;
  const p = hits / of;
  const middle = (p + z2 / (2 * of)) / (1 + z2 / of);
  const half = (Z_INTERVAL / (1 + z2 / of)) * Math.sqrt((p * (1 - p)) / of + z2 / (4 * of * of));
  return {
    low: hits === 0 ? 0 : Math.max(0, middle - half),
    high: hits === of ? 1 : Math.min(1, middle + half),
  };
}

interface Seen {
  readonly hits: number;
  readonly readers: number;
}

/** How much larger the share of one is than that of another, as an interval of 95 % (Newcombe 1998, method 10). */
export function differenceInterval(one: Seen, other: Seen): Interval & { readonly seen: number } {
  const share = ({ hits, readers }: Seen) => (readers === 0 ? 0 : hits / readers);
  const [p, q] = [share(one), share(other)];
  const a = shareInterval(one.hits, one.readers);
  const b = shareInterval(other.hits, other.readers);
  const seen = p - q;
  return {
    seen,
    low: seen - Math.hypot(p - a.low, b.high - q),
    high: seen + Math.hypot(a.high - p, q - b.low),
  };
}

/**
 * Readers that each of two variants needs, so that a rise from one share to another (0–1) shows in 80 % of tests at a
 * level of 5 % (Fleiss, Statistical Methods for Rates and Proportions, without correction for continuity).
 */
export function readersNeeded(from: number, to: number): number {
  const middle = (from + to) / 2;
  const root =
    Z_INTERVAL * Math.sqrt(2 * middle * (1 - middle)) +
    Z_POWER * Math.sqrt(from * (1 - from) + to * (1 - to));
  return Math.ceil((root / (to - from)) ** 2);
}

/** The smallest rise over a share (0–1) that shows with so many readers for each variant; null where none does. */
export function smallestRise(from: number, readers: number): number | null {
  if (readers < 1 || from >= 1 || readersNeeded(from, 1) > readers) return null;
  let [low, high] = [0, 1 - from];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (readersNeeded(from, from + middle) > readers) low = middle;
    else high = middle;
  }
  return high;
}
