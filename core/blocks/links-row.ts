import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import { createItem } from "../kinds/item.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { html } from "../markup/index.ts";
import { line } from "../text/index.ts";
import { colourSchema } from "../theme/theme.ts";
import { flowRow } from "./flow.ts";
import { itemsOf, linkHtml, linkKind, linkLines, webLink } from "./link-item.ts";
import { PLAIN_TYPE, typeSchema, wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  colour: colourSchema,
  underline: z.boolean(),
  /** What stands between two links. */
  between: z.enum(["nothing", "dot", "bar"]),
  /** On narrow: on, or one under another. */
  onNarrow: z.enum(["wrap", "stack"]),
  type: typeSchema,
});
type LinksRow = z.infer<typeof schema>;

const link = linkKind("linksRow.link", { label: "Link", plural: "Links", least: 1, most: 12 });
const SIGNS = { nothing: null, dot: "·", bar: "|" } as const;

export const linksRow: BlockKind<LinksRow> = {
  type: "linksRow",
  label: "Links row",
  group: "actions",
  icon: "ellipsis",
  schema,
  create: () => ({
    ...standing(pad(4, 28), "center"),
    colour: "accent",
    underline: false,
    between: "nothing",
    onNarrow: "wrap",
    type: PLAIN_TYPE,
  }),
  holds: [link],
  start: (newId) =>
    ["Visit", "What is on", "Shop"].map((label) =>
      createItem(link, newId, { label: line(label), to: webLink() }),
    ),
  texts: [],
  content: [],
  style: [
    { control: "colour", path: ["colour"], label: "Colour" },
    { control: "switch", path: ["underline"], label: "Underlined" },
    {
      control: "choice",
      path: ["between"],
      label: "Between them",
      options: [
        { value: "nothing", label: "Nothing" },
        { value: "dot", label: "A dot" },
        { value: "bar", label: "A bar" },
      ],
    },
    {
      control: "choice",
      path: ["onNarrow"],
      label: "On narrow",
      options: [
        { value: "wrap", label: "In lines" },
        { value: "stack", label: "One under another" },
      ],
    },
    { control: "type", path: ["type"], label: "Type" },
  ],
  html(props, ctx) {
    const sign = SIGNS[props.between];
    const stack = props.onNarrow === "stack";
    const dot = dress(ctx.theme, { ink: "quiet" }, {}, { classes: [stack && "nw"] });
    const between = sign && html`<span${dot} aria-hidden="true">${sign}</span>`;
    const links = itemsOf(ctx, link).map(({ mark, ctx: inner, props: item }) =>
      linkHtml(item, inner, {
        mark,
        colour: props.colour,
        underline: props.underline,
        // See narrowRules: one under another.
        classes: [stack ? "kb" : null],
      }),
    );
    const attributes = wordAttrs(
      ctx.theme,
      { font: "body", size: 15, lineHeight: 20 / 15, colour: props.colour },
      props.type,
    );
    const row = flowRow(links, { gap: 8, align: props.box.align, dir: ctx.dir, between });
    return html`<div${attributes}>${row}</div>`;
  },
  text: (_props, ctx) =>
    linkLines(itemsOf(ctx, link).map(({ ctx: inner, props: item }) => ({ item, ctx: inner }))),
};
