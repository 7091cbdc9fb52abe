/** Properties that blocks share, as Zod schemas and defaults. */
import { z } from "zod";
import { colourSchema } from "../theme/theme.ts";

export const sides = (max: number) =>
  z.strictObject({
    top: z.number().int().min(0).max(max),
    right: z.number().int().min(0).max(max),
    bottom: z.number().int().min(0).max(max),
    left: z.number().int().min(0).max(max),
  });
export const paddingSchema = sides(120);
export type Padding = z.infer<typeof paddingSchema>;

export const alignSchema = z.enum(["start", "center", "end"]);
export type Align = z.infer<typeof alignSchema>;

/** Which widths show a block. */
export const showSchema = z.enum(["both", "wide", "narrow"]);
export type Show = z.infer<typeof showSchema>;

/** The box every block stands in. */
export const boxSchema = z.strictObject({
  background: colourSchema.nullable(),
  padding: paddingSchema,
  align: alignSchema,
  /** Null: as on wide. */
  alignNarrow: alignSchema.nullable(),
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
  align,
  alignNarrow: null,
});

/** The properties of every block, for spreading into its own schema. */
export const blockShape = { box: boxSchema, show: showSchema };
export interface BlockProps {
  readonly box: Box;
  readonly show: Show;
}
