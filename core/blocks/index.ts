/**
 * The list of block types. A new one is a file beside this one and a line in `BLOCKS`; the tray, the
 * settings, the renderer, the checks and the server's validation all read this list.
 */
import { type DocNode, EditError, type EmailDocument, mayHold, walk } from "../document/index.ts";
import type { BlockProps } from "../kinds/common.ts";
import type { BlockGroup, BlockKind, TextField } from "../kinds/kind.ts";
import { button } from "./button.ts";
import { coupon } from "./coupon.ts";
import { divider } from "./divider.ts";
import { footer } from "./footer.ts";
import { heading } from "./heading.ts";
import { image } from "./image.ts";
import { bandSchema, columnSchema, emailSchema, newBand, newColumn, newEmail } from "./layout.ts";
import { pictureAndWords } from "./picture-and-words.ts";
import { quote } from "./quote.ts";
import { spacer } from "./spacer.ts";
import { text } from "./text.ts";

// biome-ignore lint/suspicious/noExplicitAny: each kind has props of its own; its schema keeps them apart
export const BLOCKS: readonly BlockKind<any>[] = [
  heading,
  text,
  quote,
  image,
  pictureAndWords,
  button,
  coupon,
  divider,
  spacer,
  footer,
];

export const GROUPS: Record<BlockGroup, string> = {
  words: "Words",
  pictures: "Pictures",
  actions: "Actions",
  layout: "Layout",
};

const byType = new Map(BLOCKS.map((kind) => [kind.type, kind]));

/** The kind of a block type, or null for `email`, `band`, `column` and unknown types. */
export const blockKind = (type: string): BlockKind<BlockProps> | null => byType.get(type) ?? null;

const LAYOUT = { email: emailSchema, band: bandSchema, column: columnSchema } as const;
const LAYOUT_LABELS: Record<string, string> = { email: "Email", band: "Band", column: "Column" };

/** What a node is called on screen. */
export const labelOf = (node: DocNode): string =>
  LAYOUT_LABELS[node.type] ?? blockKind(node.type)?.label ?? node.type;

const ENVELOPE_TEXTS: readonly TextField[] = [
  { path: ["envelope", "fromName"], kind: "line", label: "From" },
  { path: ["envelope", "subject"], kind: "line", label: "Subject" },
  { path: ["envelope", "preview"], kind: "line", label: "Preview text" },
];

/** Where texts stand in a node of this type. */
export const textsOf = (type: string): readonly TextField[] =>
  type === "email" ? ENVELOPE_TEXTS : (blockKind(type)?.texts ?? []);

/**
 * Checks the properties of a node (not of those under it) and gives it back with them in normal form.
 * Throws an EditError that names the first thing wrong.
 */
export function checkNode(node: DocNode): DocNode {
  const schema = LAYOUT[node.type as keyof typeof LAYOUT] ?? blockKind(node.type)?.schema;
  if (!schema) throw new EditError("invalid", `There is no block type “${node.type}”.`);
  const result = schema.safeParse(node.props);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    throw new EditError(
      "invalid",
      `${labelOf(node)}: ${issue.message} (${issue.path.join(" › ")})`,
    );
  }
  return { ...node, props: result.data as DocNode["props"] };
}

/** The ids of the pictures that a document shows: every node names its own under `picture`. */
export const picturesIn = (doc: EmailDocument): Set<string> =>
  new Set(
    [...walk(doc.root)].map(({ props }) => props.picture).filter((id) => typeof id === "string"),
  );

const checked = new WeakSet<DocNode>();

/**
 * Checks every node of a document that has not been checked before: after an edit, only the nodes
 * from the change up to the root. Throws an EditError.
 */
export function checkDocument(doc: EmailDocument): void {
  const visit = (node: DocNode) => {
    if (checked.has(node)) return;
    checkNode(node);
    for (const child of node.children) {
      if (!mayHold(node.type, child.type)) {
        throw new EditError("misplaced", `A ${child.type} cannot stand in a ${node.type}.`);
      }
      visit(child);
    }
    checked.add(node);
  };
  if (doc.root.type !== "email") throw new EditError("invalid", "This is not an email.");
  visit(doc.root);
}

/** A new block with the properties it starts with. */
export function createBlock(type: string, newId: () => string, props: object = {}): DocNode {
  const kind = blockKind(type);
  if (!kind) throw new EditError("invalid", `There is no block type “${type}”.`);
  return {
    id: newId(),
    type,
    props: { ...kind.create(), ...props } as unknown as DocNode["props"],
    children: [],
  };
}

/** A new column with blocks in it. */
export const createColumn = (
  newId: () => string,
  blocks: readonly DocNode[] = [],
  share = 1,
): DocNode => ({ id: newId(), type: "column", props: { ...newColumn(share) }, children: blocks });

/** A new band with columns in it. */
export const createBand = (
  newId: () => string,
  columns: readonly DocNode[],
  props: Partial<ReturnType<typeof newBand>> = {},
): DocNode => ({
  id: newId(),
  type: "band",
  props: { ...newBand(), ...props } as unknown as DocNode["props"],
  children: columns,
});

/** A new email holding the bands given. */
export const createDocument = (
  bands: readonly DocNode[] = [],
  props: Partial<ReturnType<typeof newEmail>> = {},
): EmailDocument => ({
  schemaVersion: 1,
  root: {
    id: "email",
    type: "email",
    props: { ...newEmail(), ...props } as unknown as DocNode["props"],
    children: bands,
  },
});
