/** Links of a text made to lead elsewhere. */
import { AddMarkStep } from "prosemirror-transform";
import type { Json } from "../json.ts";
import { sameJson } from "../json.ts";
import type { Link } from "./link.ts";
import { parseText, type TextJson, type TextKind, textSchema } from "./schema.ts";

/** The steps by which every link of a text that leads to one place leads to another; none where none does. */
export function relink(text: TextJson, from: Link, to: Link): Json[] {
  const root = parseText(text, text.type as TextKind);
  const mark = textSchema.marks.link?.create({ to });
  const steps: Json[] = [];
  root.descendants((node, pos) => {
    const own = node.marks.find(({ type }) => type.name === "link");
    if (!mark || !own || !sameJson(own.attrs.to, from)) return;
    steps.push(new AddMarkStep(pos, pos + node.nodeSize, mark).toJSON() as Json);
  });
  return steps;
}
