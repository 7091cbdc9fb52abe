import { z } from "zod";
import { blockShape, box, pad } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import {
  attrs,
  css,
  hrefMarkup,
  html,
  isBlank,
  isEmptyLink,
  line,
  lineMarkup,
  lineSchema,
  linkSchema,
  Markup,
  plain,
  plainLine,
  slot,
} from "../text/index.ts";
import { FONTS, resolveColour } from "../theme/theme.ts";

const schema = z.strictObject({
  ...blockShape,
  /** The id of a picture, or null while there is none. */
  picture: z
    .string()
    .regex(/^[a-f0-9]{64}$/)
    .nullable(),
  alt: lineSchema,
  /** Purely decorative: read aloud as nothing, and no alt text is asked for. */
  decorative: z.boolean(),
  to: linkSchema,
  /** Share of the width it may take, per cent. */
  share: z.number().int().min(10).max(100),
  corner: z.number().int().min(0).max(60),
});
type Image = z.infer<typeof schema>;

export const image: BlockKind<Image> = {
  type: "image",
  label: "Image",
  group: "pictures",
  icon: "image",
  schema,
  create: () => ({
    box: box(pad(12, 28), "center"),
    show: "both",
    picture: null,
    alt: line(),
    decorative: false,
    to: { kind: "none" },
    share: 100,
    corner: 0,
  }),
  texts: [{ path: ["alt"], kind: "line", label: "Alt text" }],
  content: [
    { control: "picture", path: ["picture"], label: "Picture" },
    {
      control: "line",
      path: ["alt"],
      label: "Alt text",
      hint: "What the picture says, for those who do not see it.",
    },
    { control: "switch", path: ["decorative"], label: "Only decoration" },
    { control: "link", path: ["to"], label: "Leads to" },
  ],
  style: [
    { control: "number", path: ["share"], label: "Width", min: 10, max: 100, unit: "%" },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 60, unit: "px" },
  ],
  html(props, ctx) {
    const width = Math.max(1, Math.round((ctx.width * props.share) / 100));
    const picture = props.picture ? ctx.pictures.get(props.picture) : undefined;
    if (!picture) return placeholder(width, ctx.theme.colours.line, ctx.theme.colours.quiet);
    const height = Math.max(1, Math.round((width * picture.height) / picture.width));
    const style = css({
      display: "block",
      width: "100%",
      "max-width": `${width}px`,
      height: "auto",
      border: "0",
      "border-radius": props.corner ? `${props.corner}px` : null,
      // Alt text is written in this font where pictures are off.
      "font-family": FONTS[ctx.theme.fonts.body].stack,
      "font-size": "14px",
      "line-height": "20px",
      color: resolveColour("quiet", ctx.theme),
    });
    const alt = props.decorative ? Markup.empty : lineMarkup(props.alt, "attribute");
    const src = `${ctx.publicAddress}/pictures/${picture.file}`;
    const img = html`<img${attrs({ src, width, height })} alt="${alt}" style="${style}">`;
    const href = hrefMarkup(props.to, ctx.node, altWords(props) || "Picture");
    const inner = href ? html`<a${href} style="text-decoration:none">${img}</a>` : img;
    const align = { start: null, center: "center", end: "right" }[props.box.align];
    return html`<table role="presentation"${attrs({ width, align })} border="0" cellpadding="0" cellspacing="0" class="im" style="${css({ width: "100%", "max-width": `${width}px`, margin: props.box.align === "center" ? "0 auto" : null })}"><tr><td width="${width}" style="padding:0">${inner}</td></tr></table>`;
  },
  text(props, ctx) {
    if (props.decorative || isBlank(props.alt)) return Markup.empty;
    const words = plain`[${lineMarkup(props.alt, "text")}]`;
    if (isEmptyLink(props.to)) return words;
    const to = slot({
      slot: "link",
      node: ctx.node,
      to: props.to,
      words: altWords(props),
      as: "text",
    });
    return plain`${words}\n${to}`;
  },
  checks(props) {
    if (props.decorative || !isBlank(props.alt)) return [];
    return [
      {
        check: "alt-text",
        severity: "look",
        message: "A picture has no alt text",
        detail: "Readers with pictures off, or who listen, get nothing from it.",
      },
    ];
  },
};

const altWords = (props: Image) => plainLine(props.alt, (tag) => tag.fallback ?? "…").trim();

/** An empty image block still shows where its picture will be. */
const placeholder = (width: number, line: string, ink: string) =>
  html`<table role="presentation" width="${width}" border="0" cellpadding="0" cellspacing="0" style="${css({ width: "100%", "max-width": `${width}px` })}"><tr><td align="center" height="120" style="${css({ height: "120px", border: `1px dashed ${line}`, "font-family": FONTS.plainSans.stack, "font-size": "14px", color: ink, "text-align": "center" })}">No picture yet</td></tr></table>`;
