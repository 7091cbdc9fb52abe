/** What a Liquid template asks of whoever merges it: each variable with its type and where it comes from. */
import type { FieldType } from "../../fields/index.ts";
import { pathOf, type World } from "../../rules/index.ts";
import type { Tag } from "../../text/index.ts";
import type { NamedRule } from "./conditions.ts";
import type { Place } from "./template.ts";

export interface Variable {
  /** As the template writes it. */
  readonly name: string;
  readonly type: string;
  /** What it is, in words. */
  readonly about: string;
  /** What stands where somebody has no value. */
  readonly otherwise?: string;
  /** How it is written: a tag's format, and what it is made safe for. */
  readonly format?: Tag["format"];
  readonly safeFor?: string;
}

interface Used {
  readonly plain: ReadonlySet<string>;
  readonly computed: ReadonlyMap<string, { tag: Tag; place: Place }>;
  readonly made: ReadonlyMap<string, unknown>;
  readonly lists: ReadonlyMap<string, { readonly keys: readonly string[] }>;
  readonly rules: {
    readonly facts: ReadonlySet<string>;
    readonly named: ReadonlyMap<string, NamedRule>;
  };
}

/** How what is compared is written, by the type of its field. */
const FACT_TYPES: Partial<Record<FieldType, string>> = {
  number: "number",
  date: "text: an ISO date (ISO 8601), 2026-03-02",
  yesNo: "true or false",
  choices: "list of texts in lower case, without accents",
};
const FOLDED = "text in lower case, without accents";

/** The variables of a template, those that are used alone. */
export function contractOf(used: Used, world: World | null): Variable[] {
  const pathLabel = (path: string) => (world && pathOf(path, world)?.label) || path;
  const labelOf = (ref: string) =>
    ref.startsWith("contact:") ? pathLabel(ref.slice("contact:".length)) : ref;
  const typeOf = (path: string) => (world && pathOf(path, world)?.field.type) || "text";
  return [
    ...[...used.plain].sort().map((ref) => {
      const [scope, id] = ref.split(":");
      return {
        name: `${scope}["${id}"]`,
        type: "text; left out where there is none",
        about: labelOf(ref),
      };
    }),
    ...[...used.rules.facts].sort().map((path) => ({
      name: `facts["${path}"]`,
      type: `${FACT_TYPES[typeOf(path)] ?? FOLDED}; left out where there is none`,
      about: `${pathLabel(path)}, as rules compare it`,
    })),
    ...[...used.rules.named.values()].map(({ name, words }) => ({
      name,
      type: "true or false",
      about: words || "Whether a part is shown",
    })),
    ...[...used.computed].map(([name, { tag, place }]) => ({
      name,
      type: "text",
      about: labelOf(tag.ref),
      ...(tag.fallback && { otherwise: tag.fallback }),
      ...(tag.format && { format: tag.format }),
      ...(place && {
        safeFor: place.encoding === "none" ? place.context : `${place.encoding}, ${place.context}`,
      }),
    })),
    ...[...used.made.keys()].map((name) => ({
      name,
      type: "text: a web address, escaped for HTML",
      about: "A picture made for each reader",
    })),
    ...[...used.lists].map(([name, { keys }]) => ({
      name,
      type: "list of numbers",
      about: `Which items a reader has, in order: ${keys.map((key, i) => `${i} is ${key}`).join(", ")}`,
    })),
    {
      name: "token",
      type: "text",
      about:
        "Signs the links that are a reader's own (unsubscribe, preferences); empty where another system sends",
    },
  ];
}
