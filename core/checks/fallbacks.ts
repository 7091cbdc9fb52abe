import { labelOf, textsOf } from "../blocks/index.ts";
import { valueAt, walk } from "../document/index.ts";
import type { Finding } from "../kinds/kind.ts";
import { type Tag, type TextJson, tagsOf } from "../text/index.ts";
import type { Check, CheckInput } from "./check.ts";

const nameOf = (tag: Tag, { fields }: CheckInput) => {
  const [, id] = tag.ref.split(":") as [string, string];
  return fields.get(id)?.label ?? id;
};

/** Contact values can be missing, so a tag on one wants a fallback; and its field must exist. */
export const fallbacks: Check = {
  id: "fallback",
  run(input) {
    const findings: Finding[] = [];
    for (const node of walk(input.doc.root)) {
      for (const { path, label } of textsOf(node.type)) {
        const text = valueAt(node.props, path) as unknown as TextJson;
        for (const tag of tagsOf(text)) {
          const [scope, id] = tag.ref.split(":") as [string, string];
          if (scope !== "contact" || id === "email") continue;
          const where = node.type === "email" ? label : labelOf(node);
          const at = node.type === "email" ? "envelope" : node.id;
          if (!input.fields.has(id)) {
            findings.push({
              check: "fallback",
              severity: "stop",
              message: "A merge tag’s field is gone",
              detail: `In the ${where.toLowerCase()}: take the tag out, or choose another field.`,
              at,
            });
          } else if (tag.fallback === null) {
            findings.push({
              check: "fallback",
              severity: "look",
              message: `“${nameOf(tag, input)}” has no fallback`,
              detail: `In the ${where.toLowerCase()}: readers without a value see nothing there.`,
              at,
            });
          }
        }
      }
    }
    return findings;
  },
};
