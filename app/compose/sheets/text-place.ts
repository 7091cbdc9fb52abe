/** Where a text of a node stands, on a sheet and in the document. */
import { textsOf } from "#core/blocks/index.ts";
import { type DocNode, type EmailDocument, find, valueAt } from "#core/document/index.ts";
import type { TextJson } from "#core/text/index.ts";
import type { SheetView } from "./view.ts";

export interface TextPlace {
  readonly block: DocNode;
  readonly element: HTMLElement;
  readonly path: readonly string[];
  readonly field: ReturnType<typeof textsOf>[number];
  readonly text: TextJson;
}

/** The place of the text that is named, or of the first one; null where the node has none to write in. */
export function textPlace(
  view: SheetView,
  doc: EmailDocument,
  node: string,
  name: string | null,
): TextPlace | null {
  const block = find(doc, node)?.node;
  const own = view.element(node);
  // Texts of the items in a block are theirs, not the block's.
  const element = [
    ...(own?.querySelectorAll<HTMLElement>(name ? `[data-text="${name}"]` : "[data-text]") ?? []),
  ].find((one) => one.closest("[data-node]") === own);
  if (!block || !element) return null;
  const path = (element.dataset.text ?? "").split(".");
  const field = textsOf(block.type).find((text) => text.path.join(".") === path.join("."));
  const text = valueAt(block.props, path) as unknown as TextJson | undefined;
  return field && text ? { block, element, path, field, text } : null;
}
