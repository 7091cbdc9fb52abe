/** The theme of a foreign email: what its colours and sizes are for. */
import { contrast, fontLike, type Palette, type Theme } from "../../theme/theme.ts";
import type { ForeignPiece } from "./pieces.ts";

const between = (n: number, { min, max }: { min: number; max: number }) =>
  Math.round(Math.min(max, Math.max(min, n)));

/** The one with the most weight; null where there is none. */
function most<T>(weighed: Iterable<readonly [T, number]>): T | null {
  const sums = new Map<T, number>();
  for (const [one, weight] of weighed) sums.set(one, (sums.get(one) ?? 0) + weight);
  return [...sums].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

export const allPieces = (pieces: readonly ForeignPiece[]): ForeignPiece[] =>
  pieces.flatMap((one) =>
    one.kind === "columns" ? one.columns.flatMap((column) => allPieces(column.pieces)) : [one],
  );

/** A theme with the colours, fonts and sizes of an email; `weigh` is how many letters a piece has, `page` the ground around it. */
export function themeOf(
  pieces: readonly ForeignPiece[],
  page: string,
  base: Theme,
  weigh: (piece: ForeignPiece) => number,
): Theme {
  const all = allPieces(pieces);
  const words = all.filter((one) => one.kind === "words" || one.kind === "table");
  const running = words.filter((one) => one.kind === "table" || one.heading === null);
  const headings = all.filter((one) => one.kind === "words" && one.heading !== null);
  const buttons = all.filter((one) => one.kind === "button");
  const sheet = most(all.map((one) => [one.look.ground, weigh(one) + 20])) ?? "#ffffff";
  const ink = most(running.map((one) => [one.look.ink, weigh(one)])) ?? base.colours.ink;
  const filled = buttons.filter(({ fill }) => fill !== null);
  const accent =
    most(filled.map(({ fill }) => [fill!, 1])) ??
    most(headings.map((one) => [one.look.ink, 1])) ??
    ink;
  const readable = ["#ffffff", "#000000"].sort(
    (a, b) => contrast(b, accent) - contrast(a, accent),
  )[0]!;
  const onAccent =
    most(filled.filter(({ fill }) => fill === accent).map((one) => [one.ink, 1])) ?? readable;
  const others = all
    .map((one) => [one.look.ground, 1] as const)
    .filter(([ground]) => ground !== sheet && ground !== page);
  const quiet = most(
    running.filter((one) => one.look.ink !== ink).map((one) => [one.look.ink, weigh(one)]),
  );
  const line = most(
    all.flatMap((one) => (one.kind === "divider" && one.colour ? [[one.colour, 1] as const] : [])),
  );
  const colours: Palette = {
    ...{ ground: page, sheet, ink, accent, onAccent },
    tint: most(others) ?? sheet,
    quiet: quiet ?? ink,
    line: line ?? base.colours.line,
  };
  const family = fontLike(most(running.map((one) => [one.look.family, weigh(one)])) ?? "");
  const headingFamily = fontLike(most(headings.map((one) => [one.look.family, 1])) ?? "");
  const body = between(
    most(running.map((one) => [Math.round(one.look.size), weigh(one)])) ?? base.type.body,
    { min: 12, max: 24 },
  );
  const size = (level: number, range: { min: number; max: number }, other: number) =>
    between(
      most(
        headings.flatMap((one) =>
          one.kind === "words" && one.heading === level
            ? [[Math.round(one.look.size), 1] as const]
            : [],
        ),
      ) ?? other,
      range,
    );
  const heading1 = size(1, { min: 16, max: 64 }, base.type.heading1);
  const heading2 = size(2, { min: 14, max: 48 }, Math.min(base.type.heading2, heading1));
  const fonts = {
    body: family ?? base.fonts.body,
    heading: headingFamily ?? family ?? base.fonts.heading,
  };
  return {
    ...base,
    name: "As it came",
    colours,
    // What stands on light grounds was not made for dark ones.
    dark: null,
    fonts,
    webFonts: { heading: null, body: null },
    type: {
      body,
      heading1,
      heading2,
      heading3: size(3, { min: 12, max: 36 }, Math.min(base.type.heading3, heading2)),
    },
    starts: {},
  };
}
