import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import type { BlockContext, BlockKind } from "../kinds/kind.ts";
import { addressText, html, lineMarkup, Markup, plain } from "../markup/index.ts";
import { languageOf, phrases } from "../phrases/index.ts";
import { isBlank, isEmptyLink, line, lineSchema, linkSchema, wordsOf } from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { linkedWords, webLink } from "./link-item.ts";
import {
  eachPicture,
  imgTag,
  linked,
  made,
  newPicture,
  pictureControls,
  pictureFindings,
  pictureHtml,
  pictureShape,
  source,
} from "./picture.ts";
import { wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  ...pictureShape,
  to: linkSchema,
  caption: lineSchema,
  /** The server puts a play mark on the picture; off for a still that has one. */
  mark: z.boolean(),
  markColour: colourSchema,
  parts: z.strictObject({ caption: z.boolean() }),
  corner: z.number().int().min(0).max(60),
});
type Video = z.infer<typeof schema>;

/** Says that it plays: a still alone is a picture like any other. */
const altOf = ({ decorative, alt }: Video, { lang }: BlockContext): Markup => {
  if (decorative) return Markup.empty;
  const words = lineMarkup(alt, "attribute");
  return html`${phrases(languageOf(lang)).play}${!isBlank(alt) && html`: ${words}`}`;
};

/** The still with its play mark, or the place where it will be. */
function stillHtml(props: Video, ctx: BlockContext): Markup {
  const { width, theme } = ctx;
  const picture = props.picture ? ctx.pictures.get(props.picture) : undefined;
  if (!picture || !props.mark) {
    const { corner, to } = props;
    const height = Math.round((width * 9) / 16);
    const missing = "▶ No still yet";
    return pictureHtml(props, ctx, { width, corner, to, ...(!picture && { height }), missing });
  }
  const settings = { ...source(picture), mark: resolveColour(props.markColour, theme) };
  const img = imgTag(
    ctx,
    {
      src: made({ kind: "still", words: null, settings }),
      alt: altOf(props, ctx),
      width,
      height: Math.max(1, Math.round((width * picture.height) / picture.width)),
    },
    { corner: props.corner, backing: props.backing },
  );
  return linked(img, props.to, ctx, wordsOf(props.alt) || wordsOf(props.caption));
}

export const video: BlockKind<Video> = {
  type: "video",
  label: "Video",
  group: "pictures",
  icon: "circle-play",
  schema,
  create: () => ({
    ...standing(pad(12, 28)),
    ...newPicture(null, line()),
    to: webLink(),
    caption: line("See the film, two minutes"),
    mark: true,
    markColour: "#ffffff",
    parts: { caption: true },
    corner: 4,
  }),
  examples: [["caption"]],
  texts: [
    { path: ["caption"], kind: "line", label: "Caption" },
    { path: ["alt"], kind: "line", label: "Alt text" },
  ],
  content: [
    ...pictureControls,
    { control: "switch", path: ["mark"], label: "Put a play mark on it" },
    { control: "link", path: ["to"], label: "Video link" },
    { control: "line", path: ["caption"], label: "Caption" },
    { control: "switch", path: ["parts", "caption"], label: "With the caption" },
  ],
  style: [
    { control: "colour", path: ["markColour"], label: "Play mark" },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 60, unit: "px" },
  ],
  html(props, ctx) {
    const { theme } = ctx;
    const still = eachPicture(props, ctx, (own) => stillHtml(own, ctx));
    if (!props.parts.caption || isBlank(props.caption)) return still;
    const caption = wordAttrs(theme, {
      font: "body",
      size: 14,
      lineHeight: 1.45,
      colour: "quiet",
      more: { margin: "8px 0 0 0" },
    });
    const look = { name: wordsOf(props.caption), colour: "quiet" } as const;
    const said = linkedWords(lineMarkup(props.caption, "html"), props.to, ctx, look);
    return html`${still}<p${ctx.text("caption")}${caption}>${said}</p>`;
  },
  text: (video, ctx) =>
    eachPicture(video, ctx, (props) => {
      const alt =
        props.decorative || isBlank(props.alt) ? null : plain`[${lineMarkup(props.alt, "text")}]`;
      const caption =
        props.parts.caption && !isBlank(props.caption) ? lineMarkup(props.caption, "text") : null;
      const words = wordsOf(props.alt) || wordsOf(props.caption);
      const lines = [alt, caption].filter((one) => one !== null);
      const body = lines.map((one, i) => plain`${i > 0 ? "\n" : ""}${one}`);
      return plain`${body}${addressText(props.to, ctx.node, words, lines.length ? "\n" : "")}`;
    }),
  checks(props) {
    const findings = pictureFindings(props, props.to);
    if (!isEmptyLink(props.to)) return findings;
    const message = "The video leads nowhere";
    const detail = "Mail programs play no films: give it the address where it plays.";
    return [...findings, { check: "empty-link", severity: "look", message, detail }];
  },
};
