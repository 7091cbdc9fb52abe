/** What stands beside what: parts that float, or stand in a line; icons in a row. */
import { FOREIGN, imageIs } from "./leaves.ts";
import { isHidden, type Look, widthOf } from "./look.ts";
import type { ForeignPiece } from "./pieces.ts";
import { type El, type Inner, isEl, letters, some } from "./tree.ts";

/** The most columns that stand beside each other. */
export const COLUMNS = 4;
/** Icons are at most so wide, px. */
const ICON = 64;

/** Whether there is anything to be seen in it. */
export const isSeen = (el: El): boolean =>
  letters(el) > 0 ||
  FOREIGN.has(el.tag) ||
  some(el, (one) => (one.tag === "img" && imageIs(one) === "image") || FOREIGN.has(one.tag));

/** It lets others stand beside it. */
function isBeside(one: Inner): boolean {
  if (!isEl(one) || one.tag === "img" || one.tag === "a") return false;
  return standsBeside(one) && !isHidden(one) && isSeen(one);
}

function standsBeside({ css, attrs, tag }: El): boolean {
  if (css.float === "left" || css.float === "right") return true;
  if (tag === "table") {
    return attrs.align === "left" || attrs.align === "right" || css.display === "inline-block";
  }
  if (tag !== "div" && tag !== "span") return false;
  const sized = css.width !== undefined || css["max-width"] !== undefined;
  return sized && (css.display === "inline-block" || css.display === "inline-table");
}

/** An image no larger than an icon, alone in its column. */
export function iconOf(pieces: readonly ForeignPiece[]) {
  const [only] = pieces;
  if (pieces.length !== 1 || only?.kind !== "image") return null;
  return only.width !== null && only.width <= ICON
    ? { src: only.src, alt: only.alt ?? "", href: only.href }
    : null;
}

/** Neighbours from one on that stand beside each other; null where it stands alone. */
export function besideFrom(
  inner: readonly Inner[],
  from: number,
  look: Look,
): { parts: El[]; last: number } | null {
  if (!isBeside(inner[from]!)) return null;
  const parts: El[] = [];
  let last = from;
  let wide = 0;
  for (let i = from; i < inner.length; i++) {
    const one = inner[i]!;
    if (!isEl(one)) {
      if (letters(one) > 0) break;
      continue;
    }
    if (!isBeside(one)) break;
    const width = widthOf(one, look.width) ?? look.width / 2;
    // What does not fit any more stands in the next row.
    if (parts.length === COLUMNS || (parts.length > 0 && wide + width > look.width * 1.05)) break;
    wide += width;
    parts.push(one);
    last = i;
  }
  return parts.length > 1 ? { parts, last } : null;
}
