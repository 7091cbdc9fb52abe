/** What chooses items in an email. */
import { type DocNode, isItemList, walk } from "../document/index.ts";
import type { Choice } from "../items/index.ts";
import { blockKind } from "./index.ts";

/** A choice of an email, by the block that shows what it gives. */
export interface NamedChoice {
  readonly node: string;
  /** The kind of its items. */
  readonly kind: string;
  readonly choice: Choice;
}

/** The choices of an email, top to bottom. */
export const choicesIn = ({ root }: { readonly root: DocNode }): NamedChoice[] =>
  [...walk(root)].flatMap(({ id, type, props }) => {
    const kind = isItemList(type) ? blockKind(type)?.items : undefined;
    return kind ? [{ node: id, kind, choice: props.choice as unknown as Choice }] : [];
  });
