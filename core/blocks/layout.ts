/** The properties of the email itself, of bands and of columns. */
import { z } from "zod";
import { FIELD_ID, MAIL_ADDRESS } from "../fields/index.ts";
import {
  borderSchema,
  cornerSchema,
  dirSchema,
  EVERYONE,
  pad,
  paddingSchema,
  seenShape,
  showSchema,
} from "../kinds/common.ts";
import { holdSchema } from "../kinds/hold.ts";
import type { Control } from "../kinds/kind.ts";
import { linkedSchema } from "../kinds/linked.ts";
import { ownParametersSchema } from "../kinds/parameters.ts";
import { langSchema } from "../kinds/translations.ts";
import { LIMITS } from "../limits.ts";
import { line, lineSchema, TAG_REF } from "../text/index.ts";
import { colourSchema, STANDARD_THEME, themeSchema } from "../theme/theme.ts";
import { pictureId } from "./picture.ts";

/** A mail address, or a tag that gives one for each reader (a sender that is derived, a field). */
const mailAddress = z
  .string()
  .max(LIMITS.addressLength)
  .refine(
    (a) => a === "" || MAIL_ADDRESS.test(a) || TAG_REF.test(a),
    "This is not a mail address.",
  );

export const envelopePropsSchema = z.strictObject({
  fromName: lineSchema,
  fromAddress: mailAddress,
  replyTo: mailAddress,
  subject: lineSchema,
  preview: lineSchema,
});

export const emailSchema = z.strictObject({
  lang: langSchema,
  /** Other languages it can be read in. */
  others: z.array(langSchema).max(LIMITS.languages),
  /** The contacts' field that says which one a reader gets. */
  languageField: z.string().regex(FIELD_ID).nullable(),
  dir: dirSchema,
  width: z.number().int().min(LIMITS.emailWidth.min).max(LIMITS.emailWidth.max),
  theme: themeSchema,
  envelope: envelopePropsSchema,
  /** Addresses in plain text: behind their words, or numbered and listed at the end. */
  textLinks: z.enum(["inline", "numbered"]),
  /** What readers do with it that is counted; left out, both. */
  counts: z.strictObject({ opens: z.boolean(), clicks: z.boolean() }).optional(),
  /** What it says for campaign parameters, where that is not what the settings say. */
  parameters: ownParametersSchema.optional(),
});
export type EmailProps = z.infer<typeof emailSchema>;

/** What readers do with an email that is counted. */
export const countsOf = ({ counts }: Pick<EmailProps, "counts">) =>
  counts ?? { opens: true, clicks: true };

export const bandSchema = z.strictObject({
  name: z.string().max(LIMITS.nameLength),
  background: colourSchema.nullable(),
  /** A picture over the ground; the colour stays where it is not shown. */
  picture: pictureId.nullable(),
  /** The point of it that stays in sight where it is cut, per cent from its left and its head. */
  focus: z.strictObject({
    x: z.number().int().min(0).max(100),
    y: z.number().int().min(0).max(100),
  }),
  /** px; 0 is as high as what stands in it. */
  minHeight: z.number().int().min(0).max(LIMITS.bandHeight),
  /** The ground reaches from edge to edge of the window. */
  fullWidth: z.boolean(),
  /** Inside and outside of the border. */
  padding: paddingSchema,
  outer: paddingSchema,
  border: borderSchema,
  corner: cornerSchema,
  /** On narrow: columns one under another, in this order or the other, or side by side as on wide. */
  onNarrow: z.enum(["stack", "reverse", "keep"]),
  valign: z.enum(["top", "middle", "bottom"]),
  /** Cards in columns that stay side by side are of one height. */
  even: z.boolean(),
  /** What others may change of it; left out, everything. */
  hold: holdSchema.optional(),
  /** It is a saved band; left out where it is this email's own. */
  linked: linkedSchema.optional(),
  show: showSchema,
  ...seenShape,
});
export type BandProps = z.infer<typeof bandSchema>;

export const columnSchema = z.strictObject({
  /** Share of the band; the shares of its columns need not add up to anything. */
  share: z.number().min(1).max(100),
  ...seenShape,
});
export type ColumnProps = z.infer<typeof columnSchema>;

export const newEmail = (lang = "en-GB"): EmailProps => ({
  lang,
  others: [],
  languageField: null,
  dir: "ltr",
  width: LIMITS.emailWidth.standard,
  theme: STANDARD_THEME,
  envelope: { fromName: line(), fromAddress: "", replyTo: "", subject: line(), preview: line() },
  textLinks: "inline",
});
export const newBand = (name = ""): BandProps => ({
  name,
  background: null,
  picture: null,
  focus: { x: 50, y: 50 },
  minHeight: 0,
  fullWidth: false,
  padding: pad(0, 0),
  outer: pad(0, 0),
  border: { width: 0, colour: "line" },
  corner: 0,
  onNarrow: "stack",
  valign: "top",
  even: false,
  show: "both",
  ...EVERYONE,
});
export const newColumn = (share = 1): ColumnProps => ({ share, ...EVERYONE });

export const bandControls: readonly Control[] = [
  { control: "colour", path: ["background"], label: "Background", none: "As the sheet" },
  { control: "picture", path: ["picture"], label: "Background image", same: true },
  { control: "focus", path: ["focus"], of: ["picture"], label: "Stays in sight" },
  {
    control: "number",
    path: ["minHeight"],
    label: "Least height",
    min: 0,
    max: LIMITS.bandHeight,
    unit: "px",
  },
  { control: "number", path: ["corner"], label: "Corners", min: 0, max: LIMITS.corner, unit: "px" },
  { control: "switch", path: ["fullWidth"], label: "Background from edge to edge" },
  { control: "border", path: ["border"], label: "Border" },
  {
    control: "choice",
    path: ["onNarrow"],
    label: "Columns on narrow",
    options: [
      { value: "stack", label: "One under another" },
      { value: "reverse", label: "Last one first" },
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
  { control: "switch", path: ["even"], label: "Cards of one height, side by side" },
];
