/**
 * Whether an edit keeps to the holds of an email. What was and what is are compared, so that every way of changing
 * something is held alike: by hand, by key, by paste, by replay. Only what differs is looked at.
 */
import {
  type DocNode,
  type Edit,
  EditError,
  type EmailDocument,
  parts,
  pathTo,
} from "../document/index.ts";
import { canonical, type Json } from "../json.ts";
import type { Hold } from "../kinds/hold.ts";
import { textsOf } from "./index.ts";
import { nameOf } from "./names.ts";

const ownHold = (node: DocNode): Hold | null => (node.props.hold as Hold | undefined) ?? null;

/** The hold that a node is under: its own, or the nearest around it. */
export function holdOf(doc: EmailDocument, id: string): Hold {
  const path = pathTo(doc, id);
  for (let i = path.length - 1; i >= 0; i--) {
    const own = ownHold(path[i]!);
    if (own) return own;
  }
  return "free";
}

/** Whether anything in it is held. */
const holdsAny = (node: DocNode): boolean =>
  (ownHold(node) ?? "free") !== "free" || node.children.some(holdsAny);
export const hasHolds = (doc: EmailDocument): boolean => holdsAny(doc.root);

/** A node's properties without its texts: what stays as it is where only the text may change. */
function withoutTexts({ type, props }: DocNode): Json {
  const { tr: _, placeholder: _marks, plain: _plain, ...rest } = props as Record<string, Json>;
  const left = structuredClone(rest) as Record<string, Json>;
  for (const { path } of textsOf(type)) {
    let at: Record<string, Json> | undefined = left;
    for (const step of path.slice(0, -1)) at = at?.[step] as Record<string, Json> | undefined;
    if (at) delete at[path.at(-1)!];
  }
  return left;
}

const same = (a: Json, b: Json): boolean => canonical(a as never) === canonical(b as never);

const WHY: Record<Exclude<Hold, "free">, string> = {
  text: "its template lets others change its text only",
  fixed: "its template holds it as it is",
};
const refused = (node: DocNode, hold: Exclude<Hold, "free">): never => {
  throw new EditError("invalid", `${nameOf(node)}: ${WHY[hold]}.`);
};

function compare(before: DocNode, after: DocNode, around: Hold, named: DocNode): void {
  if (before === after) return;
  const own = ownHold(before);
  const hold = own ?? around;
  // A column has no name of its own: what is held is the band.
  const told = before.type === "column" ? named : before;
  if (own !== ownHold(after)) {
    throw new EditError(
      "invalid",
      `${nameOf(told)}: only those who may change templates change its hold.`,
    );
  }
  const kept = new Map(after.children.map((child) => [child.id, child]));
  if (hold !== "free") {
    const ids = (node: DocNode) => node.children.map(({ id }) => id).join(" ");
    if (ids(before) !== ids(after)) refused(told, hold);
    const [a, b] =
      hold === "fixed"
        ? [before.props as Json, after.props as Json]
        : [withoutTexts(before), withoutTexts(after)];
    if (!same(a, b)) refused(told, hold);
  }
  for (const child of before.children) {
    const there = kept.get(child.id);
    if (there) compare(child, there, hold, told);
    else if (holdsAny(child)) refused(child, ownHold(child) === "text" ? "text" : "fixed");
  }
}

/** Throws an EditError, with words for the person, where an edit changed what is held. */
export function checkHolds(before: EmailDocument, after: EmailDocument, edit: Edit): void {
  if (!hasHolds(before)) return;
  for (const part of parts(edit)) {
    if (part.type !== "move") continue;
    const node = pathTo(before, part.node).at(-1);
    const hold = node ? holdOf(before, node.id) : "free";
    if (node && hold !== "free") refused(node, hold);
  }
  compare(before.root, after.root, "free", before.root);
}
