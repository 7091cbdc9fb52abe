import { z } from "zod";
import { blockShape, pad, sideOf, sidesCss, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, BlockKind } from "../kinds/kind.ts";
import type { Title } from "../kinds/title.ts";
import {
  attrs,
  html,
  joinShown,
  lineMarkup,
  onSheetOnly,
  plain,
  shownWhen,
} from "../markup/index.ts";
import { isBlank, line, lineSchema, wordsOf } from "../text/index.ts";
import { colourSchema } from "../theme/theme.ts";
import { oneCell } from "./columns.ts";
import { linkedWords } from "./link-item.ts";
import { PLAIN_TYPE, typeSchema, wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  title: lineSchema,
  parts: z.strictObject({ title: z.boolean() }),
  /** The deepest level that is listed. */
  depth: z.number().int().min(1).max(4),
  colour: colourSchema,
  type: typeSchema,
});
type Contents = z.infer<typeof schema>;

/** How far a level is set in under the one above it, px; the email’s own stands where its parts do. */
const INDENT = 16;
const ITEM = { font: "body", size: 16, lineHeight: 1.5 } as const;

const listed = ({ depth }: Contents, ctx: BlockContext): readonly Title[] =>
  ctx.titles().filter(({ level }) => level <= depth);
const placeOf = ({ node }: Title) => ({ kind: "place", node: node.id }) as const;

/** Links to the email's own titles. They follow by themselves what stands in it. */
export const contents: BlockKind<Contents> = {
  type: "contents",
  label: "Contents",
  group: "words",
  icon: "list-tree",
  listsTitles: true,
  schema,
  create: () => ({
    ...standing(pad(12, 28)),
    title: line("In this email"),
    parts: { title: true },
    depth: 2,
    colour: "accent",
    type: PLAIN_TYPE,
  }),
  texts: [{ path: ["title"], kind: "line", label: "Title" }],
  content: [
    { control: "onSheet", label: "It lists the headings of this email, as they are." },
    { control: "line", path: ["title"], label: "Title" },
    { control: "switch", path: ["parts", "title"], label: "With a title" },
  ],
  style: [
    {
      control: "choice",
      path: ["depth"],
      label: "Lists",
      options: [
        { value: 1, label: "Level 1" },
        { value: 2, label: "Levels 1 and 2" },
        { value: 3, label: "Levels 1 to 3" },
        { value: 4, label: "All levels" },
      ],
    },
    { control: "colour", path: ["colour"], label: "Text colour" },
    { control: "type", path: ["type"], label: "Type" },
  ],
  html(props, ctx) {
    const { theme, dir } = ctx;
    const titles = listed(props, ctx);
    const words = wordAttrs(theme, { ...ITEM, colour: props.colour }, props.type);
    const align = sideOf("start", dir);
    const rows = titles.map((title) => {
      const place = placeOf(title);
      const inset = Math.max(0, title.level - 2) * INDENT;
      const padding = sidesCss({ ...pad(10, 0), left: inset }, dir);
      const cell = dress(theme, {}, { padding, "text-align": align });
      const look = { name: wordsOf(title.words), colour: props.colour };
      const link = linkedWords(lineMarkup(title.words, "html"), place, ctx, look);
      // Each in a table of its own, so that nothing is left where a reader sees none of them.
      const row = oneCell(html`${attrs({ align })}${cell}`, html`<div${words}>${link}</div>`);
      return shownWhen(title.when, row);
    });
    const own = wordAttrs(theme, { ...ITEM, size: 14, colour: "quiet", bold: true });
    const named =
      props.parts.title && !isBlank(props.title)
        ? html`<div${ctx.text("title")}${own}>${lineMarkup(props.title, "html")}</div>`
        : null;
    const none = html`<div${wordAttrs(theme, { ...ITEM, size: 14, colour: "quiet" })}>The headings of this email will be listed here.</div>`;
    return html`${named}${rows.length ? rows : onSheetOnly(none)}`;
  },
  text(props, ctx) {
    const lines = listed(props, ctx).map(({ words, when }) => ({
      when,
      text: plain`- ${lineMarkup(words, "text")}`,
    }));
    const named =
      props.parts.title && !isBlank(props.title)
        ? [{ when: null, text: lineMarkup(props.title, "text") }]
        : [];
    return joinShown([...named, ...lines], "\n");
  },
};
