/**
 * A compiled email as standard Liquid templates, so that any Liquid engine can merge it. Plain tags
 * are `{{ contact["id"] | default: "…" | escape }}`; a tag with a format, or one inside an address,
 * is a variable computed beforehand, because engines format dates and numbers in their own ways. Rules compare
 * `facts["path"]`; one that Liquid cannot say is a variable too.
 */
import {
  CELL,
  type ChosenSlot,
  escapeHtml,
  RULE,
  type Segment,
  type Slot,
  sentOf,
  TO_END,
  trusted,
} from "../../markup/index.ts";
import {
  addressParts,
  land,
  madePicture,
  type PrepareOptions,
  pixelParts,
  placeMark,
  placesIn,
  type Reader,
  tagWords,
  unsigned,
} from "../../merge/index.ts";
import { type CompiledEmail, linkKey } from "../../render/index.ts";
import { liquidText, type World } from "../../rules/index.ts";
import { inAddress, isShownTo, type Landing, type Tag } from "../../text/index.ts";
import { Preamble, Rules } from "./conditions.ts";
import { contractOf, type Variable } from "./contract.ts";

export interface LiquidTemplate {
  readonly html: string;
  readonly text: string;
  readonly subject: string;
  /** What has to be known beside what tags say: the paths of all that rules compare. */
  readonly facts: readonly string[];
  /** Every variable there is, as a contract tells it. */
  readonly contract: readonly Variable[];
  /** The variables a reader's merge needs; `facts` as rules compare them, by path. */
  variables(reader: Reader, facts?: Facts): Record<string, unknown>;
}
export type Facts = { readonly [path: string]: unknown };

/** Braces inside constants that Liquid would read, with what stands before and after them too, are written by Liquid itself. */
const constant = (text: string) => text.replace(/\{(?=[{%]|$)/g, '{{ "{" }}');

/** An output of nothing, which keeps the blanks beside it. */
const NOTHING = '{{ "" }}';
/** Whether a condition holds blanks alone: the reference engine leaves those out. */
const isBlankBlock = (pieces: readonly string[]): boolean =>
  /^\s+$/.test(pieces.join("").replace(/\{%.*?%\}/gs, ""));

/** How a variable that is computed beforehand is made safe: for its landing, or not yet where the template escapes it. */
export type Place = Landing | null;

/** Stands between the items of a loop, and around the numbers of their places: no text has either. */
const BETWEEN = "\u001e";
const HOLE = "\u001f";

class Exporter {
  readonly lists = new Map<
    string,
    { ref: string; standard: readonly string[]; keys: readonly string[] }
  >();
  readonly computed = new Map<string, { tag: Tag; place: Place }>();
  /** Pictures that are made for each reader: their addresses are computed beforehand. */
  readonly made = new Map<string, (reader: Reader) => string>();
  readonly plain = new Set<string>();
  readonly rules: Rules;
  private preamble = new Preamble();
  /** The conditions that are open: how each ends, and where what it holds begins. */
  private readonly open: { readonly close: string; readonly at: number }[] = [];
  constructor(
    private readonly email: CompiledEmail,
    private readonly options: LiquidOptions,
  ) {
    this.rules = new Rules(options.world ?? null);
  }

  /** A template of its own, with what it needs above it. */
  template(segments: readonly Segment[], after: (body: string) => string = (body) => body): string {
    this.preamble = new Preamble();
    return this.preamble.before(after(this.body(segments)));
  }

  /** A variable computed beforehand for this tag. */
  private variable(tag: Tag, place: Place): string {
    for (const [name, known] of this.computed) {
      if (known.place === place && JSON.stringify(known.tag) === JSON.stringify(tag)) return name;
    }
    const name = `computed_${this.computed.size + 1}`;
    this.computed.set(name, { tag, place });
    return name;
  }

  private output(tag: Tag, as: Landing): string {
    // What an item has said is written out.
    if (tag.said !== undefined) {
      const words = tagWords(tag, { values: {}, token: "" }, this.email);
      return constant(land(words, as));
    }
    const { encoding, context } = as;
    // Engines differ in how they encode, and know no style properties: that is done when it is computed.
    const landed = encoding !== "none" || context === "css" || context === "header";
    const escaped = context === "html" || context === "attribute";
    const filter = escaped && !landed ? " | escape" : "";
    // Derived tags, and fallbacks that belong to a field, are computed beforehand too.
    const own = tag.ref.startsWith("derived:") || this.email.fallbacks.has(tag.ref);
    if (tag.format || tag.clock || landed || own) {
      return `{{ ${this.variable(tag, landed ? as : null)}${filter} }}`;
    }
    this.plain.add(tag.ref);
    const words = tag.fallback ?? "";
    const fallback = liquidText(words) ?? this.preamble.captured(constant(words));
    return `{{ ${variableOf(tag.ref)} | default: ${fallback}${filter} }}`;
  }

  /** A link's address, constants made safe for where it lands. */
  private address({ to, as }: LinkSlot, number: number): string {
    return addressParts(to, number, this.email, this.options.links)
      .map((part) => {
        if (typeof part === "string") return constant(as === "html" ? escapeHtml(part) : part);
        if (part.slot === "token") return "{{ token }}";
        return this.output(part.tag, inAddress(as, part.whole));
      })
      .join("");
  }

  /**
   * Items that each reader has some of: a loop over the variable `chosen_N` writes those they have, and what they
   * stand in is written for each number of them.
   */
  private chosen({ ref, standard, cells, most, frame }: ChosenSlot): string {
    const n = this.lists.size + 1;
    // Named by their numbers: their keys may be anything.
    this.lists.set(`chosen_${n}`, { ref, standard, keys: [...cells.keys()] });
    const written = [...cells.values()].map(({ first, later }, i) => {
      const own = this.body(later.segments);
      const cell =
        first === later
          ? own
          : `{% if forloop.first %}${this.body(first.segments)}{% else %}${own}{% endif %}`;
      return `{% when ${i} %}${cell}`;
    });
    const loop = `{% capture cells_${n} %}{% for item in chosen_${n} %}{% case item %}${written.join("")}{% endcase %}${BETWEEN}{% endfor %}{% endcapture %}{% assign cells_${n} = cells_${n} | split: "${BETWEEN}" %}`;
    const places = Array.from({ length: most + 1 }, (_, size) => {
      const holes = Array.from({ length: size }, (_, i) => trusted(`${HOLE}${i}${HOLE}`));
      const inner = this.body(frame(holes).segments).replace(
        new RegExp(`${HOLE}(\\d+)${HOLE}`, "g"),
        (_, i) => `{{ cells_${n}[${i}] }}`,
      );
      return `{% when ${size} %}${inner}`;
    });
    return `${loop}{% case chosen_${n}.size %}${places.join("")}{% endcase %}`;
  }

  body(segments: readonly Segment[]): string {
    const { email } = this;
    const numbers = new Map(email.links.map((link, i) => [linkKey(link), i + 1]));
    const places = placesIn(segments);
    const written: string[] = [];
    for (const segment of sentOf(segments)) {
      if (typeof segment !== "string" && segment.slot === "end") {
        const open = this.open.pop();
        if (!open) continue;
        if (isBlankBlock(written.slice(open.at))) written.push(NOTHING);
        written.push(open.close);
      } else if (typeof segment !== "string" && segment.slot === "if") {
        const { open, close } = this.rules.around(segment.when, this.preamble);
        written.push(open);
        this.open.push({ close, at: written.length });
      } else written.push(this.segment(segment, numbers, places));
    }
    return written.join("");
  }

  private segment(
    segment: Segment,
    numbers: ReadonlyMap<string, number>,
    places: ReadonlySet<string>,
  ): string {
    const { email } = this;
    if (typeof segment === "string") return constant(segment);
    switch (segment.slot) {
      case "tag":
        return this.output(segment.tag, segment.as);
      case "link":
        return this.address(segment, numbers.get(linkKey(segment)) ?? 0);
      case "pixel": {
        const [before, after] = pixelParts(email);
        return this.options.links === "tracked" && email.counts.opens
          ? `<img src="${escapeHtml(before)}{{ token }}${after}`
          : "";
      }
      case "made": {
        const { html, fixed } = madePicture(segment.recipe, email, this.options.sign);
        if (fixed) return constant(html({ values: {}, token: "" }));
        const name = `picture_${this.made.size + 1}`;
        this.made.set(name, html);
        return `{{ ${name} }}`;
      }
      case "chosen":
        return this.chosen(segment);
      case "beside":
        return constant(segment.html);
      case "mark":
        return placeMark(segment, places);
      default:
        return "";
    }
  }
}

type LinkSlot = Extract<Slot, { slot: "link" }>;

/** A variable by the reference of a tag: `contact:first_name` is `contact["first_name"]`. */
const variableOf = (ref: string): string => {
  const [scope, id] = ref.split(":") as [string, string];
  return `${scope}["${id}"]`;
};

export interface LiquidOptions extends Pick<PrepareOptions, "links" | "sign"> {
  /** What rules are read in; without it each of them is a variable. */
  readonly world?: World;
}

/** The Liquid templates of an email. */
export function toLiquid(
  email: CompiledEmail,
  options: LiquidOptions = { links: "direct", sign: unsigned },
): LiquidTemplate {
  const exporter = new Exporter(email, options);
  const html = exporter.template(email.html);
  // How long a reader's values are is not known here: rules have a length of their own, cells stand apart.
  const text = exporter.template(email.text, (body) =>
    body
      .replaceAll(RULE.double, "=".repeat(20))
      .replaceAll(RULE.single, "-".repeat(20))
      .replaceAll(CELL, "  ")
      .replaceAll(TO_END, ""),
  );
  const subject = exporter.template(email.subject);
  return {
    ...{ html, text, subject },
    facts: [...exporter.rules.facts].sort(),
    contract: contractOf(exporter, options.world ?? null),
    variables(reader, facts = {}) {
      const scopes: Record<string, Record<string, unknown>> = {};
      for (const [ref, value] of Object.entries(reader.values)) {
        const [scope, id] = ref.split(":") as [string, string];
        scopes[scope] ??= {};
        scopes[scope][id] = value;
      }
      const bits = reader.bits ?? "";
      return {
        ...scopes,
        facts,
        token: reader.token,
        ...Object.fromEntries([
          ...[...exporter.rules.named.values()].map(({ name, key }) => [
            name,
            isShownTo({ all: [key], none: [] }, email.conditions, bits),
          ]),
          ...[...exporter.lists].map(([name, { ref, standard, keys }]) => [
            name,
            ((reader.values[ref] ?? standard) as readonly string[])
              .map((one) => keys.indexOf(one))
              .filter((at) => at >= 0),
          ]),
          ...[...exporter.computed].map(([name, { tag, place }]) => {
            const words = tagWords(tag, reader, email);
            return [name, place ? land(words, place) : words];
          }),
          ...[...exporter.made].map(([name, write]) => [name, write(reader)]),
        ]),
      };
    },
  };
}
