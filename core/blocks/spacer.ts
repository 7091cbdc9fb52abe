import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { css, html, Markup } from "../markup/index.ts";
import { oneCell } from "./columns.ts";

const schema = z.strictObject({ ...blockShape, height: z.number().int().min(4).max(200) });
type Spacer = z.infer<typeof schema>;

export const spacer: BlockKind<Spacer> = {
  type: "spacer",
  label: "Spacer",
  group: "layout",
  icon: "move-vertical",
  schema,
  create: () => ({ ...standing(pad(0, 0)), height: 24 }),
  texts: [],
  content: [],
  style: [{ control: "number", path: ["height"], label: "Height", min: 4, max: 200, unit: "px" }],
  html(props) {
    const height = `${props.height}px`;
    return oneCell(
      html` height="${props.height}" style="${css({ height, "font-size": height, "line-height": height })}"`,
      html`&nbsp;`,
    );
  },
  text: () => Markup.empty,
};
