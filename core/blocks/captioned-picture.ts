import { z } from "zod";
import { blockShape, pad, sideOf, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, BlockKind } from "../kinds/kind.ts";
import {
  docMarkup,
  docText,
  hrefMarkup,
  html,
  lineMarkup,
  linkedThrough,
  type Markup,
  plain,
} from "../markup/index.ts";
import { pictureAddress } from "../picture-id.ts";
import { sentWidth } from "../pictures/sizes.ts";
import { doc, docSchema, isBlank, line, linkSchema, wordsOf } from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { backdropOf } from "./backdrop.ts";
import { oneCell } from "./columns.ts";
import {
  backingControl,
  eachPicture,
  newPicture,
  pictureControls,
  pictureFindings,
  pictureHtml,
  pictureShape,
  pictureText,
} from "./picture.ts";
import { PLAIN_TYPE, textLook, typeSchema, wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  ...pictureShape,
  caption: docSchema,
  /** Under the picture, or over its foot. */
  place: z.enum(["under", "over"]),
  to: linkSchema,
  /** The caption leads there too, but for its own links. */
  whole: z.boolean(),
  colour: colourSchema,
  ground: colourSchema.nullable(),
  corner: z.number().int().min(0).max(60),
  type: typeSchema,
});
type CaptionedPicture = z.infer<typeof schema>;

function captionHtml(props: CaptionedPicture, ctx: BlockContext, padding: string): Markup {
  const look = textLook(ctx, { link: props.colour, ink: props.colour, gap: 6 });
  const words = wordAttrs(
    ctx.theme,
    { font: "body", size: 14, lineHeight: 1.45, colour: props.colour },
    props.type,
  );
  const said = props.whole ? linkedThrough(props.caption, props.to) : props.caption;
  const start = sideOf(props.box.align, ctx.dir);
  const cell = dress(
    ctx.theme,
    { ground: props.ground },
    { padding, "text-align": start },
    { cell: true },
  );
  return oneCell(
    html` align="${start}"${cell}`,
    html`<div${ctx.text("caption")}${words}>${docMarkup(said, look)}</div>`,
  );
}

/** What a caption of one line takes of the picture, px. */
const CAPTION_HEIGHT = 44;

/**
 * The picture as the ground of a cell whose foot holds the caption: for most by attribute and style, for
 * the table-only engine as a VML fill of the same size.
 */
function overHtml(props: CaptionedPicture, ctx: BlockContext): Markup | null {
  const picture = props.picture ? ctx.pictures.get(props.picture) : undefined;
  if (!picture) return null;
  const { width, theme } = ctx;
  const height = Math.max(120, Math.round((width * picture.height) / picture.width));
  const ground = props.backing ?? props.ground ?? "tint";
  // It covers the cell: one that is flatter than that is drawn wider than the cell, and cut off at its sides.
  const covering = Math.max(width, Math.round((height * picture.width) / picture.height));
  const behind = backdropOf({
    src: pictureAddress(ctx.publicAddress, picture, sentWidth(picture, covering, true)),
    ground: resolveColour(ground, theme),
    width,
    height,
    anchor: "bottom",
  });
  const cell = dress(
    theme,
    { ground },
    {
      height: `${height}px`,
      "vertical-align": "bottom",
      ...behind.style,
      "border-radius": props.corner ? `${props.corner}px` : null,
    },
    { cell: true, classes: ["ov"] },
  );
  // A ground has no alt text of its own, so the cell is named as the figure it is.
  const named = !props.decorative && !isBlank(props.alt);
  const figure = named && html` role="figure" aria-label="${lineMarkup(props.alt, "attribute")}"`;
  // The caption has links of its own, so the picture's stands over it as high as the picture shows.
  const href = hrefMarkup(props.to, ctx.node, wordsOf(props.alt) || "Image");
  const shown = Math.max(44, height - CAPTION_HEIGHT);
  const above =
    href &&
    html`<a${href} aria-label="${lineMarkup(props.alt, "attribute")}" style="display:block;height:${shown}px;font-size:1px;line-height:${shown}px;text-decoration:none">&nbsp;</a>`;
  const caption = captionHtml(props, ctx, "12px 16px");
  return oneCell(
    html`${figure}${behind.attributes} width="${width}" height="${height}" valign="bottom"${cell}`,
    html`${behind.open}${above}${caption}${behind.close}`,
  );
}

export const captionedPicture: BlockKind<CaptionedPicture> = {
  type: "captionedPicture",
  label: "Captioned image",
  group: "pictures",
  icon: "captions",
  schema,
  create: () => ({
    ...standing(pad(12, 28)),
    ...newPicture(null, line()),
    caption: doc("What the image shows, and who made it."),
    place: "under",
    to: { kind: "none" },
    whole: false,
    colour: "quiet",
    ground: null,
    corner: 0,
    type: PLAIN_TYPE,
  }),
  examples: [["caption"]],
  texts: [
    { path: ["caption"], kind: "doc", label: "Caption" },
    { path: ["alt"], kind: "line", label: "Alt text" },
  ],
  content: [
    { control: "onSheet", label: "Write the caption on the sheet: double-click it." },
    ...pictureControls,
    { control: "link", path: ["to"], label: "The image links to" },
    { control: "switch", path: ["whole"], label: "The caption links there too" },
  ],
  style: [
    {
      control: "choice",
      path: ["place"],
      label: "Caption",
      options: [
        { value: "under", label: "Under the image" },
        { value: "over", label: "Over its foot" },
      ],
    },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 60, unit: "px" },
    { control: "colour", path: ["colour"], label: "Text colour" },
    { control: "colour", path: ["ground"], label: "Caption background", none: "None" },
    backingControl,
    { control: "type", path: ["type"], label: "Type" },
  ],
  html(props, ctx) {
    const under = (own: CaptionedPicture) => {
      const { corner, to, ground } = own;
      const picture = pictureHtml(own, ctx, { width: ctx.width, corner, to });
      return html`${picture}${captionHtml(own, ctx, ground ? "10px 12px" : "8px 0 0 0")}`;
    };
    if (props.place !== "over") return under(props);
    return eachPicture(props, ctx, (own) => overHtml(own, ctx) ?? under(own));
  },
  text(props, ctx) {
    const picture = pictureText(props, ctx, props.to);
    const between = picture.segments.length ? "\n" : "";
    return plain`${picture}${between}${docText(props.caption, ctx.node)}`;
  },
  checks: (props) => pictureFindings(props, props.to),
};
