/** What can be put into the email: by dragging, by keyboard, by pasting. */
import { createBand, createColumn, GROUPS, labelOf, nodeKind } from "#core/blocks/index.ts";
import { newBlock } from "#core/blocks/style.ts";
import {
  type DocNode,
  type EmailDocument,
  find,
  isItem,
  withNewIds,
} from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import { newNodeId } from "../doing/ids.ts";
import { withOwnChains } from "../who/actions.ts";

export type Load =
  /** A new block, with properties that are known already where there are some. */
  | { readonly kind: "new"; readonly type: string; readonly props?: Readonly<Record<string, Json>> }
  | { readonly kind: "newBand"; readonly columns: number }
  /** Nodes of the email, top to bottom: all bands, all blocks, or one item. */
  | { readonly kind: "nodes"; readonly ids: readonly string[] }
  /** Copies that were made before: all bands or all blocks. */
  | { readonly kind: "ready"; readonly nodes: readonly DocNode[]; readonly label: string }
  /** Picture files of the computer: each becomes an image once it is here. */
  | { readonly kind: "files" };

/** Where a load can stand: between bands, among blocks, or among the items of its block. */
export type Level = "band" | "block" | "item";

/** The types of what is put down. */
export function typesOf(doc: EmailDocument, load: Load): string[] {
  switch (load.kind) {
    case "new":
      return [load.type];
    case "newBand":
      return ["band"];
    case "files":
      return ["image"];
    case "ready":
      return load.nodes.map((node) => node.type);
    case "nodes":
      return load.ids.flatMap((id) => find(doc, id)?.node.type ?? []);
  }
}

export function levelOf(doc: EmailDocument, load: Load): Level {
  const types = typesOf(doc, load);
  if (types.some(isItem)) return "item";
  return types.includes("band") ? "band" : "block";
}

/** New nodes with ids of their own; null for what is moved, or is not here yet. */
export function freshNodes(doc: EmailDocument, load: Load): DocNode[] | null {
  switch (load.kind) {
    case "new":
      return [newBlock(doc, load.type, newNodeId, load.props)];
    case "newBand": {
      const columns = Array.from({ length: load.columns }, () => createColumn(newNodeId));
      return [createBand(newNodeId, columns)];
    }
    case "ready":
      return withOwnChains(load.nodes.map((node) => withNewIds(node, newNodeId)));
    case "nodes":
    case "files":
      return null;
  }
}

/** What it is called while it is on its way. */
export function labelOfLoad(doc: EmailDocument, load: Load): string {
  switch (load.kind) {
    case "new":
      return nodeKind(load.type)?.label ?? GROUPS.layout;
    case "newBand":
      return load.columns === 1 ? "Band" : `${load.columns} columns`;
    case "files":
      return "Image";
    case "ready":
      return load.label;
    case "nodes": {
      const node = find(doc, load.ids[0] ?? "")?.node;
      if (load.ids.length === 1) return node ? labelOf(node) : "";
      return `${load.ids.length} ${node?.type === "band" ? "bands" : "blocks"}`;
    }
  }
}
