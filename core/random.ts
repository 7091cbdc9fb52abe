/** A seeded source of chance (mulberry32), the same at every run. */
export interface Chance {
  /** 0 ≤ x < 1 */
  next(): number;
  /** 0 … n − 1 */
  below(n: number): number;
  pick<T>(list: readonly T[]): T;
  /** True for this share of calls. */
  is(share: number): boolean;
}

export function chance(seed: number): Chance {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  const below = (n: number) => Math.floor(next() * n);
  return { next, below, pick: (list) => list[below(list.length)]!, is: (share) => next() < share };
}
