/** Which elements of a sheet a changed document touches: the least that has to be made again. */
import { shallow } from "zustand/shallow";
import { blockKind } from "#core/blocks/index.ts";
import { sameTitles, titlesOf } from "#core/blocks/titles.ts";
import { CARD, type DocNode, type EmailDocument, isItemList, walk } from "#core/document/index.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { picturesIn } from "#core/mentions/index.ts";

export type Change =
  /** One element is made again. */
  | { readonly kind: "replace"; readonly id: string }
  /** Children came, went or moved: bands of the email, or blocks of a column. */
  | { readonly kind: "children"; readonly id: string; readonly order: readonly string[] };

const sameOrder = (a: readonly DocNode[], b: readonly DocNode[]) =>
  a.length === b.length && a.every((node, i) => node.id === b[i]!.id);

/** The changes from one state to another, or null where the whole sheet has to be written anew. */
export function diff(before: EmailDocument, after: EmailDocument): Change[] | null {
  const [a, b] = [before.root, after.root];
  if (a === b) return [];
  if (a.props !== b.props && !onlyEnvelope(a, b)) return null;
  const changes = bandsOf(a, b);
  return changes && [...changes, ...listsOfTitles(a, b, changes)];
}

/** What lists the titles of the email is made again when they have changed. */
function listsOfTitles(a: DocNode, b: DocNode, changes: readonly Change[]): Change[] {
  if (sameTitles(titlesOf(a), titlesOf(b))) return [];
  const made = new Set(changes.map(({ id }) => id));
  return [...walk(b)]
    .filter(({ type, id }) => blockKind(type)?.listsTitles && !made.has(id))
    .map(({ id }) => ({ kind: "replace", id }));
}

const isSeen = ({ props }: DocNode) =>
  (props.seenBy ?? null) !== null || (props.chain ?? null) !== null;

/** Whether it may be that of what a node holds other parts are shown than before. */
function othersShown(a: DocNode, b: DocNode): boolean {
  if (!a.children.some(isSeen) && !b.children.some(isSeen)) return false;
  return (
    !sameOrder(a.children, b.children) ||
    a.children.some((child, i) => {
      const now = b.children[i]!.props;
      return child.props.seenBy !== now.seenBy || child.props.chain !== now.chain;
    })
  );
}

/** The envelope shows in no band, so that writing a subject redraws nothing. */
function onlyEnvelope(a: DocNode, b: DocNode): boolean {
  return (["theme", "width", "lang", "dir", "textLinks"] as const).every(
    (name) => a.props[name] === b.props[name],
  );
}

/** Null where the whole sheet has to be written anew: bands that only some readers see came, went or changed places. */
const bandsOf = (a: DocNode, b: DocNode): Change[] | null =>
  othersShown(a, b) ? null : children(a, b);

function children(a: DocNode, b: DocNode): Change[] {
  const changes: Change[] = [];
  if (!sameOrder(a.children, b.children)) {
    changes.push({ kind: "children", id: b.id, order: b.children.map((child) => child.id) });
  }
  const before = new Map(a.children.map((child) => [child.id, child]));
  for (const child of b.children) {
    const old = before.get(child.id);
    if (old && old !== child) changes.push(...nodeChanges(old, child));
  }
  return changes;
}

function nodeChanges(a: DocNode, b: DocNode): Change[] {
  // A card that only holds other blocks stays; an empty one holds a filler, so that then it is made again.
  const others = othersShown(a, b);
  if (b.type === CARD && a.props === b.props && sameOrder(a.children, b.children) && !others) {
    return children(a, b);
  }
  if (b.type === "band") {
    // Ghost tables stand between the columns, and an empty column holds a filler: then the band is made again.
    const columnsMoved = !sameOrder(a.children, b.children);
    const filler = b.children.some((column, i) => {
      const old = a.children[i];
      return old && (old.children.length === 0) !== (column.children.length === 0);
    });
    const shares = b.children.some((column, i) => a.children[i]?.props !== column.props);
    const seen = b.children.some((column, i) => {
      const old = a.children[i];
      return old && othersShown(old, column);
    });
    if (a.props !== b.props || columnsMoved || filler || shares || seen)
      return [{ kind: "replace", id: b.id }];
    return b.children.flatMap((column, i) => {
      const old = a.children[i]!;
      return old === column ? [] : children(old, column);
    });
  }
  return [{ kind: "replace", id: b.id }];
}

/**
 * The bands in which a reader sees other parts than before, where only the conditions that hold have changed;
 * null where the bands themselves are for some only. `before` and `after` say which hold, by rule.
 */
export function bandsSeen(
  doc: EmailDocument,
  keysIn: (band: DocNode) => readonly string[],
  before: ReadonlyMap<string, string>,
  after: ReadonlyMap<string, string>,
): Change[] | null {
  const changed = new Set([...after.keys()].filter((key) => before.get(key) !== after.get(key)));
  if (changed.size === 0) return [];
  if (doc.root.children.some(isSeen)) return null;
  return doc.root.children
    .filter((band) => keysIn(band).some((key) => changed.has(key)))
    .map(({ id }) => ({ kind: "replace", id }));
}

/**
 * What shows pictures that were not known before, or are other ones: blocks, and bands that have them behind all
 * they hold. Null where anything else around the email has changed.
 */
export function pictured(
  { root }: EmailDocument,
  before: Surroundings,
  after: Surroundings,
): Change[] | null {
  if (before === after) return [];
  const { pictures, live } = after;
  if (!shallow({ ...before, pictures, live }, { ...after, live })) return null;
  const others = otherLists(root, before, after);
  const ids = new Set([...before.pictures.keys(), ...pictures.keys()]);
  const changed = [...ids].filter((id) => before.pictures.get(id) !== pictures.get(id));
  if (changed.length === 0) return others;
  const shows = (node: DocNode) => {
    const found = picturesIn(node, after.derived);
    return changed.some((id) => found.has(id));
  };
  const own = (node: DocNode) => shows({ ...node, children: [] });
  if (own(root)) return null;
  const shown = root.children.flatMap((band): Change[] => {
    if ([band, ...band.children].some(own)) return [{ kind: "replace", id: band.id }];
    const blocks = band.children.flatMap((column) => column.children);
    return blocks.filter(shows).map(({ id }) => ({ kind: "replace", id }));
  });
  const made = new Set(shown.map(({ id }) => id));
  return [...shown, ...others.filter(({ id }) => !made.has(id))];
}

/** Blocks that show other items than before. */
const otherLists = (root: DocNode, before: Surroundings, after: Surroundings): Change[] =>
  before.live === after.live
    ? []
    : [...walk(root)]
        .filter(({ id, type }) => isItemList(type) && before.live?.get(id) !== after.live?.get(id))
        .map(({ id }) => ({ kind: "replace", id }));
