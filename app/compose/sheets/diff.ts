/** Which elements of a sheet a changed document touches: the least that has to be made again. */
import { CARD, type DocNode, type EmailDocument } from "#core/document/index.ts";

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
  if (onlyEnvelope(a, b)) return children(a, b);
  return a.props === b.props ? children(a, b) : null;
}

/** The envelope shows in no band, so that writing a subject redraws nothing. */
function onlyEnvelope(a: DocNode, b: DocNode): boolean {
  return (["theme", "width", "lang", "dir", "textLinks"] as const).every(
    (name) => a.props[name] === b.props[name],
  );
}

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
  if (b.type === CARD && a.props === b.props && sameOrder(a.children, b.children)) {
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
    if (a.props !== b.props || columnsMoved || filler || shares)
      return [{ kind: "replace", id: b.id }];
    return b.children.flatMap((column, i) => {
      const old = a.children[i]!;
      return old === column ? [] : children(old, column);
    });
  }
  return [{ kind: "replace", id: b.id }];
}
