/**
 * Carrying the change of a template into an email that was started from it. What differs between the template before
 * and after is done to the email too, but for what somebody has changed there by hand since it began.
 */
import {
  apply,
  type DocNode,
  EditError,
  type EmailDocument,
  find,
  type SimpleEdit,
  walk,
} from "../document/index.ts";
import { canonical, type Json } from "../json.ts";

export interface Carried {
  /** None where nothing is to be changed. */
  readonly edits: readonly SimpleEdit[];
  /** The email with it. */
  readonly doc: EmailDocument;
  /** How many nodes it changes. */
  readonly changed: number;
  /** The ids of nodes that stay as they were changed by hand. */
  readonly kept: readonly string[];
}

/** What every email says for itself, whatever its template does. */
const OWN = new Set(["envelope", "lang", "others", "languageField"]);

const same = (a: Json | undefined, b: Json | undefined): boolean =>
  a === b ||
  (a !== undefined && b !== undefined && canonical(a as never) === canonical(b as never));
const parentOf = (doc: EmailDocument, id: string): string | null =>
  find(doc, id)?.parent?.id ?? null;
const has = (doc: EmailDocument, id: string): boolean => find(doc, id) !== null;

/** The states it is worked out from. */
export interface Carrying {
  /** The template as it was when the email was started, and as it is. */
  readonly before: EmailDocument;
  readonly after: EmailDocument;
  /** The email as it began, and as it is. */
  readonly began: EmailDocument;
  readonly now: EmailDocument;
}

/** A change to be tried, and the node it is about. */
interface Step {
  readonly about: string;
  readonly edit: SimpleEdit;
}

/** Properties that the template changed, where nobody else has. */
function sets({ before, after, began: start, now }: Carrying, keep: (id: string) => void): Step[] {
  return [...walk(before.root)].flatMap((was) => {
    const is = find(after, was.id)?.node;
    if (!is || is === was || is.type !== was.type) return [];
    const names = new Set([...Object.keys(was.props), ...Object.keys(is.props)]);
    const here = find(now, was.id)?.node;
    const first = find(start, was.id)?.node;
    return [...names].flatMap((name): Step[] => {
      const value = is.props[name];
      if (same(was.props[name], value) || (was === before.root && OWN.has(name))) return [];
      if (here && same(here.props[name], value)) return [];
      // As it began, or as the template was last carried into it. Its theme may have been chosen when it was started.
      const began = was === before.root ? undefined : first?.props[name];
      const untouched = here && [began, was.props[name]].some((one) => same(here.props[name], one));
      if (!untouched) {
        keep(was.id);
        return [];
      }
      return [{ about: was.id, edit: { type: "set", node: was.id, path: [name], value } }];
    });
  });
}

/** A node without those in it that were in the template before: they are moved there. */
const fresh = (node: DocNode, before: EmailDocument): DocNode => ({
  ...node,
  children: node.children.filter(({ id }) => !has(before, id)).map((child) => fresh(child, before)),
});

/** Whether the common children of a parent stand in the same order in two documents. */
function sameOrder(a: readonly DocNode[], b: readonly DocNode[]): boolean {
  const inB = new Set(b.map(({ id }) => id));
  const inA = new Set(a.map(({ id }) => id));
  const left = a.filter(({ id }) => inB.has(id));
  const right = b.filter(({ id }) => inA.has(id));
  return left.every(({ id }, i) => id === right[i]!.id);
}

/** Where a node comes to stand: after the nearest before it in the template that the email has too. */
function placeOf(after: EmailDocument, now: EmailDocument, id: string) {
  const { parent, index } = find(after, id)!;
  const sibling = parent!.children
    .slice(0, index)
    .findLast((one) => parentOf(now, one.id) === parent!.id);
  return { parent: parent!.id, after: sibling?.id ?? null };
}

/** Carries the change of a template. Nothing that is refused on the way breaks it: it is left as it is. */
export function carry(states: Carrying): Carried {
  const { before, after, began, now } = states;
  const kept = new Set<string>();
  const changed = new Set<string>();
  const done: SimpleEdit[] = [];
  let doc = now;
  const take = ({ about, edit }: Step) => {
    try {
      doc = apply(doc, edit);
      done.push(edit);
      changed.add(about);
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      kept.add(about);
    }
  };
  for (const step of sets(states, (id) => kept.add(id))) take(step);

  for (const node of walk(after.root)) {
    const { parent } = find(after, node.id)!;
    if (!parent) continue;
    if (!has(before, node.id)) {
      // Within what is new it came along; what is here already is somebody's.
      if (has(doc, node.id)) continue;
      const edit = { type: "insert", ...placeOf(after, doc, node.id), node: fresh(node, before) };
      take({ about: node.id, edit: edit as SimpleEdit });
      continue;
    }
    const was = find(before, node.id)!.parent!;
    const here = parentOf(doc, node.id);
    if (here === null) continue;
    const moved = was.id !== parent.id;
    const children = (email: EmailDocument) => find(email, was.id)?.node.children ?? [];
    const ordered =
      !moved &&
      !sameOrder(was.children, parent.children) &&
      [began, before].some((email) => sameOrder(children(email), children(now)));
    if (!moved && !ordered) continue;
    const stood = [began, before].map((email) => parentOf(email, node.id));
    if (!stood.includes(parentOf(now, node.id))) {
      if (moved) kept.add(node.id);
      continue;
    }
    take({
      about: node.id,
      edit: { type: "move", node: node.id, ...placeOf(after, doc, node.id) },
    });
  }

  for (const node of walk(before.root)) {
    if (has(after, node.id) || !has(doc, node.id)) continue;
    const here = find(now, node.id)!.node as unknown as Json;
    const untouched = [began, before].some((email) =>
      same(find(email, node.id)?.node as unknown as Json, here),
    );
    if (untouched) {
      take({ about: node.id, edit: { type: "remove", node: node.id } });
    } else kept.add(node.id);
  }
  return {
    edits: done,
    doc,
    changed: changed.size,
    kept: [...kept],
  };
}
