/** Properties that blocks share, as Zod schemas and defaults. */
import { z } from "zod";
import { LIMITS } from "../limits.ts";
import { ruleSchema } from "../rules/index.ts";
import type { Seen } from "../text/index.ts";
import { colourSchema } from "../theme/theme.ts";
import { type HandText, handTextSchema } from "./hand-text.ts";
import { holdSchema } from "./hold.ts";
import { linkedSchema } from "./linked.ts";

/** Pixels on four sides. In right-to-left emails `left` and `right` change places when rendered. */
export const sides = (max: number) =>
  z.strictObject({
    top: z.number().int().min(0).max(max),
    right: z.number().int().min(0).max(max),
    bottom: z.number().int().min(0).max(max),
    left: z.number().int().min(0).max(max),
  });
export const paddingSchema = sides(LIMITS.padding);
export type Padding = z.infer<typeof paddingSchema>;

export const alignSchema = z.enum(["start", "center", "end"]);
export type Align = z.infer<typeof alignSchema>;

export const dirSchema = z.enum(["ltr", "rtl"]);
export type Dir = z.infer<typeof dirSchema>;

/** The side an alignment means where words run this way. */
export function sideOf(align: Align, dir: Dir): "left" | "center" | "right" {
  if (align === "center") return "center";
  return (align === "start") === (dir === "ltr") ? "left" : "right";
}

/** Paddings in CSS order; in right-to-left text the sides change places. */
export function sidesCss({ top, right, bottom, left }: Padding, dir: Dir): string {
  const [end, start] = dir === "ltr" ? [right, left] : [left, right];
  const px = (n: number) => (n ? `${n}px` : "0");
  if (end !== start) return [top, end, bottom, start].map(px).join(" ");
  if (top !== bottom) return [top, end, bottom].map(px).join(" ");
  return top === end ? px(top) : `${px(top)} ${px(end)}`;
}

/** The same for cells of tables that have none of themselves; null for none. */
export const someSides = (padding: Padding, dir: Dir): string | null => {
  const sides = sidesCss(padding, dir);
  return sides === "0" ? null : sides;
};

/** A border on all sides; 0 px shows none. */
export const borderSchema = z.strictObject({
  width: z.number().int().min(0).max(LIMITS.border),
  colour: colourSchema,
});
export type Border = z.infer<typeof borderSchema>;
export const cornerSchema = z.number().int().min(0).max(LIMITS.corner);

/** Which widths show a block. */
export const showSchema = z.enum(["both", "wide", "narrow"]);
export type Show = z.infer<typeof showSchema>;

/** The box every block stands in. */
export const boxSchema = z.strictObject({
  background: colourSchema.nullable(),
  padding: paddingSchema,
  border: borderSchema,
  corner: cornerSchema,
  align: alignSchema,
  /** Null: as on wide. */
  alignNarrow: alignSchema.nullable(),
  /** The way its words run; null: as the email. */
  dir: dirSchema.nullable(),
});
export type Box = z.infer<typeof boxSchema>;

export const pad = (top: number, side: number, bottom = top): Padding => ({
  top,
  right: side,
  bottom,
  left: side,
});

export const box = (padding: Padding, align: Align = "start"): Box => ({
  background: null,
  padding,
  border: { width: 0, colour: "line" },
  corner: 0,
  align,
  alignNarrow: null,
  dir: null,
});

/** Who sees a band, a column or a block; for spreading into its schema, and into its `create`. */
export const seenShape = {
  /** Null: everybody. */
  seenBy: ruleSchema.nullable(),
  /** The chain it is an alternative of, among its neighbours: the first whose rule holds is shown. */
  chain: z
    .string()
    .regex(/^[A-Za-z0-9_-]{1,40}$/)
    .nullable(),
};
export const EVERYONE: Seen = { seenBy: null, chain: null };

/** The properties of every block, for spreading into its own schema. */
export const blockShape = {
  box: boxSchema,
  show: showSchema,
  plain: handTextSchema.nullable(),
  /** What others may change of it; left out, as what it stands in. */
  hold: holdSchema.optional(),
  /** It is a saved block; left out where it is this email's own. */
  linked: linkedSchema.optional(),
  ...seenShape,
};
export interface BlockProps extends Seen {
  readonly box: Box;
  readonly show: Show;
  readonly plain: HandText | null;
}
/** What every new block begins with, for spreading into its `create`. */
export const standing = (padding: Padding, align: Align = "start"): BlockProps => ({
  box: box(padding, align),
  show: "both",
  plain: null,
  ...EVERYONE,
});
