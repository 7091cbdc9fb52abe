/** Making the items that repeat inside blocks. */
import type { DocNode } from "../document/index.ts";
import type { ItemKind } from "./kind.ts";

/** A new item of a kind, with the items it starts with itself. */
export function createItem<P>(
  kind: ItemKind<P>,
  newId: () => string,
  props: Partial<P> = {},
): DocNode {
  return {
    id: newId(),
    type: kind.type,
    props: { ...kind.create(), ...props } as unknown as DocNode["props"],
    children: kind.start?.(newId) ?? [],
  };
}
