/** Choosing a landing spot by keyboard: one at a time, top to bottom, or beside the block at hand. */
import { type EmailDocument, find, isBlock } from "#core/document/index.ts";
import { type Load, levelOf } from "./load.ts";
import {
  isBeside,
  mayBeBeside,
  neighboursOf,
  type Spot,
  type StackSpot,
  spotAfter,
  spotsFor,
  wordsFor,
} from "./spots.ts";

export interface Walk {
  readonly load: Load;
  readonly spots: readonly StackSpot[];
  readonly index: number;
  /** Beside the block next to the spot, instead of at it. */
  readonly beside: "left" | "right" | null;
}

/** A walk that begins at the spot after what is selected. */
export function beginWalk(doc: EmailDocument, load: Load, selected: string | null): Walk {
  const spots = spotsFor(doc, load);
  const wanted = spotAfter(doc, selected, load);
  const at = spots.findIndex((s) => s.parent === wanted.parent && s.after === wanted.after);
  return { load, spots, index: Math.max(0, at), beside: null };
}

/** The block that has room beside it at a spot: the one above, or the one below. */
function blockAt(doc: EmailDocument, spot: StackSpot): string | null {
  const { above, below } = neighboursOf(doc, spot);
  const inside = [above, below].filter((node) => node && isBlock(node.type));
  return inside.find((node) => mayBeBeside(doc, node!.id))?.id ?? null;
}

/** The walk after a key, or null where the key is none of its own. */
export function stepWalk(doc: EmailDocument, walk: Walk, key: string): Walk | null {
  const last = walk.spots.length - 1;
  const to = (index: number): Walk => ({
    ...walk,
    index: Math.min(last, Math.max(0, index)),
    beside: null,
  });
  switch (key) {
    case "ArrowDown":
      return to(walk.index + 1);
    case "ArrowUp":
      return to(walk.index - 1);
    case "Home":
      return to(0);
    case "End":
      return to(last);
    case "ArrowLeft":
    case "ArrowRight": {
      const side = key === "ArrowLeft" ? "left" : "right";
      if (walk.beside && walk.beside !== side) return { ...walk, beside: null };
      const room =
        levelOf(doc, walk.load) === "block" && blockAt(doc, walk.spots[walk.index]!) !== null;
      return room ? { ...walk, beside: side } : walk;
    }
    default:
      return null;
  }
}

export function spotOf(doc: EmailDocument, { spots, index, beside }: Walk): Spot {
  const spot = spots[index]!;
  const block = beside && find(doc, spot.parent) ? blockAt(doc, spot) : null;
  return block ? { beside: block, side: beside! } : spot;
}

/** What a screen reader says of the spot at hand. */
export function sayWalk(doc: EmailDocument, walk: Walk): string {
  const spot = spotOf(doc, walk);
  const number = isBeside(spot) ? "" : `, ${walk.index + 1} of ${walk.spots.length}`;
  return `${wordsFor(doc, spot)}${number}`;
}
