/** Widths of a band's columns as whole per cents that add up to a hundred. */
import type { DocNode, Edit, SimpleEdit } from "#core/document/index.ts";
import { split } from "#core/kinds/widths.ts";

/** No column is narrower than this, per cent. */
export const LEAST_SHARE = 8;

export const sharesOf = (band: DocNode): number[] =>
  split(
    100,
    band.children.map((column) => column.props.share as number),
  );

export const equalShares = (count: number): number[] => split(100, Array(count).fill(1));

/** One column's share set; the others give or take in proportion, none below the least. */
export function withShare(shares: readonly number[], index: number, value: number): number[] {
  const others = shares.filter((_, i) => i !== index);
  const least = LEAST_SHARE * others.length;
  const share = Math.min(100 - least, Math.max(LEAST_SHARE, value));
  const spare = others.map((one) => Math.max(0, one - LEAST_SHARE) + 0.001);
  const rest = split(100 - share - least, spare).map((one) => one + LEAST_SHARE);
  rest.splice(index, 0, share);
  return rest;
}

/** The line after column `index` moved by so many per cent: only its two neighbours change. */
export function withLine(shares: readonly number[], index: number, by: number): number[] {
  const left = shares[index]!;
  const right = shares[index + 1]!;
  const move = Math.round(Math.min(right - LEAST_SHARE, Math.max(LEAST_SHARE - left, by)));
  return shares.map((share, i) =>
    i === index ? left + move : i === index + 1 ? right - move : share,
  );
}

/** The edit that gives a band's columns these shares. */
export function setShares(band: DocNode, shares: readonly number[]): Edit {
  const edits = band.children.map(
    (column, i): SimpleEdit => ({
      type: "set",
      node: column.id,
      path: ["share"],
      value: shares[i]!,
    }),
  );
  return { type: "group", edits };
}
