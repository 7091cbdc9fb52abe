import { labelOf, textsOf } from "../blocks/index.ts";
import { derivedBehind, derivedIdOf, derivedRefs } from "../derived/index.ts";
import type { Finding } from "../kinds/kind.ts";
import { type Mention, refOf } from "../mentions/index.ts";
import { type Check, type CheckInput, isInText, placeOf } from "./check.ts";

const idOf = (ref: string) => ref.slice(ref.indexOf(":") + 1);

/** Whether what a ref names is there, with all that a derived tag is made of. What the sender and the email have always is. */
function isThere(ref: string, { fields, surroundings }: CheckInput): boolean {
  const derived = surroundings.derived ?? new Map();
  const named = [ref, ...derivedBehind([ref], derived).flatMap(derivedRefs)];
  return named.every((one) => {
    const id = idOf(one);
    const tag = derivedIdOf(one);
    if (tag !== null) return derived.has(tag);
    if (one.startsWith("code:")) return surroundings.rolls?.has(id) ?? false;
    return !one.startsWith("contact:") || id === "email" || fields.has(id);
  });
}

/** Where it stands, in a sentence. */
function where({ node, path }: Mention): string {
  if (node.type !== "email") return labelOf(node).toLowerCase();
  const text = textsOf(node.type).find((one) => one.path.join(".") === path.join("."));
  return (text?.label ?? "envelope").toLowerCase();
}

/** Contact values can be missing, so a tag on one wants a fallback; and what a tag names must be there. */
export const fallbacks: Check = {
  id: "fallback",
  run(input) {
    const own = input.surroundings.fallbacks;
    const told = new Set<string>();
    return input.mentions.flatMap((mention): Finding[] => {
      const ref = refOf(mention);
      if (ref === null) return [];
      const at = placeOf(mention.node);
      const derived = derivedIdOf(ref);
      if (!isThere(ref, input)) {
        // What is gone is said once for each part that names it.
        const key = `${at} ${ref}`;
        if (told.has(key)) return [];
        told.add(key);
        const inText = mention.what === "tag" && isInText(mention);
        return [
          inText || derived === null
            ? {
                check: "fallback",
                severity: "stop" as const,
                message: "What a merge tag names is gone",
                detail: `In the ${where(mention)}: take the tag out, or choose another.`,
                at,
                in: mention.path,
              }
            : {
                check: "fallback",
                severity: "stop" as const,
                message: "A derived tag is gone, or what it is made of",
                detail: `In the ${where(mention)}: “${derived}”.`,
                at,
                in: mention.path,
              },
        ];
      }
      // A translation says what its original says: what is missing there is missing once.
      if (mention.what !== "tag" || mention.lang !== null) return [];
      const { tag, lands } = mention;
      // A whole address is looked at by the check of addresses.
      if (lands.encoding === "address") return [];
      const needs = ref.startsWith("contact:") && idOf(ref) !== "email";
      if (!needs || tag.fallback !== null || own?.has(ref)) return [];
      const name = input.fields.get(idOf(ref))?.label ?? idOf(ref);
      return [
        {
          check: "fallback",
          severity: "look" as const,
          message: `“${name}” has no fallback`,
          detail: `In the ${where(mention)}: readers without a value see nothing there.`,
          at,
          in: mention.path,
        },
      ];
    });
  },
};
