import { labelOf } from "../blocks/index.ts";
import type { EmailDocument } from "../document/index.ts";
import { canonical } from "../json.ts";
import type { Finding } from "../kinds/kind.ts";
import { type Mention, mentionsIn } from "../mentions/index.ts";
import { tagWords, webAddress } from "../merge/index.ts";
import type { Tag } from "../text/index.ts";
import { type Check, type CheckInput, placeOf, readersIn } from "./check.ts";

/** The tag of a contact whose value is a whole address; null for any other mention. */
const wholeTag = (mention: Mention): Tag | null =>
  mention.what === "tag" &&
  mention.lands.encoding === "address" &&
  mention.tag.ref.startsWith("contact:")
    ? mention.tag
    : null;

/** The tags of contacts that whole addresses come from: what is to be known of the readers' values. */
export const addressRefs = (doc: EmailDocument): string[] => [
  ...new Set(mentionsIn(doc).flatMap((mention) => wholeTag(mention)?.ref ?? [])),
];

/** How many readers have no address there, their fallback counted in; null where nobody has counted. */
function without(tag: Tag, { readers, compiled }: CheckInput): number | null {
  const values = readers?.values?.get(tag.ref);
  if (!values) return null;
  return values
    .filter(({ value }) => {
      const own = value === null ? {} : { [tag.ref]: value };
      return webAddress(tagWords(tag, { values: own, token: "" }, compiled)) === null;
    })
    .reduce((sum, { people }) => sum + people, 0);
}

/** Links that a tag leads: readers whose value is no address of the web are led nowhere. */
export const addresses: Check = {
  id: "address",
  run(input) {
    const told = new Set<string>();
    return input.mentions.flatMap((mention): Finding[] => {
      const tag = wholeTag(mention);
      const id = tag?.ref.slice(tag.ref.indexOf(":") + 1) ?? "";
      // What is gone is told by the check of fallbacks.
      if (!tag || (id !== "email" && !input.fields.has(id))) return [];
      const at = placeOf(mention.node);
      const key = `${at} ${canonical(tag as never)}`;
      if (told.has(key)) return [];
      told.add(key);
      const people = without(tag, input);
      const covered = tag.fallback !== null || input.surroundings.fallbacks?.has(tag.ref);
      if (people === 0 || (people === null && covered)) return [];
      const name = input.fields.get(id)?.label ?? id;
      const whom = people === null ? "readers without an address there" : readersIn(people);
      return [
        {
          check: "address",
          severity: "look",
          message:
            people === null ? `“${name}” is where a link leads` : `A link leads ${whom} nowhere`,
          detail: `In the ${labelOf(mention.node).toLowerCase()}: “${name}” is no address of the web for ${people === null ? whom : "them"}.`,
          at,
          in: mention.path,
          people: null,
        },
      ];
    });
  },
};
