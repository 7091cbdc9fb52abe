/** The titles of an email in reading order: what its table of contents lists, and its outline is made of. */
import { CARD, type DocNode, isBlock } from "../document/index.ts";
import { sameJson } from "../json.ts";
import type { Title } from "../kinds/title.ts";
import { isBlank, type Seen, type When, whenBoth, whensOf } from "../text/index.ts";
import { blockKind } from "./index.ts";

const NONE: readonly Title[] = [];
const known = new WeakMap<DocNode, readonly Title[]>();

/** The titles in a node, in its order; those without words, and those for narrow alone, are none. */
export function titlesOf(root: DocNode): readonly Title[] {
  // Items, and nearly all blocks, have none: nothing is kept for them.
  if (root.children.length === 0 || isBlock(root.type)) {
    const own = ownTitle(root);
    const held = root.type === CARD ? heldTitles(root) : NONE;
    if (!own) return held;
    return [own, ...held];
  }
  let found = known.get(root);
  if (!found) {
    found = heldTitles(root);
    known.set(root, found);
  }
  return found;
}

function heldTitles({ children }: DocNode): readonly Title[] {
  const found: Title[] = [];
  let whens: readonly (When | null)[] | null = null;
  for (const [i, child] of children.entries()) {
    if (child.props.show === "narrow") continue;
    const inner = titlesOf(child);
    if (inner.length === 0) continue;
    whens ??= whensOf(children.map(({ props }) => seen(props)));
    const when = whens[i]!;
    for (const title of inner) {
      found.push(when ? { ...title, when: whenBoth(when, title.when) } : title);
    }
  }
  return found;
}

const seen = ({ seenBy = null, chain = null }: DocNode["props"]) =>
  ({ seenBy, chain }) as unknown as Seen;

const own = new WeakMap<DocNode, Title>();
function ownTitle(node: DocNode): Title | null {
  const kind = blockKind(node.type);
  if (!kind?.title) return null;
  let made = own.get(node);
  if (!made) {
    const title = kind.title(node.props as never);
    if (!title || isBlank(title.words)) return null;
    made = { ...title, node, when: null };
    own.set(node, made);
  }
  return made;
}

/** Whether two lists of titles say the same. */
export const sameTitles = (a: readonly Title[], b: readonly Title[]): boolean =>
  a === b ||
  (a.length === b.length &&
    a.every((one, i) => {
      const other = b[i]!;
      if (one === other) return true;
      return (
        one.node.id === other.node.id &&
        one.level === other.level &&
        (one.words === other.words || sameJson(one.words, other.words)) &&
        sameJson(one.when, other.when)
      );
    }));

/**
 * The level that fits a title where it stands: a heading beside the one before it, but for the email's own, of which
 * there is one; the title of any other block under the heading before it.
 */
export function fittingLevel(titles: readonly Title[], node: DocNode): number {
  const at = titles.findIndex((one) => one.node.id === node.id);
  const heading = titles.slice(0, at).findLast((one) => one.node.type === HEADING);
  if (node.type !== HEADING) return (heading?.level ?? 1) + 1;
  return heading ? Math.max(2, heading.level) : 1;
}
const HEADING = "heading";
