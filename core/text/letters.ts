/** The letters of a text, paragraph by paragraph: one character for each position. */
import type { Node as ProseNode } from "prosemirror-model";
import { parseText, type TextJson, type TextKind } from "./schema.ts";

/** Stands for what is no letter: a tag, a line break. */
export const ATOM = "\ufffc";

export interface Letters {
  /** The position of the first letter, as prosemirror-model counts. */
  readonly start: number;
  readonly letters: string;
}

const lettersOf = (block: ProseNode): string =>
  block.textBetween(0, block.content.size, ATOM, ATOM);

/** The paragraphs of a text, also those in lists; a line or a heading is one. */
export function lettersIn(text: TextJson): Letters[] {
  const root = parseText(text, text.type as TextKind);
  if (root.inlineContent) return [{ start: 0, letters: lettersOf(root) }];
  const found: Letters[] = [];
  root.descendants((node, pos) => {
    if (node.inlineContent) found.push({ start: pos + 1, letters: lettersOf(node) });
    return !node.inlineContent;
  });
  return found;
}
