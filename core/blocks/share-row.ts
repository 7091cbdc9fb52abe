import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { createItem } from "../kinds/item.ts";
import type { BlockKind, ItemKind } from "../kinds/kind.ts";
import { type Link, line, lineSchema, wordsOf } from "../text/index.ts";
import { itemsOf, linkFindings, linkLines } from "./link-item.ts";
import {
  signControl,
  signName,
  signRow,
  signRowControls,
  signRowShape,
  signsHtml,
} from "./sign-item.ts";

const schema = z.strictObject({ ...blockShape, ...signRowShape });
type ShareRow = z.infer<typeof schema>;

const itemSchema = z.strictObject({
  /** The address of the web version, or a message to somebody with it. */
  by: z.enum(["link", "mail"]),
  sign: signName,
  label: lineSchema,
  /** Of the message, where it is one. */
  subject: lineSchema,
});
type ShareWay = z.infer<typeof itemSchema>;

const linkOf = ({ by, subject }: ShareWay): Link =>
  by === "link" ? { kind: "shared" } : { kind: "forward", subject };

const way: ItemKind<ShareWay> = {
  type: "shareRow.way",
  label: "Way to share",
  plural: "Ways to share",
  least: 1,
  most: 6,
  schema: itemSchema,
  create: () => ({ by: "link", sign: "chain", label: line("Share"), subject: line() }),
  texts: [
    { path: ["label"], kind: "line", label: "Text" },
    { path: ["subject"], kind: "line", label: "Subject" },
  ],
  content: [
    {
      control: "choice",
      path: ["by"],
      label: "Shares",
      options: [
        { value: "link", label: "The web version" },
        { value: "mail", label: "By a message" },
      ],
    },
    signControl,
    { control: "line", path: ["label"], label: "Text" },
    { control: "line", path: ["subject"], label: "Subject of the message" },
  ],
  style: [],
  name: (props) => wordsOf(props.label),
  checks: (props) => linkFindings(props.label, linkOf(props)),
};

export const shareRow: BlockKind<ShareRow> = {
  type: "shareRow",
  label: "Share row",
  group: "actions",
  icon: "forward",
  schema,
  create: () => ({ ...standing(pad(8, 28), "center"), ...signRow(true), size: 28 }),
  holds: [way],
  start: (newId) => [
    createItem(way, newId, {
      by: "mail",
      sign: "letter",
      label: line("Send it to a friend"),
      subject: line("You might like this"),
    }),
    createItem(way, newId, { by: "link", sign: "chain", label: line("Share the web version") }),
  ],
  texts: [],
  content: [],
  style: signRowControls,
  html: (props, ctx) =>
    signsHtml(
      itemsOf(ctx, way).map(({ mark, ctx: inner, props: item }) => ({
        sign: item.sign,
        label: item.label,
        to: linkOf(item),
        mark,
        ctx: inner,
      })),
      props,
      ctx,
      props.box.align,
    ),
  // Who reads plain text is given the address to pass on: a message begun for them is no use there.
  text: (_props, ctx) =>
    linkLines(
      itemsOf(ctx, way).map(({ ctx: inner, props: item }) => ({
        item: { label: item.label, to: { kind: "shared" } },
        ctx: inner,
      })),
    ),
};
