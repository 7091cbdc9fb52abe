import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { line, linkSchema } from "../text/index.ts";
import {
  backingControl,
  eachPicture,
  NO_VERSIONS,
  newPicture,
  pictureControls,
  pictureFindings,
  pictureHtml,
  pictureShape,
  pictureText,
  placed,
  versionControls,
  versionsShape,
} from "./picture.ts";

const schema = z.strictObject({
  ...blockShape,
  ...pictureShape,
  ...versionsShape,
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
    ...standing(pad(12, 28), "center"),
    ...newPicture(null, line()),
    ...NO_VERSIONS,
    to: { kind: "none" },
    share: 100,
    corner: 0,
  }),
  texts: [{ path: ["alt"], kind: "line", label: "Alt text" }],
  content: [
    ...pictureControls,
    { control: "link", path: ["to"], label: "Link to" },
    ...versionControls,
  ],
  style: [
    { control: "number", path: ["share"], label: "Width", min: 10, max: 100, unit: "%" },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 60, unit: "px" },
    backingControl,
  ],
  html: (image, ctx) =>
    eachPicture(image, ctx, (props) => {
      const width = Math.max(1, Math.round((ctx.width * props.share) / 100));
      const whole = width === ctx.width;
      const options = { width, corner: props.corner, to: props.to, grows: whole, versions: props };
      const inner = pictureHtml(props, ctx, options);
      // As wide as its place it needs nothing that holds it.
      if (whole || !props.picture || !ctx.pictures.has(props.picture)) return inner;
      // A small picture is a mark or a logo: it keeps its size where there is less room.
      return placed(inner, width, props.box.align, ctx, props.share >= 50);
    }),
  text: (props, ctx) => pictureText(props, ctx, props.to),
  checks: (props) => pictureFindings(props, props.to),
};
