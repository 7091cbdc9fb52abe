/**
 * The document: a tree email › bands › columns › blocks of plain JSON, an id on every node.
 * What a block's properties mean is no concern of this folder: here they are opaque JSON.
 */
import { z } from "zod";
import type { Json, JsonObject } from "../json.ts";
import { LIMITS } from "../limits.ts";

export const SCHEMA_VERSION = 6;

export type Props = JsonObject;
export interface DocNode {
  readonly id: string;
  /** `email`, `band`, `column`, the type of a block, or of an item in it: `links.link`. */
  readonly type: string;
  readonly props: Props;
  readonly children: readonly DocNode[];
}
export interface EmailDocument {
  readonly schemaVersion: typeof SCHEMA_VERSION;
  readonly root: DocNode;
}

export const idSchema = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/, "Not a node id");
export const jsonSchema: z.ZodType<Json> = z.json();
const propsSchema = z.record(z.string(), jsonSchema) as z.ZodType<Props>;

export const nodeSchema: z.ZodType<DocNode> = z.lazy(() =>
  z.strictObject({
    id: idSchema,
    type: z.string().regex(/^[a-z][a-zA-Z.]{0,40}$/),
    props: propsSchema,
    children: z.array(nodeSchema).max(LIMITS.nodesPerDocument),
  }),
);

export const documentSchema: z.ZodType<EmailDocument> = z.strictObject({
  schemaVersion: z.literal(SCHEMA_VERSION),
  root: nodeSchema,
});

/** The block that holds other blocks. */
export const CARD = "card";
/** Blocks that show items of sources: what they hold is the design of one item, and is shown with each. */
export const ITEM_LISTS = ["digest", "shelf", "product", "events", "event"] as const;
export type ItemList = (typeof ITEM_LISTS)[number];
const lists = new Set<string>(ITEM_LISTS);
export const isItemList = (type: string): boolean => lists.has(type);
/** Whether blocks of a type hold blocks; they hold none that do. */
export const holdsBlocks = (type: string): boolean => type === CARD || lists.has(type);
const LAYOUT = ["email", "band", "column"];

export const isItem = (type: string): boolean => type.includes(".");
export const isBlock = (type: string): boolean => !isItem(type) && !LAYOUT.includes(type);

/** True when a node of type `child` may stand directly under one of type `parent`. */
export function mayHold(parent: string, child: string): boolean {
  if (isItem(child)) return parent === child.slice(0, child.lastIndexOf("."));
  if (parent === "email") return child === "band";
  if (parent === "band") return child === "column";
  if (holdsBlocks(parent)) return isBlock(child) && !holdsBlocks(child);
  return parent === "column" && isBlock(child);
}

/** Every node, top to bottom, parents before children. */
export function* walk(node: DocNode): Generator<DocNode> {
  yield node;
  for (const child of node.children) yield* walk(child);
}
