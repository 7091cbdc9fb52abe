/** Who sees a part, in standard Liquid: it has neither brackets nor a "not" of its own, so that some is worked out above. */
import { describe, type Rule, type Said, saidIn, type World } from "../../rules/index.ts";
import type { When } from "../../text/index.ts";

type Atom = { readonly say: string };
const isAtom = (said: Said): said is Atom => "say" in said;
const TRUE: Said = { all: [] };
const FALSE: Said = { any: [] };

/** The opposite of a comparison, where Liquid has one; null where it has none. */
function opposite({ say }: Atom): Atom | null {
  const [, left, sign, right] = /^(\S+) (==|!=) (.+)$/.exec(say) ?? [];
  return sign ? { say: `${left} ${sign === "==" ? "!=" : "=="} ${right}` } : null;
}

/** The same in fewer steps: groups within groups of their kind opened, groups of one taken for what is in them. */
export function simpler(said: Said): Said {
  if (isAtom(said)) return said;
  if ("none" in said) {
    const inner = simpler({ any: said.none });
    if (isAtom(inner)) return opposite(inner) ?? { none: [inner] };
    if ("none" in inner) return simpler({ any: inner.none });
    if ("any" in inner) {
      if (inner.any.length === 0) return TRUE;
      const turned = inner.any.map((one) => (isAtom(one) ? opposite(one) : null));
      return turned.includes(null) ? { none: inner.any } : { all: turned as Atom[] };
    }
    return inner.all.length === 0 ? FALSE : { none: [inner] };
  }
  if ("all" in said) {
    const all = said.all.map(simpler).flatMap((one) => ("all" in one ? one.all : [one]));
    if (all.some((one) => "any" in one && one.any.length === 0)) return FALSE;
    return all.length === 1 ? all[0]! : { all };
  }
  const any = said.any.map(simpler).flatMap((one) => ("any" in one ? one.any : [one]));
  if (any.some((one) => "all" in one && one.all.length === 0)) return TRUE;
  return any.length === 1 ? any[0]! : { any };
}

/** What stands before a template: values it needs that cannot be worked out where they are used. */
export class Preamble {
  private readonly lines: string[] = [];
  private readonly known = new Map<string, string>();

  /** The name under which it stands there, written once. */
  name(kind: string, key: string, write: (name: string) => readonly string[]): string {
    const known = this.known.get(key);
    if (known) return known;
    const name = `${kind}_${this.known.size + 1}`;
    this.known.set(key, name);
    this.lines.push(...write(name));
    return name;
  }

  /** A condition as `if` takes it: comparisons joined by the same word, or a name. */
  condition(said: Said): string {
    if (isAtom(said)) return said.say;
    const [word, parts] =
      "all" in said
        ? (["and", said.all] as const)
        : "any" in said
          ? (["or", said.any] as const)
          : ([null, said.none] as const);
    if (word && parts.length === 0) return word === "and" ? "true" : "false";
    if (word && parts.every(isAtom)) return parts.map(({ say }) => say).join(` ${word} `);
    const conditions = parts.map((one) => this.condition(one));
    return this.name("rule", JSON.stringify(said), (name) => {
      const set = (to: boolean) => `assign ${name} = ${to}`;
      if (word === "and") {
        return [
          set(false),
          ...conditions.map((one) => `if ${one}`),
          set(true),
          ...conditions.map(() => "endif"),
        ];
      }
      const found = word === "or";
      return [set(!found), ...conditions.flatMap((one) => [`if ${one}`, set(found), "endif"])];
    });
  }

  /** A text that no literal can hold, written between tags. */
  captured(written: string): string {
    return this.name("text", `text ${written}`, (name) => [
      `capture ${name} %}${written}{% endcapture`,
    ]);
  }

  /** What stands before a body; nothing of it is seen, and nothing after it is trimmed. */
  before(body: string): string {
    return this.lines.length === 0
      ? body
      : `${this.lines
          .map((line) => `{%- ${line} -%}`)
          .join("\n")
          .slice(0, -3)}%}${body}`;
  }
}

/** A rule that Liquid cannot say: whether it holds is a variable. */
export interface NamedRule {
  readonly name: string;
  readonly key: string;
  /** The rule in words; empty where it cannot be read. */
  readonly words: string;
}

const slug = (words: string): string =>
  words
    .normalize("NFKD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^[^a-z]+|_+$/g, "")
    .slice(0, 48)
    .replace(/_+$/, "");

/** The rules of an email as Liquid says them, and names for those that it cannot say. */
export class Rules {
  readonly named = new Map<string, NamedRule>();
  /** The paths of all that is compared. */
  readonly facts = new Set<string>();
  private readonly said = new Map<string, Said>();

  /** Without a world no rule can be read: each has a name. */
  constructor(private readonly world: World | null) {}

  private of(key: string): Said {
    let said = this.said.get(key);
    if (!said) {
      said = this.read(key) ?? { say: this.name(key) };
      this.said.set(key, said);
    }
    return said;
  }

  private read(key: string): Said | null {
    const said = this.world && saidIn(JSON.parse(key) as Rule, this.world);
    if (!said) return null;
    for (const [, path] of JSON.stringify(said).matchAll(/facts\[\\"([^"\\]+)\\"\]/g))
      this.facts.add(path!);
    return simpler(said);
  }

  private name(key: string): string {
    const words = this.world ? describe(JSON.parse(key) as Rule, this.world) : "";
    const plain = slug(words) || "rule_holds";
    const taken = new Set([...this.named.values()].map(({ name }) => name));
    let name = plain;
    for (let n = 2; taken.has(name); n++) name = `${plain}_${n}`;
    this.named.set(key, { name, key, words });
    return name;
  }

  /** How a part begins and ends that those see for whom all of `all` hold and none of `none`. */
  around({ all, none }: When, preamble: Preamble): { open: string; close: string } {
    const holds = all.map((key) => this.of(key));
    const not = none.map((key) => this.of(key));
    const said = simpler({ all: not.length ? [...holds, { none: not }] : holds });
    if ("none" in said) {
      return {
        open: `{% unless ${preamble.condition({ any: said.none })} %}`,
        close: "{% endunless %}",
      };
    }
    return { open: `{% if ${preamble.condition(said)} %}`, close: "{% endif %}" };
  }
}
