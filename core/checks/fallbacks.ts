import { labelOf, textsOf } from "../blocks/index.ts";
import { derivedBehind, derivedIdOf, derivedNamedIn, derivedRefs } from "../derived/index.ts";
import { valueAt, walk } from "../document/index.ts";
import type { Finding } from "../kinds/kind.ts";
import { type Tag, type TextJson, tagsOf } from "../text/index.ts";
import type { Check, CheckInput } from "./check.ts";

const idOf = (tag: Tag) => tag.ref.slice(tag.ref.indexOf(":") + 1);
const nameOf = (tag: Tag, { fields }: CheckInput) => fields.get(idOf(tag))?.label ?? idOf(tag);

/** Whether what a ref names is there, with all that a derived tag is made of. What the sender and the email have always is. */
function isThere(ref: string, { fields, surroundings }: CheckInput): boolean {
  const derived = surroundings.derived ?? new Map();
  const named = [ref, ...derivedBehind([ref], derived).flatMap(derivedRefs)];
  return named.every((one) => {
    const id = one.slice(one.indexOf(":") + 1);
    const tag = derivedIdOf(one);
    if (tag !== null) return derived.has(tag);
    if (one.startsWith("code:")) return surroundings.rolls?.has(id) ?? false;
    return !one.startsWith("contact:") || id === "email" || fields.has(id);
  });
}

/** Contact values can be missing, so a tag on one wants a fallback; and what a tag names must be there. */
export const fallbacks: Check = {
  id: "fallback",
  run(input) {
    const findings: Finding[] = [];
    const own = input.surroundings.fallbacks;
    for (const node of walk(input.doc.root)) {
      const at = node.type === "email" ? "envelope" : node.id;
      // Beside tags: as a link, an address, a picture, in HTML and plain text written by hand.
      const named = new Set(derivedNamedIn(JSON.stringify(node.props)));
      for (const { path, label } of textsOf(node.type)) {
        const text = valueAt(node.props, path) as unknown as TextJson;
        for (const tag of tagsOf(text)) {
          const where = (node.type === "email" ? label : labelOf(node)).toLowerCase();
          named.delete(derivedIdOf(tag.ref) ?? "");
          if (!isThere(tag.ref, input)) {
            findings.push({
              check: "fallback",
              severity: "stop",
              message: "What a merge tag names is gone",
              detail: `In the ${where}: take the tag out, or choose another.`,
              at,
            });
          } else if (
            tag.ref.startsWith("contact:") &&
            idOf(tag) !== "email" &&
            tag.fallback === null &&
            !own?.has(tag.ref)
          ) {
            findings.push({
              check: "fallback",
              severity: "look",
              message: `“${nameOf(tag, input)}” has no fallback`,
              detail: `In the ${where}: readers without a value see nothing there.`,
              at,
            });
          }
        }
      }
      for (const id of named) {
        if (isThere(`derived:${id}`, input)) continue;
        findings.push({
          check: "fallback",
          severity: "stop",
          message: "A derived tag is gone, or what it is made of",
          detail: `In the ${(node.type === "email" ? "envelope" : labelOf(node)).toLowerCase()}: “${id}”.`,
          at,
        });
      }
    }
    return findings;
  },
};
