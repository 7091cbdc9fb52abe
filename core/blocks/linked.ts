/**
 * Linked bands and blocks. What stands in an email is a copy of the saved block, which nobody changes there: so all
 * that reads an email (the renderer, the checks, a launch) needs to know nothing of links. Where the saved block has
 * changed, an edit brings the copy up to date.
 */
import {
  type DocNode,
  type Edit,
  EditError,
  type EmailDocument,
  find,
  parts,
  pathTo,
  type SimpleEdit,
  walk,
  withNewIds,
} from "../document/index.ts";
import { canonical } from "../json.ts";
import type { Linked } from "../kinds/linked.ts";
import { nameOf } from "./names.ts";

/** What belongs to the place and not to what stands there: to whom it is shown, and what is held. */
const OF_THE_PLACE = ["linked", "seenBy", "chain", "show", "hold"];

export const linkOf = (node: DocNode): Linked | null =>
  (node.props.linked as Linked | undefined) ?? null;
/** The link of a node that is kept as its saved block is. */
const keptLink = (node: DocNode): Linked | null => {
  const link = linkOf(node);
  return link && !link.own ? link : null;
};

const known = new WeakMap<DocNode, boolean>();
/** Whether anything in it is linked. Nodes never change, so that it is asked once. */
export function hasLinks(node: DocNode): boolean {
  let has = known.get(node);
  if (has === undefined) {
    has = linkOf(node) !== null || node.children.some(hasLinks);
    known.set(node, has);
  }
  return has;
}

/** The linked node that a node is, or stands in; null where there is none. */
export function linkedAround(doc: EmailDocument, id: string): DocNode | null {
  return pathTo(doc, id).findLast((node) => linkOf(node) !== null) ?? null;
}

const ownProps = ({ props }: DocNode) =>
  Object.fromEntries(Object.entries(props).filter(([name]) => !OF_THE_PLACE.includes(name)));
interface Content {
  readonly type: string;
  readonly props: unknown;
  readonly children: readonly Content[];
}
/** What it says and how it looks, whatever its nodes are called. */
const contentOf = (node: DocNode): Content => ({
  ...{ type: node.type, props: ownProps(node) },
  children: node.children.map(inside),
});
const inside = ({ type, props, children }: DocNode): Content => ({
  ...{ type, props, children: children.map(inside) },
});
const same = (a: unknown, b: unknown) => canonical(a as never) === canonical(b as never);

const REFUSED =
  "it is linked, and the same wherever it stands. Change it everywhere, or make it loose";

/** Throws an EditError, with words for the person, where an edit changed what is linked. */
export function checkLinks(before: EmailDocument, after: EmailDocument, edit: Edit): void {
  if (before.root === after.root || !hasLinks(before.root)) return;
  // An earlier state comes back whole; what is linked in it is brought up to date afterwards.
  if (parts(edit).some(({ type }) => type === "restore")) return;
  for (const node of walk(before.root)) {
    const link = keptLink(node);
    const there = link && find(after, node.id)?.node;
    if (!there || there === node) continue;
    const now = keptLink(there);
    if (!now) continue;
    if (
      now.saved !== link.saved ||
      !same(ownProps(node), ownProps(there)) ||
      !same(node.children, there.children)
    ) {
      throw new EditError("invalid", `${nameOf(node)}: ${REFUSED}.`);
    }
  }
}

/** The same place with what the saved block says, and its own name, readers and holds. */
export function filled(place: DocNode, saved: DocNode, newId: () => string): DocNode {
  const kept = Object.fromEntries(
    OF_THE_PLACE.flatMap((name) => (name in place.props ? [[name, place.props[name]!]] : [])),
  );
  return {
    ...{ id: place.id, type: saved.type, props: { ...ownProps(saved), ...kept } },
    children: saved.children.map((child) => withNewIds(child, newId)),
  };
}

/** A saved block as it is put into an email, linked. */
export const linkedTo = (saved: string, node: DocNode): DocNode => ({
  ...node,
  props: { ...node.props, linked: { saved } },
});

/** Without links: for what is saved itself, or goes to another house. */
export const unlinked = (node: DocNode): DocNode => {
  if (!hasLinks(node)) return node;
  const { linked: _, ...props } = node.props;
  return { ...node, props, children: node.children.map(unlinked) };
};

/** The saved blocks that an email is linked to, by their ids. */
export const linksIn = (root: DocNode): Set<string> =>
  hasLinks(root)
    ? new Set([...walk(root)].flatMap((node) => linkOf(node)?.saved ?? []))
    : new Set();

/**
 * The edits that bring an email up to date with the saved blocks it is linked to. Those that are gone, or are several,
 * leave their places as they are.
 */
export function bringingUpToDate(
  doc: EmailDocument,
  saved: ReadonlyMap<string, readonly DocNode[]>,
  newId: () => string,
): SimpleEdit[] {
  if (!hasLinks(doc.root)) return [];
  const edits: SimpleEdit[] = [];
  for (const node of walk(doc.root)) {
    const link = keptLink(node);
    const [one, ...more] = (link && saved.get(link.saved)) || [];
    // A band stands for a band alone, a block for a block.
    if (!one || more.length > 0 || (one.type === "band") !== (node.type === "band")) continue;
    if (same(contentOf(node), contentOf(one))) continue;
    const { parent, index } = find(doc, node.id)!;
    const after = parent!.children[index - 1]?.id ?? null;
    edits.push(
      { type: "remove", node: node.id },
      { type: "insert", parent: parent!.id, after, node: filled(node, one, newId) },
    );
  }
  return edits;
}
