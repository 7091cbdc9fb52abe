/** Styles that are copied and pasted, and looks put back to how they came. */
import { z } from "zod";
import { nodeKind } from "#core/blocks/index.ts";
import { type Style, startProps, styleOf, withStyle } from "#core/blocks/style.ts";
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

/** What of a node is not how it looks: who sees it, its plain text by hand. */
const NOT_LOOKS = ["plain", "seenBy", "chain"];

/**
 * Puts the look of a block or an item back to how it came. What it says stays: its words, where it leads, its
 * pictures and its items. Null where nothing would change.
 */
export function putLookBack(doc: EmailDocument, node: DocNode): Doing | null {
  const kind = nodeKind(node.type);
  if (!kind) return null;
  const said = new Set([
    ...NOT_LOOKS,
    ...kind.texts.map(({ path }) => path[0]),
    ...kind.content.flatMap((control) => ("path" in control ? [control.path[0]] : [])),
  ]);
  const props = startProps(doc.root.props.theme as unknown as Theme, node.type);
  const edits = Object.entries(props).flatMap(([name, value]): SimpleEdit[] =>
    said.has(name) || sameJson((node.props[name] ?? null) as Json, value as Json)
      ? []
      : [{ type: "set", node: node.id, path: [name], value: value as Json }],
  );
  return edits.length ? { edit: group(edits) } : null;
}
