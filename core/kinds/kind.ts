/** What a block type is made of, and what it is given to render itself. Types only. */
import type { z } from "zod";
import type { DocNode } from "../document/index.ts";
import type { Markup, TextKind } from "../text/index.ts";
import type { Theme } from "../theme/theme.ts";
import type { BlockProps } from "./common.ts";

/** A picture in the data directory: its file name is its SHA-256 and its ending. */
export interface Picture {
  readonly id: string;
  readonly file: string;
  readonly width: number;
  readonly height: number;
  readonly name: string;
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
}

/** What one block is rendered with. */
export interface BlockContext extends Surroundings {
  readonly node: string;
  readonly theme: Theme;
  readonly lang: string;
  /** Pixels between the paddings of the block on the wide sheet. */
  readonly width: number;
  /** The attribute that names a text for writing in place; empty in what is sent. */
  text(path: string): Markup;
}

export type Severity = "stop" | "look";
export interface Finding {
  /** The check it comes from. */
  readonly check: string;
  readonly severity: Severity;
  readonly message: string;
  readonly detail: string;
  /** Where to jump: a node, or `envelope`, or `settings`. */
  readonly at: string;
}

export interface TextField {
  readonly path: readonly string[];
  readonly kind: TextKind;
  readonly label: string;
}

/** One control of the settings panel. `path` leads into the block's props. */
export type Control =
  | { control: "line"; path: readonly string[]; label: string; hint?: string }
  | { control: "link"; path: readonly string[]; label: string }
  | { control: "picture"; path: readonly string[]; label: string }
  | { control: "colour"; path: readonly string[]; label: string; none?: string }
  | {
      control: "number";
      path: readonly string[];
      label: string;
      min: number;
      max: number;
      unit: string;
    }
  | {
      control: "choice";
      path: readonly string[];
      label: string;
      options: readonly { value: string | number; label: string }[];
    }
  | { control: "switch"; path: readonly string[]; label: string }
  | { control: "onSheet"; label: string };

export type BlockGroup = "words" | "pictures" | "actions" | "layout";

export interface BlockKind<P extends BlockProps = BlockProps> {
  readonly type: string;
  readonly label: string;
  readonly group: BlockGroup;
  /** A name of the icon set that ships with the application. */
  readonly icon: string;
  readonly schema: z.ZodType<P>;
  /** Properties of a new block, such that it looks finished at once. */
  create(): P;
  /** The texts in it, where tags can stand and words can be written. */
  readonly texts: readonly TextField[];
  readonly content: readonly Control[];
  readonly style: readonly Control[];
  /** What stands in the block's cell. */
  html(props: P, ctx: BlockContext): Markup;
  text(props: P, ctx: BlockContext): Markup;
  checks?(props: P, node: DocNode): Omit<Finding, "at">[];
}
