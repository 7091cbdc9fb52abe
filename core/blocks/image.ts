import { z } from "zod";
import { blockShape, box, pad } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { attrs, css, html, line, linkSchema } from "../text/index.ts";
import {
  pictureControls,
  pictureFindings,
  pictureHtml,
  pictureShape,
  pictureText,
} from "./picture.ts";

const schema = z.strictObject({
  ...blockShape,
  ...pictureShape,
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
  content: [...pictureControls, { control: "link", path: ["to"], label: "Leads to" }],
  style: [
    { control: "number", path: ["share"], label: "Width", min: 10, max: 100, unit: "%" },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 60, unit: "px" },
  ],
  html(props, ctx) {
    const width = Math.max(1, Math.round((ctx.width * props.share) / 100));
    const inner = pictureHtml(props, ctx, { width, corner: props.corner, to: props.to });
    if (!props.picture || !ctx.pictures.has(props.picture)) return inner;
    const align = { start: null, center: "center", end: "right" }[props.box.align];
    const margin = props.box.align === "center" ? "0 auto" : null;
    const style = css({ width: "100%", "max-width": `${width}px`, margin });
    return html`<table role="presentation"${attrs({ width, align })} border="0" cellpadding="0" cellspacing="0" class="im" style="${style}"><tr><td width="${width}" style="padding:0">${inner}</td></tr></table>`;
  },
  text: (props, ctx) => pictureText(props, ctx, props.to),
  checks: pictureFindings,
};
