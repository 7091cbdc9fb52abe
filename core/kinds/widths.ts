/** Widths in whole pixels, such that the parts always add up to the whole. */

/** Splits `total` by shares; what rounding leaves goes to the largest remainders. */
export function split(total: number, shares: readonly number[]): number[] {
  const sum = shares.reduce((a, b) => a + b, 0);
  const exact = shares.map((share) => (total * share) / sum);
  const widths = exact.map(Math.floor);
  let left = total - widths.reduce((a, b) => a + b, 0);
  const order = exact
    .map((value, i) => ({ i, rest: value - Math.floor(value) }))
    .sort((a, b) => b.rest - a.rest || a.i - b.i);
  for (const { i } of order) {
    if (left-- <= 0) break;
    widths[i]!++;
  }
  return widths;
}
