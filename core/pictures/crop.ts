/** Which part of an image is shown where its place has another shape. */
import type { Area, Box, Size } from "./recipe.ts";

/** A point of an image that stays in sight, per cent from the left and the top. */
export interface Focus {
  readonly x: number;
  readonly y: number;
}
export const MIDDLE: Focus = { x: 50, y: 50 };
export const isMiddle = ({ x, y }: Focus): boolean => x === MIDDLE.x && y === MIDDLE.y;

/** Width by height; what people choose from when they cut. */
export const RATIOS = [
  { label: "Square", ratio: 1 },
  { label: "4 : 3", ratio: 4 / 3 },
  { label: "3 : 2", ratio: 3 / 2 },
  { label: "16 : 9", ratio: 16 / 9 },
  { label: "2 : 1", ratio: 2 },
  { label: "3 : 1", ratio: 3 },
  { label: "4 : 5", ratio: 4 / 5 },
  { label: "2 : 3", ratio: 2 / 3 },
] as const;

/** The largest part of an image in a shape (width by height) that has the focus as near its middle as can be. */
export function largestArea({ width, height }: Size, ratio: number, focus: Focus = MIDDLE): Area {
  const wide = Math.min(1, (height * ratio) / width);
  const high = Math.min(1, width / ratio / height);
  const start = (at: number, part: number) => Math.min(1 - part, Math.max(0, at / 100 - part / 2));
  return { x: start(focus.x, wide), y: start(focus.y, high), width: wide, height: high };
}

/** Where to cut what was made to cover `place` (px, as large or larger each way), so that the focus stays in sight. */
export function coverBox(covering: Size, place: Size, focus: Focus): Box {
  const start = (whole: number, part: number, at: number) =>
    Math.round(Math.min(whole - part, Math.max(0, (whole * at) / 100 - part / 2)));
  return {
    left: start(covering.width, place.width, focus.x),
    top: start(covering.height, place.height, focus.y),
    ...place,
  };
}
