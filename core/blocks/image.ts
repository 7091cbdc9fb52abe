import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { line, linkSchema } from "../text/index.ts";
import {
  backingControl,
  eachPicture,
  newPicture,
  pictureControls,
  pictureFindings,
  pictureHtml,
  pictureShape,
  pictureText,
  placed,
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
    ...standing(pad(12, 28), "center"),
    ...newPicture(null, line()),
    to: { kind: "none" },
    share: 100,
    corner: 0,
  }),
  texts: [{ path: ["alt"], kind: "line", label: "Alt text" }],
  content: [...pictureControls, { control: "link", path: ["to"], label: "Link to" }],
  style: [
    { control: "number", path: ["share"], label: "Width", min: 10, max: 100, unit: "%" },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 60, unit: "px" },
    backingControl,
  ],
  html: (image, ctx) =>
    eachPicture(image, ctx, (props) => {
      const width = Math.max(1, Math.round((ctx.width * props.share) / 100));
      const inner = pictureHtml(props, ctx, { width, corner: props.corner, to: props.to });
      if (!props.picture || !ctx.pictures.has(props.picture)) return inner;
      // A small picture is a mark or a logo: it keeps its size where there is less room.
      return placed(inner, width, props.box.align, ctx, props.share >= 50);
    }),
  text: (props, ctx) => pictureText(props, ctx, props.to),
  checks: pictureFindings,
};
