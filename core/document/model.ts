/**
 * The document: a tree email › bands › columns › blocks of plain JSON, an id on every node.
 * What a block's properties mean is no concern of this folder: here they are opaque JSON.
 */
import { z } from "zod";
import type { Json, JsonObject } from "../json.ts";
import { LIMITS } from "../limits.ts";

export const SCHEMA_VERSION = 1;

export type Props = JsonObject;
export interface DocNode {
  readonly id: string;
  /** `email`, `band`, `column`, or the type of a block. */
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

/** True when a node of type `child` may stand directly under one of type `parent`. */
export function mayHold(parent: string, child: string): boolean {
  if (parent === "email") return child === "band";
  if (parent === "band") return child === "column";
  return parent === "column" && !["email", "band", "column"].includes(child);
}
