/** What hands did to a text before there was an editor for it. */
import { Fragment, type Node as ProseNode, Slice } from "prosemirror-model";
import { ReplaceStep } from "prosemirror-transform";
import type { Json } from "../json.ts";
import { parseText, type TextJson, type TextKind, textSchema } from "./schema.ts";

export interface Typed {
  readonly words: string;
  /** The words stand in place of all that was there, not behind it. */
  readonly replaces: boolean;
  /** All of it is selected at the end. */
  readonly selects: boolean;
}

export const NOTHING_TYPED: Typed = { words: "", replaces: false, selects: false };

/** The end of the last line of a text, as a position in it. */
function endOf(text: ProseNode): number {
  let at = text.content.size;
  for (let one = text; !one.inlineContent && one.lastChild; one = one.lastChild) at -= 1;
  return at;
}

/** The steps that do to a text what was typed: words behind it or in place of it; none where nothing was. */
export function typedSteps(text: TextJson, { words, replaces }: Typed): Json[] {
  if (!words && !replaces) return [];
  const node = parseText(text, text.type as TextKind);
  const letters = words ? Fragment.from(textSchema.text(words)) : Fragment.empty;
  const end = endOf(node);
  const put = (from: number, to: number, content: Fragment) => [
    new ReplaceStep(from, to, new Slice(content, 0, 0)).toJSON() as Json,
  ];
  if (!replaces) return put(end, end, letters);
  const { paragraph } = textSchema.nodes;
  const whole = node.inlineContent ? letters : Fragment.from(paragraph!.create(null, letters));
  return put(0, node.content.size, whole);
}
