/** The properties of the email itself, of bands and of columns. */
import { z } from "zod";
import { pad, paddingSchema, showSchema } from "../kinds/common.ts";
import type { Control } from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import { line, lineSchema, MAIL_ADDRESS } from "../text/index.ts";
import { colourSchema, STANDARD_THEME, themeSchema } from "../theme/theme.ts";

const mailAddress = z
  .string()
  .max(LIMITS.addressLength)
  .refine((a) => a === "" || MAIL_ADDRESS.test(a), "This is not a mail address.");

export const envelopePropsSchema = z.strictObject({
  fromName: lineSchema,
  fromAddress: mailAddress,
  replyTo: mailAddress,
  subject: lineSchema,
  preview: lineSchema,
});

export const emailSchema = z.strictObject({
  lang: z
    .string()
    .regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, "A language tag such as en or fr-CA (BCP 47)."),
  width: z.number().int().min(LIMITS.emailWidth.min).max(LIMITS.emailWidth.max),
  theme: themeSchema,
  envelope: envelopePropsSchema,
});
export type EmailProps = z.infer<typeof emailSchema>;

export const bandSchema = z.strictObject({
  name: z.string().max(LIMITS.nameLength),
  background: colourSchema.nullable(),
  /** The ground reaches from edge to edge of the window. */
  fullWidth: z.boolean(),
  padding: paddingSchema,
  /** On narrow: columns one under another, or side by side as on wide. */
  onNarrow: z.enum(["stack", "keep"]),
  valign: z.enum(["top", "middle", "bottom"]),
  show: showSchema,
});
export type BandProps = z.infer<typeof bandSchema>;

export const columnSchema = z.strictObject({
  /** Share of the band; the shares of its columns need not add up to anything. */
  share: z.number().min(1).max(100),
});
export type ColumnProps = z.infer<typeof columnSchema>;

export const newEmail = (lang = "en-GB"): EmailProps => ({
  lang,
  width: LIMITS.emailWidth.standard,
  theme: STANDARD_THEME,
  envelope: { fromName: line(), fromAddress: "", replyTo: "", subject: line(), preview: line() },
});
export const newBand = (name = ""): BandProps => ({
  name,
  background: null,
  fullWidth: false,
  padding: pad(0, 0),
  onNarrow: "stack",
  valign: "top",
  show: "both",
});
export const newColumn = (share = 1): ColumnProps => ({ share });
export const bandControls: readonly Control[] = [
  { control: "colour", path: ["background"], label: "Ground", none: "As the sheet" },
  { control: "switch", path: ["fullWidth"], label: "Ground from edge to edge" },
  {
    control: "choice",
    path: ["onNarrow"],
    label: "Columns on narrow",
    options: [
      { value: "stack", label: "One under another" },
      { value: "keep", label: "Side by side" },
    ],
  },
  {
    control: "choice",
    path: ["valign"],
    label: "Columns stand",
    options: [
      { value: "top", label: "Top" },
      { value: "middle", label: "Middle" },
      { value: "bottom", label: "Bottom" },
    ],
  },
];
