/** Putting something down at a spot, as one edit. */
import { blockKind, createBand, createColumn, propsFit } from "#core/blocks/index.ts";
import type { BandProps } from "#core/blocks/layout.ts";
import { fittingLevel, titlesOf } from "#core/blocks/titles.ts";
import {
  apply,
  type DocNode,
  type Edit,
  EditError,
  type EmailDocument,
  find,
  parts,
  pathTo,
  type SimpleEdit,
} from "#core/document/index.ts";
import type { Padding } from "#core/kinds/common.ts";
import { freshNodes, type Load, levelOf } from "../placing/load.ts";
import {
  type BesideSpot,
  isBeside,
  mayBeBeside,
  type Spot,
  type StackSpot,
} from "../placing/spots.ts";
import { type Doing, group, selecting } from "./doing.ts";
import { newNodeId } from "./ids.ts";

/** The edits that put a load down one after another, and what is there afterwards. */
interface Putting {
  readonly edits: SimpleEdit[];
  readonly ids: readonly string[];
}

/** The edits that move nodes under a parent, one after another. */
export const movesInto = (ids: readonly string[], parent: string): SimpleEdit[] =>
  ids.map((node, i) => ({ type: "move", node, parent, after: ids[i - 1] ?? null }));

function inOrder(load: Load, fresh: readonly DocNode[] | null, spot: StackSpot): Putting {
  const edits: SimpleEdit[] = [];
  let after = spot.after;
  const ids = fresh?.map((node) => node.id) ?? movedBy(load);
  for (const [i, id] of ids.entries()) {
    edits.push(
      fresh
        ? { type: "insert", parent: spot.parent, after, node: fresh[i]! }
        : { type: "move", node: id, parent: spot.parent, after },
    );
    after = id;
  }
  return { edits, ids };
}

/** Into a column that stands alone or is put in by the edits before. */
function intoColumn(
  doc: EmailDocument,
  load: Load,
  into: (column: DocNode) => SimpleEdit,
  share?: number,
): Putting {
  const fresh = freshNodes(doc, load);
  const made = createColumn(newNodeId, fresh ?? []);
  const column = share ? { ...made, props: { ...made.props, share } } : made;
  const ids = fresh?.map((node) => node.id) ?? movedBy(load);
  return { edits: [into(column), ...(fresh ? [] : movesInto(ids, column.id))], ids };
}

/** Puts a load down at a spot. Gives null where nothing would change or it cannot stand there. */
export function putDown(doc: EmailDocument, load: Load, spot: Spot): Doing | null {
  const doing = putAt(doc, load, spot);
  const titled = load.kind === "new" && blockKind(load.type)?.title;
  return doing && titled ? inOutline(doc, doing) : doing;
}

/** A new block with its title at the level that fits the outline where it comes to stand. */
function inOutline(doc: EmailDocument, { edit, select }: Doing): Doing {
  const after = applied(doc, edit);
  if (!after) return { edit, select };
  const titles = titlesOf(after.root);
  const title = titles.find(({ node }) => node.id === select);
  if (!title) return { edit, select };
  const level = fittingLevel(titles, title.node);
  const fits = propsFit(title.node.type, { ...title.node.props, level });
  if (level === title.level || !fits) return { edit, select };
  const set: SimpleEdit = { type: "set", node: title.node.id, path: ["level"], value: level };
  return { edit: group([...parts(edit), set]), select };
}

/** The document after an edit; null where it does not fit, which is said when it is done. */
function applied(doc: EmailDocument, edit: Edit): EmailDocument | null {
  try {
    return apply(doc, edit);
  } catch (error) {
    if (error instanceof EditError) return null;
    throw error;
  }
}

function putAt(doc: EmailDocument, load: Load, spot: Spot): Doing | null {
  if (load.kind === "nodes" && load.ids.some((id) => !find(doc, id)?.parent)) return null;
  if (isBeside(spot)) return putBeside(doc, load, spot);
  const at = standable(doc, load, spot);
  if (!at) return null;
  const { edits, ids } =
    at.parent === doc.root.id && levelOf(doc, load) === "block"
      ? intoColumn(doc, load, (column) => ({
          type: "insert",
          ...at,
          node: createBand(newNodeId, [column]),
        }))
      : inOrder(load, freshNodes(doc, load), at);
  if (ids.length === 0) return null;
  edits.push(...emptied(doc, movedBy(load), at.parent));
  return { edit: group(edits), select: selecting(ids) };
}

/** The spot with a sibling before it that does not move itself; null where nothing would change. */
function standable(doc: EmailDocument, load: Load, spot: StackSpot): StackSpot | null {
  if (load.kind !== "nodes") return spot;
  const siblings = find(doc, spot.parent)?.node.children ?? [];
  let at = siblings.findIndex((one) => one.id === spot.after);
  while (at >= 0 && load.ids.includes(siblings[at]!.id)) at--;
  const next = siblings.slice(at + 1, at + 1 + load.ids.length);
  const same = next.length === load.ids.length && next.every((one, i) => one.id === load.ids[i]);
  return same ? null : { parent: spot.parent, after: siblings[at]?.id ?? null };
}

/** The bands that blocks leave empty by going: those of one column with nothing else in it. */
export const bandsLeftEmpty = (
  doc: EmailDocument,
  gone: readonly string[],
  /** A column or a band that stays. */
  into: string | null,
): DocNode[] =>
  doc.root.children.filter((band) => {
    const [column, another] = band.children;
    if (!column || another || column.id === into || band.id === into) return false;
    return column.children.length > 0 && column.children.every(({ id }) => gone.includes(id));
  });

/** Takes the bands out that moved blocks leave empty. */
export const emptied = (
  doc: EmailDocument,
  moved: readonly string[],
  into: string | null,
): SimpleEdit[] =>
  bandsLeftEmpty(doc, moved, into).map((band) => ({ type: "remove", node: band.id }));

const movedBy = (load: Load) => (load.kind === "nodes" ? load.ids : []);

const LEFT_TO_RIGHT = { left: 0, right: 1 } as const;

/**
 * Beside a block: a column of its own next to the block's. A band of one column is cut above and below the
 * block first, so that only the block gets a neighbour.
 */
function putBeside(doc: EmailDocument, load: Load, { beside, side }: BesideSpot): Doing | null {
  if (levelOf(doc, load) !== "block" || !mayBeBeside(doc, beside)) return null;
  const moved = new Set(movedBy(load));
  if (moved.has(beside)) return null;
  const [, band, column] = pathTo(doc, beside) as [DocNode, DocNode, DocNode];
  const rest = column.children.filter((block) => !moved.has(block.id));
  const at = rest.findIndex((block) => block.id === beside);
  const edits: SimpleEdit[] = [];
  let target = band;
  let stands = column;
  if (band.children.length === 1) {
    const [above, below] = [rest.slice(0, at), rest.slice(at + 1)];
    const cutBand = (blocks: readonly DocNode[], after: string, padding: Padding) => {
      const own = createColumn(newNodeId);
      const props = { ...band.props, name: "", padding } as unknown as DocNode["props"];
      const node = { ...createBand(newNodeId, [own]), props };
      const ids = blocks.map(({ id }) => id);
      edits.push({ type: "insert", parent: doc.root.id, after, node }, ...movesInto(ids, own.id));
      return { node, own };
    };
    const { padding } = band.props as unknown as BandProps;
    const top = above.length ? 0 : padding.top;
    if (below.length) cutBand(below, band.id, { ...padding, top: 0 });
    const foot = below.length ? 0 : padding.bottom;
    if (above.length) {
      const cut = cutBand([rest[at]!], band.id, { ...padding, top, bottom: foot });
      target = cut.node;
      stands = cut.own;
      if (padding.bottom) {
        edits.push({ type: "set", node: band.id, path: ["padding", "bottom"], value: 0 });
      }
    } else if (foot !== padding.bottom) {
      edits.push({ type: "set", node: band.id, path: ["padding", "bottom"], value: foot });
    }
  }
  const mirrored = doc.root.props.dir === "rtl";
  const order = target.children.findIndex((one) => one.id === stands.id);
  const index = order + (mirrored ? 1 - LEFT_TO_RIGHT[side] : LEFT_TO_RIGHT[side]);
  const after = target.children[index - 1]?.id ?? null;
  const shares = target.children.map((one) => one.props.share as number);
  const share = Math.round(shares.reduce((sum, one) => sum + one, 0) / shares.length);
  const { edits: put, ids } = intoColumn(
    doc,
    load,
    (node) => ({ type: "insert", parent: target.id, after, node }),
    Math.max(1, share),
  );
  if (ids.length === 0) return null;
  edits.push(...put, ...emptied(doc, movedBy(load), null));
  return { edit: group(edits), select: selecting(ids) };
}
