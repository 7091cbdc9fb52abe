/**
 * Markup: constant pieces of HTML (or plain text) with slots between them, the form in which an
 * email is compiled. The `html` template escapes every string put into it, so that the only way to
 * write a raw angle bracket is to type it in the template itself.
 */
import type { AddressContext, Landing, Line, Link, Tag, When } from "../text/index.ts";

/**
 * What the server makes a picture from: a code (`qr`, `barcode`), the time that is left (`countdown`), a play mark on
 * a picture (`still`), a picture cut to a shape (`crop`), or a drawn sign (`icon`); the words in it, and settings of
 * the kind.
 */
export interface Recipe {
  readonly kind: "qr" | "barcode" | "countdown" | "still" | "crop" | "cut" | "icon";
  readonly words: Line | null;
  readonly settings: { readonly [name: string]: string | number };
}

export type Slot =
  /** `plain`: it is not marked on the sheet. */
  | { readonly slot: "tag"; readonly tag: Tag; readonly as: Landing; readonly plain?: true }
  /** An address to follow; numbered and made trackable when the email is prepared. */
  | {
      readonly slot: "link";
      readonly node: string;
      readonly to: Link;
      readonly words: string;
      readonly as: AddressContext;
    }
  /**
   * An address in plain text, with what leads to it: in brackets behind its words, after a colon, or on a
   * line of its own. Compiling makes it a `link`, there or in the list of addresses at the end.
   */
  | {
      readonly slot: "address";
      readonly node: string;
      readonly to: Link;
      readonly words: string;
      readonly lead: " (" | ": " | "\n" | "";
    }
  /** The address of a picture that the server makes: its recipe, in which tags may stand. */
  | { readonly slot: "made"; readonly recipe: Recipe }
  /** Names the node (and the text in it) for the sheet; dropped when sending. */
  | { readonly slot: "mark"; readonly node: string; readonly text: string | null }
  /** What stands up to its `unsheet` is on the sheet alone: what is still to be filled in. */
  | { readonly slot: "sheet" }
  | { readonly slot: "unsheet" }
  /** Stands beside the element of a node everywhere but on sheets, where that element alone comes, goes and moves. */
  | { readonly slot: "beside"; readonly html: string }
  /** The address of the open pixel. */
  | { readonly slot: "pixel" }
  /**
   * Items that each reader has some of: what is written for each that anybody can have, by `itemRef`, what they stand
   * in, and those that readers have of whom nobody knows better. Which are a reader's own is among their values.
   */
  | ChosenSlot
  /** What stands up to its `end` is there for some readers only. They nest. */
  | { readonly slot: "if"; readonly when: When; readonly of: "part" | "words" }
  | { readonly slot: "end"; readonly of: "part" | "words" };
export type Segment = string | Slot;
export interface ChosenSlot {
  readonly slot: "chosen";
  readonly ref: string;
  readonly cells: ReadonlyMap<string, ChosenCell>;
  readonly standard: readonly string[];
  /** The values of readers that choosing asks for, by their refs. */
  readonly asks: readonly string[];
  /** How many a reader has at most. */
  readonly most: number;
  frame(cells: readonly Markup[]): Markup;
}
/** An item where it stands first, and where it stands after others: the first may be set apart. */
export interface ChosenCell {
  readonly first: Markup;
  readonly later: Markup;
}

const ENTITIES: Record<string, string> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&#34;",
  "'": "&#39;",
};
const SPECIAL = /[&<>"']/;

/** Escapes for HTML text and for quoted attribute values alike (WHATWG HTML, 13.3). */
export function escapeHtml(text: string): string {
  return SPECIAL.test(text) ? text.replace(/[&<>"']/g, (c) => ENTITIES[c]!) : text;
}

export class Markup {
  constructor(readonly segments: readonly Segment[]) {}
  static readonly empty = new Markup([]);
}

export type Hole = string | number | Markup | null | undefined | false | readonly Hole[];

/** Gathers segments: strings that follow one another are one. */
class Gathering {
  private readonly out: Segment[] = [];
  private text = "";

  add(text: string): void {
    this.text += text;
  }
  put(segment: Segment): void {
    if (typeof segment === "string") this.text += segment;
    else {
      this.rest();
      this.out.push(segment);
    }
  }
  fill(hole: Hole, safe: (text: string) => string): void {
    if (hole === null || hole === undefined || hole === false) return;
    if (hole instanceof Markup) for (const segment of hole.segments) this.put(segment);
    else if (Array.isArray(hole)) for (const inner of hole) this.fill(inner, safe);
    else this.text += safe(String(hole));
  }
  done(): Markup {
    this.rest();
    return this.out.length > 0 ? new Markup(this.out) : Markup.empty;
  }
  private rest(): void {
    if (this.text === "") return;
    this.out.push(this.text);
    this.text = "";
  }
}

const template =
  (safe: (text: string) => string) =>
  (strings: TemplateStringsArray, ...holes: Hole[]): Markup => {
    const all = new Gathering();
    all.add(strings[0]!);
    for (let i = 0; i < holes.length; i++) {
      all.fill(holes[i], safe);
      all.add(strings[i + 1]!);
    }
    return all.done();
  };

/** HTML with every string in a hole escaped; markup, numbers and lists of them are put in as they are. */
export const html = template(escapeHtml);
/** Plain text, nothing escaped. */
export const plain = template((text) => text);
/** A single slot as markup. */
export const slot = (value: Slot): Markup => new Markup([value]);
const same = (text: string): string => text;
/** Pieces one after another. */
export const join = (parts: readonly (Markup | null)[], between = ""): Markup => {
  const all = new Gathering();
  parts.forEach((part, i) => {
    if (i > 0) all.add(between);
    all.fill(part, same);
  });
  return all.done();
};
/** HTML that core itself has made and that needs no escaping. */
export const trusted = (markup: string): Markup => new Markup(markup ? [markup] : []);

/** Attributes with a leading blank each; those with no value are left out. */
export function attrs(values: Record<string, string | number | Markup | null | undefined>): Markup {
  const all = new Gathering();
  for (const name in values) {
    const value = values[name];
    if (value === null || value === undefined) continue;
    all.add(` ${name}="`);
    all.fill(value, escapeHtml);
    all.add('"');
  }
  return all.done();
}

/**
 * A style value: longhand properties in the order given, without those that are null. Quotes around
 * font names stay as they are, since style attributes are written in double quotes.
 */
export const css = (properties: Properties): Markup => trusted(cssText(properties));

export type Properties = Readonly<Record<string, string | number | null | undefined>>;
const UNSAFE_IN_STYLE = /[&<>"]/;

/** The same as a string. */
export function cssText(properties: Properties): string {
  let out = "";
  for (const name in properties) {
    const value = properties[name];
    if (value === null || value === undefined || value === "") continue;
    out += out ? `;${name}:${value}` : `${name}:${value}`;
  }
  return UNSAFE_IN_STYLE.test(out) ? out.replace(/[&<>"]/g, (c) => ENTITIES[c]!) : out;
}

/** Markup that only those who compose the email see. */
export const onSheetOnly = (inner: Markup): Markup =>
  html`${slot({ slot: "sheet" })}${inner}${slot({ slot: "unsheet" })}`;

/** Segments without the marks of the sheet. */
export const unmarked = ({ segments }: Markup): Markup =>
  new Markup(
    segments.flatMap((one): Segment[] => {
      if (typeof one === "string") return [one];
      if (one.slot === "mark") return [];
      return [one.slot === "tag" ? { ...one, plain: true } : one];
    }),
  );

/** A slot of chosen items with each of its cells made into another. */
export const eachCell = (slot: ChosenSlot, make: (cell: Markup) => Markup): ChosenSlot => ({
  ...slot,
  cells: new Map(
    [...slot.cells].map(([ref, { first, later }]) => {
      const made = make(later);
      return [ref, { first: first === later ? made : make(first), later: made }];
    }),
  ),
});

/** Every cell of a slot of chosen items, and what they stand in with as many as there can be and with none. */
export function everyShape({ cells, most, frame }: ChosenSlot): Markup[] {
  const all = [...cells.values()].flatMap(({ first, later }) => [first, later]);
  return [...all, frame(all.slice(0, most).map(() => Markup.empty)), frame([])];
}

/** Segments without what only stands on the sheet. */
export function sentOf(segments: readonly Segment[]): readonly Segment[] {
  let inside = 0;
  return segments.filter((segment) => {
    if (typeof segment === "string") return inside === 0;
    if (segment.slot === "sheet") inside++;
    if (segment.slot === "unsheet") inside--;
    return inside === 0;
  });
}
