/** Edits in words, for the list of what was done. */
import {
  type DocNode,
  type Edit,
  type EmailDocument,
  find,
  parts,
  type SimpleEdit,
} from "../document/index.ts";
import type { Control } from "../kinds/kind.ts";
import { labelOf, nodeKind, textsOf } from "./index.ts";
import { bandControls } from "./layout.ts";
import { theOf } from "./names.ts";

/** Settings that belong to every block, band or email, by the beginning of their path. */
const SHARED: Record<string, string> = {
  "box.padding": "spacing",
  "box.align": "alignment",
  "box.alignNarrow": "alignment on narrow",
  "box.border": "border",
  "box.corner": "corners",
  "box.background": "background",
  "box.dir": "text direction",
  padding: "spacing",
  outer: "outer spacing",
  inner: "inner spacing",
  show: "widths it shows on",
  plain: "plain text",
  name: "name",
  share: "widths of columns",
  theme: "theme",
  envelope: "envelope",
  width: "width",
  lang: "language",
  dir: "text direction",
  textLinks: "links in plain text",
};

const pathOf = (control: Control) => ("path" in control ? control.path.join(".") : "");

/** What a setting is called in a sentence: by the label of its control, or by what all nodes have. */
function settingName(node: DocNode, path: readonly string[]): string {
  const kind = nodeKind(node.type);
  const controls = kind
    ? [...kind.content, ...kind.style]
    : node.type === "band"
      ? bandControls
      : [];
  const key = path.join(".");
  const own = controls.find((one) => {
    const of = pathOf(one);
    return of !== "" && (key === of || key.startsWith(`${of}.`));
  });
  if (own) return `“${own.label}”`;
  const text = textsOf(node.type).find((one) => one.path.join(".") === key);
  if (text) return `the ${text.label.toLowerCase()}`;
  const shared = Object.keys(SHARED).find((of) => key === of || key.startsWith(`${of}.`));
  return `the ${shared ? SHARED[shared]! : "settings"}`;
}

const count = (n: number, one: string) => `${n} ${one}${n === 1 ? "" : "s"}`;

function simple(doc: EmailDocument, edit: SimpleEdit): string {
  if (edit.type === "restore") return "Went back to an earlier state";
  if (edit.type === "insert") return `Put in ${theOf(edit.node)}`;
  const node = find(doc, edit.node)?.node;
  if (!node) return "Changed something";
  const email = node === doc.root;
  switch (edit.type) {
    case "remove":
      return `Took out ${theOf(node)}`;
    case "move":
      return `Moved ${theOf(node)}`;
    case "text": {
      const text = textsOf(node.type).find((one) => one.path.join(".") === edit.path.join("."));
      if (email) return `Wrote the ${text?.label.toLowerCase() ?? "envelope"}`;
      return text && text.label !== "Text"
        ? `Wrote the ${text.label.toLowerCase()} of ${theOf(node)}`
        : `Wrote in ${theOf(node)}`;
    }
    case "set": {
      const name = settingName(node, edit.path);
      return email ? `Changed ${name}` : `Changed ${name} of ${theOf(node)}`;
    }
  }
}

/** Says in a few words what an edit does; `doc` is the document before it. */
export function wordsOfEdit(doc: EmailDocument, edit: Edit): string {
  const all = parts(edit);
  const [first] = all;
  if (!first) return "Changed nothing";
  if (all.length === 1) return simple(doc, first);
  const moves = all.filter((one) => one.type === "move");
  const texts = all.filter((one) => one.type === "text");
  const inserts = all.filter((one) => one.type === "insert");
  const sets = all.filter((one) => one.type === "set");
  if (texts.length > 1 && texts.length === all.length) {
    return `Changed text in ${count(new Set(texts.map((one) => one.node)).size, "place")}`;
  }
  const card = inserts.find((one) => one.node.type === "card" && one.node.children.length === 0);
  if (card && moves.length) return `Put ${count(moves.length, "block")} into a card`;
  if (moves.length > 1) return `Moved ${count(moves.length, "piece")}`;
  if (moves[0]) return simple(doc, moves[0]);
  if (inserts.length > 1) return `Put in ${count(inserts.length, "piece")}`;
  if (inserts[0]) return simple(doc, inserts[0]);
  if (sets.length > 1) {
    const nodes = sets.map((one) => find(doc, one.node)?.node).filter((node) => node !== undefined);
    const [one] = nodes;
    const many = new Set(nodes.map((node) => node.id)).size;
    if (!one || many === 1) return simple(doc, sets[0]!);
    const names = new Set(sets.map((set, i) => nodes[i] && settingName(nodes[i], set.path)));
    const what = names.size === 1 ? [...names][0] : "the style";
    if (one.type === "column") return "Changed the widths of columns";
    return `Changed ${what} of ${count(many, labelOf(one).toLowerCase())}`;
  }
  return all.every((one) => one.type === "remove")
    ? `Took out ${count(all.length, "piece")}`
    : simple(doc, first);
}
