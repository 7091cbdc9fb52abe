/** Styles that are copied and pasted, and blocks put back to how they came. */
import { z } from "zod";
import { blockKind, nodeKind } from "#core/blocks/index.ts";
import { newBlock, type Style, startProps, styleOf, withStyle } from "#core/blocks/style.ts";
import {
  type DocNode,
  type EmailDocument,
  find,
  jsonSchema,
  type SimpleEdit,
} from "#core/document/index.ts";
import { type Json, sameJson } from "#core/json.ts";
import type { Theme } from "#core/theme/theme.ts";
import { type Doing, group } from "./doing.ts";
import { newNodeId } from "./ids.ts";

/** In the browser's storage, so that a style goes from one campaign to another. */
const KEY = "septima.style";
const styleSchema = z.object({ type: z.string(), values: z.record(z.string(), jsonSchema) });

/** Copies a node's style; gives what to say of it. */
export function copyStyle(node: DocNode): string {
  try {
    localStorage.setItem(KEY, JSON.stringify(styleOf(node)));
    return "Style copied";
  } catch {
    return "The style could not be copied: this browser keeps nothing.";
  }
}

export function copiedStyle(): Style | null {
  try {
    return styleSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? "null"));
  } catch {
    return null;
  }
}

/** Gives the copied style to nodes, as far as each has a place for it. */
export function pasteStyle(doc: EmailDocument, ids: readonly string[]): Doing | null {
  const style = copiedStyle();
  if (!style) return null;
  const edits = ids.flatMap((id) => {
    const node = find(doc, id)?.node;
    return node ? withStyle(node, style) : [];
  });
  return edits.length ? { edit: group(edits) } : null;
}

/** Puts a block or an item back to how it came: its style and its content. Null where nothing would change. */
export function putBack(doc: EmailDocument, node: DocNode): Doing | null {
  if (!nodeKind(node.type)) return null;
  const props = startProps(doc.root.props.theme as unknown as Theme, node.type);
  const edits = Object.entries(props).flatMap(([name, value]): SimpleEdit[] =>
    sameJson((node.props[name] ?? null) as Json, value as Json)
      ? []
      : [{ type: "set", node: node.id, path: [name], value: value as Json }],
  );
  // Items begin anew with those a new block has; blocks in a card are the person's own and stay.
  if (blockKind(node.type) && nodeKind(node.type)?.holds?.length) {
    const at = find(doc, node.id)!;
    const fresh = newBlock(doc, node.type, newNodeId);
    return {
      edit: group([
        { type: "insert", parent: at.parent!.id, after: node.id, node: fresh },
        { type: "remove", node: node.id },
      ]),
      select: fresh.id,
    };
  }
  return edits.length ? { edit: group(edits) } : null;
}
