/** What a block type is made of, and what it is given to render itself. Types only. */
import type { z } from "zod";
import type { DerivedTags } from "../derived/index.ts";
import type { DocNode, SimpleEdit } from "../document/index.ts";
import type { LiveItem } from "../items/index.ts";
import type { Late } from "../late.ts";
import type { Markup, ShownPart } from "../markup/index.ts";
import type { Link, TextJson, TextKind } from "../text/index.ts";
import type { Theme } from "../theme/theme.ts";
import type { BlockProps, Dir } from "./common.ts";
import type { LinkParameter } from "./parameters.ts";
import type { Title } from "./title.ts";

/** A picture in the data directory: its file name is its SHA-256 and its ending. */
export interface Picture {
  readonly id: string;
  readonly file: string;
  readonly width: number;
  readonly height: number;
  readonly name: string;
  /** Its ground is transparent somewhere. */
  readonly alpha: boolean;
  /** Of its file, where that is known. */
  readonly bytes?: number;
  /** How light it is: the share of its points in each of ten steps of lightness (CIE L*), per cent; null if unknown. */
  readonly tones?: readonly number[] | null;
  /** What it shows, as somebody has said once for wherever it stands; "" where nobody has. */
  readonly alt?: string;
  readonly decorative?: boolean;
  /** The point that stays in sight where it is cut, per cent from the left and the top; null for its middle. */
  readonly focus?: { readonly x: number; readonly y: number } | null;
}

/** What the sender is, as every email needs it. */
export interface Brand {
  readonly name: string;
  /** Several lines. */
  readonly postalAddress: string;
}

/** What rendering needs to know beside the document. */
export interface Surroundings {
  readonly brand: Brand;
  /** Without a slash at its end; where pictures, links and pages are served to readers. */
  readonly publicAddress: string;
  readonly pictures: ReadonlyMap<string, Picture>;
  /** Derived tags there are; none where they are not given. */
  readonly derived?: DerivedTags;
  /** Code rolls there are, by id. */
  readonly rolls?: ReadonlyMap<string, CodeRoll>;
  /** Items that the email keeps to, as they are now, by `itemRef`; those that are gone are left out. */
  readonly items?: ReadonlyMap<string, LiveItem>;
  /** What the blocks that choose items show, by their nodes. */
  readonly live?: ReadonlyMap<string, LiveList>;
  /** The field of contacts that holds their time zone; null or left out where there is none. */
  readonly zoneField?: string | null;
  /** The field of contacts with the name that stands before their address; null or left out where there is none. */
  readonly nameField?: string | null;
  /** What is added to the query of web addresses. */
  readonly linkParameters?: readonly LinkParameter[];
  /** The subject of the email that went out last, where there is one; the checks alone ask for it. */
  readonly lastSubject?: string | null;
  /** What was answered where links lead, by their addresses; the checks alone ask for it. */
  readonly linkAnswers?: ReadonlyMap<string, LinkAnswer>;
  /** What mail from the sender's domain is taken for, where that has been asked. */
  readonly senderDomain?: DomainStanding | null;
  /** What stands for a field's missing value where a tag says nothing else, by ref. */
  readonly fallbacks?: ReadonlyMap<string, string>;
}

/** What the checks alone ask for. */
export type Asides = Pick<Surroundings, "lastSubject" | "linkAnswers" | "senderDomain">;

/** What mail from a domain is taken for. */
export interface DomainStanding {
  readonly domain: string;
  /** It is signed with a key that the domain publishes; null where nobody knows. */
  readonly signed: boolean | null;
  /** What becomes of mail that is not (DMARC); null where the domain says nothing. */
  readonly policy: "none" | "quarantine" | "reject" | null;
}

/** What was answered at the address of a link. */
export interface LinkAnswer {
  /** Why there is nothing, in a sentence; null where there is something. */
  readonly problem: string | null;
  /** There is nothing to be had, whoever asks and whenever. */
  readonly gone: boolean;
  /** Where it led in the end; null where it led on nowhere. */
  readonly ledTo: string | null;
  readonly redirects: number;
}

/** The items that a block shows. */
export interface LiveList {
  /** Those it shows; where each reader has some of their own, all that anybody can have. */
  readonly items: readonly LiveItem[];
  /** What each reader has is among their values, by `liveRef`; and what those have of whom nobody knows, by `itemRef`. */
  readonly perReader: { readonly standard: readonly string[] } | null;
}

/** The value of a reader that names the items a block shows them: several by `itemRef`. */
export const liveRef = (node: string): string => `live:${node}`;

/** A list of unique codes, of which each reader gets one. */
export interface CodeRoll {
  readonly id: string;
  readonly name: string;
  /** What stands in an email where there is no code left. */
  readonly emptyText: string;
  /** How many are left. */
  readonly left: number;
  /** Below this many it is time to think of more. */
  readonly warnAt: number;
  /** The last day (ISO date) its codes are good for; null for ever. */
  readonly expires: string | null;
}

/** What one block is rendered with. */
export interface BlockContext extends Surroundings {
  readonly node: string;
  readonly theme: Theme;
  readonly lang: string;
  readonly dir: Dir;
  /** Pixels between the paddings of the block on the wide sheet. */
  readonly width: number;
  /** It is as high as the columns beside it. */
  readonly fills: boolean;
  /** Height over width, per cent, to which pictures are cut that have no height of their own. */
  readonly shape?: number;
  /** The items or blocks the node holds. */
  readonly children: readonly DocNode[];
  /** The attribute that names a text for writing in place; empty in what is sent. */
  text(path: string): Markup;
  /** The attribute that names an item, and what that item is rendered with. */
  item(child: DocNode): { readonly mark: Markup; readonly ctx: BlockContext };
  /** The titles of the whole email. */
  titles(): readonly Title[];
  /** A held block as the table row it is, and as a part of the plain text; `width` is what it has on wide, px. */
  block(child: DocNode, width: number): { readonly html: Markup; readonly text: ShownPart };
  /** The items it shows; null where nobody has chosen yet. */
  itemsHere(): LiveList | null;
  /** What it holds with the values of an item in it; `first` carries the marks of the sheet. */
  design(
    item: LiveItem,
    width: number,
    how: { readonly first: boolean; readonly to: Link | null; readonly shape: number | null },
  ): { readonly html: Markup; readonly text: readonly ShownPart[] };
}

/** It stops the send, is to be looked at, or is a hint alone. */
export type Severity = "stop" | "look" | "hint";

/** A change that mends what was found: an ordinary edit. */
export interface Mend {
  /** “Make it Sunday”. */
  readonly label: string;
  readonly edits: readonly SimpleEdit[];
}

export interface Finding {
  /** The check it comes from. */
  readonly check: string;
  readonly severity: Severity;
  readonly message: string;
  readonly detail: string;
  /** Where to jump: a node, or `envelope`, or `settings`. */
  readonly at: string;
  /** The very value it is about, by its path in the node; left out where it is about the whole. */
  readonly in?: readonly string[];
  /** The word it is about, which may be one of the brand's own. */
  readonly word?: string;
  /** How many readers get what stands there, where those are some of them; null where the finding says it itself. */
  readonly people?: number | null;
  /** Ways to mend it at one click. */
  readonly mends?: readonly Mend[];
}

export interface TextField {
  readonly path: readonly string[];
  readonly kind: TextKind;
  readonly label: string;
}

type At = { readonly path: readonly string[]; readonly label: string };
/** One control of the settings panel. `path` leads into the node's props. */
export type Control =
  | (At & { control: "line"; hint?: string })
  | (At & { control: "link" })
  /** `same`: one picture for all readers. */
  | (At & { control: "picture"; same?: true })
  /** The point of a picture that stays in sight where it is cut; `of` leads to the picture. */
  | (At & { control: "focus"; of: readonly string[] })
  | (At & { control: "colour"; none?: string })
  /** `empty`: what it is without a value, where it can be emptied. */
  | (At & { control: "number"; min: number; max: number; unit: string; empty?: string })
  | (At & { control: "day"; hint?: string })
  /** A day with its time, in the time zone that stands beside it. */
  | (At & { control: "moment"; zone: readonly string[]; hint?: string })
  | (At & {
      control: "choice";
      options: readonly { value: string | number | null; label: string }[];
    })
  | (At & { control: "switch" })
  /** Font, size, line height, letter spacing and capitals of running words. */
  | (At & { control: "type" })
  /** The item of a source that a block keeps to. */
  | (At & { control: "item" })
  /** The items of sources that a block shows, of a kind. */
  | (At & { control: "items"; kind: string; one?: true })
  | (At & { control: "border" })
  /** HTML of one's own, with what is taken out of it. */
  | (At & { control: "code" })
  | { control: "onSheet"; label: string };

/** What blocks and the items in them have in common. */
export interface NodeKind<P = unknown> {
  readonly type: string;
  readonly label: string;
  readonly schema: z.ZodType<P>;
  /** Properties of a new one, such that it looks finished at once. */
  create(): P;
  /** The texts in it, where tags can stand and words can be written. */
  readonly texts: readonly TextField[];
  /** Those of them that a new one has only as an example, to be written over before anybody gets it. */
  readonly examples?: readonly (readonly string[])[];
  readonly content: readonly Control[];
  readonly style: readonly Control[];
  /** The kinds of items it holds; their types begin with its own and a dot. */
  readonly holds?: readonly AnyItemKind[];
  /** The part that switches a property on and off, where it is not the one of the property's own name. */
  readonly partOf?: Readonly<Record<string, string>>;
  /** Whether its items are shown, where a part can switch them off. */
  showsItems?(props: P): boolean;
  /** The items of a new one. */
  start?(newId: () => string): DocNode[];
  /** What tells one from another in a list: its words, or an empty text. */
  name?(props: P): string;
  checks?(props: P, node: DocNode): Omit<Finding, "at">[];
  /** What it cannot be rendered without, where a browser brings that only when there is one: until then it is empty. */
  readonly late?: Late<unknown>;
  /** The addresses of the email itself that it leads to by parts of its own, beside those that stand in its properties. */
  leads?(props: P): readonly Link["kind"][];
}

/** Something that repeats inside a block: a picture of a grid, a link of a row. */
export interface ItemKind<P> extends NodeKind<P> {
  /** What several of them are called. */
  readonly plural: string;
  readonly least: number;
  readonly most: number;
}

// biome-ignore lint/suspicious/noExplicitAny: each kind has props of its own; its schema keeps them apart
export type AnyItemKind = ItemKind<any>;
// biome-ignore lint/suspicious/noExplicitAny: as above
export type AnyNodeKind = NodeKind<any>;

/** A way to lay out items: what the block is set to, and the blocks of the design. */
export interface Design<P> {
  readonly id: string;
  readonly label: string;
  readonly props: Partial<P>;
  blocks(newId: () => string): DocNode[];
}

export type BlockGroup = "words" | "pictures" | "actions" | "layout" | "live" | "own";

export interface BlockKind<P extends BlockProps = BlockProps> extends NodeKind<P> {
  readonly group: BlockGroup;
  /** A name of the icon set that ships with the application. */
  readonly icon: string;
  /** Its title in the outline of the email, where it has one. */
  title?(props: P): { readonly level: number; readonly words: TextJson } | null;
  /** The day or moment (ISO) after which it is over, where there is one. */
  ends?(props: P): string | null;
  /** It shows the titles of the email, and is made again when they change. */
  readonly listsTitles?: true;
  /** Where all that it holds leads, as far as it is no link itself. */
  leadsAll?(props: P): Link;
  /** The width of the blocks it holds, px; a kind without it holds no blocks. */
  inner?(props: P, width: number): number;
  /** The kind of items it shows after the design it holds. */
  readonly items?: string;
  /** Ways to begin that design with. */
  readonly designs?: readonly Design<P>[];
  /** What stands in the block's cell. */
  html(props: P, ctx: BlockContext): Markup;
  text(props: P, ctx: BlockContext): Markup;
}
