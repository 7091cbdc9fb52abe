import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { NARROW } from "../kinds/narrow.ts";
import { LIMITS } from "../limits.ts";
import { html, Markup } from "../markup/index.ts";
import { oneCell } from "./columns.ts";

const { least: min, most: max } = LIMITS.spacer;
const height = z.number().int().min(min).max(max);
/** px; on narrow null is as on wide. */
const schema = z.strictObject({ ...blockShape, height, narrow: height.nullable() });
type Spacer = z.infer<typeof schema>;

export const spacer: BlockKind<Spacer> = {
  type: "spacer",
  label: "Spacer",
  group: "layout",
  icon: "move-vertical",
  schema,
  create: () => ({ ...standing(pad(0, 0)), height: 24, narrow: null }),
  texts: [],
  content: [],
  style: [
    { control: "number", path: ["height"], label: "Height", min, max, unit: "px" },
    {
      control: "number",
      path: ["narrow"],
      label: "On narrow",
      min,
      max,
      unit: "px",
      empty: "as on wide",
    },
  ],
  html(props, { theme }) {
    const height = `${props.height}px`;
    const room = { height, "font-size": height, "line-height": height };
    const classes = [props.narrow === null ? null : NARROW.room.name(props.narrow)];
    return oneCell(
      html` height="${props.height}"${dress(theme, {}, room, { classes })}`,
      html`&nbsp;`,
    );
  },
  text: () => Markup.empty,
};
