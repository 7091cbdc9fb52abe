/** Words that could not be joined: what was lost with a refused change, and how a person's own version is put back. */
import {
  type Change,
  type Edit,
  type EmailDocument,
  find,
  type Unmerged,
  valueAt,
} from "#core/document/index.ts";
import type { Json } from "#core/json.ts";

/** The texts that changes had written, as they stood, where they do not stand so any more. */
export function textsLost(
  changes: readonly Change[],
  before: EmailDocument,
  after: EmailDocument,
): Unmerged[] {
  const at = (doc: EmailDocument, node: string, path: readonly string[]): Json | null => {
    const found = find(doc, node)?.node;
    return found ? (valueAt(found.props, path) ?? null) : null;
  };
  return changes
    .flatMap(({ edit }) => (edit.type === "group" ? edit.edits : [edit]))
    .flatMap((part): Unmerged[] => {
      if (part.type !== "text") return [];
      const { node, path } = part;
      const [mine, theirs] = [at(before, node, path), at(after, node, path)];
      return mine === null ? [] : [{ node, path, mine, theirs, lost: null }];
    });
}

/** The edit that puts the person's version in: the text, or the block that is gone, at the nearest place that is left; null where none is. */
export function puttingBack({ node, path, mine, lost }: Unmerged, doc: EmailDocument): Edit | null {
  if (!lost || find(doc, lost.node.id)) {
    return { type: "set", node, path: [...(path ?? [])], value: mine ?? null };
  }
  const parent = find(doc, lost.parent)?.node;
  if (!parent) return null;
  const after = parent.children.some(({ id }) => id === lost.after)
    ? lost.after
    : (parent.children.at(-1)?.id ?? null);
  return { type: "insert", parent: parent.id, after, node: lost.node };
}
