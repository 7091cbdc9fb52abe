import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { createItem } from "../kinds/item.ts";
import type { BlockKind, ItemKind } from "../kinds/kind.ts";
import { line, lineSchema, linkSchema, wordsOf } from "../text/index.ts";
import { itemsOf, linkFindings, linkLines, webLink } from "./link-item.ts";
import { pictureId } from "./picture.ts";
import {
  signControl,
  signName,
  signRow,
  signRowControls,
  signRowShape,
  signsHtml,
} from "./sign-item.ts";

const schema = z.strictObject({ ...blockShape, ...signRowShape });
type SocialLinks = z.infer<typeof schema>;

const itemSchema = z.strictObject({
  sign: signName,
  label: lineSchema,
  to: linkSchema,
  picture: pictureId.nullable(),
});
type SocialLink = z.infer<typeof itemSchema>;

const link: ItemKind<SocialLink> = {
  type: "socialLinks.link",
  label: "Social link",
  plural: "Social links",
  least: 1,
  most: 12,
  schema: itemSchema,
  create: () => ({ sign: "chain", label: line("Elsewhere"), to: webLink(), picture: null }),
  texts: [{ path: ["label"], kind: "line", label: "Text" }],
  content: [
    {
      control: "line",
      path: ["label"],
      label: "Text",
      hint: "Read aloud where only the icon shows.",
    },
    { control: "link", path: ["to"], label: "Link to" },
    signControl,
    { control: "picture", path: ["picture"], label: "An icon of your own", same: true },
  ],
  style: [],
  name: (props) => wordsOf(props.label),
  checks: (props) => linkFindings(props.label, props.to),
};

export const socialLinks: BlockKind<SocialLinks> = {
  type: "socialLinks",
  label: "Social links",
  group: "actions",
  icon: "share-2",
  schema,
  create: () => ({ ...standing(pad(8, 28), "center"), ...signRow(false) }),
  holds: [link],
  start: (newId) =>
    [
      ["photos", "Our photos"],
      ["film", "Our films"],
      ["people", "Our community"],
      ["site", "Our website"],
    ].map(([sign, label]) => createItem(link, newId, { sign: sign!, label: line(label!) })),
  texts: [],
  content: [],
  style: signRowControls,
  html: (props, ctx) =>
    signsHtml(
      itemsOf(ctx, link).map(({ mark, ctx: inner, props: item }) => ({
        ...item,
        mark,
        ctx: inner,
      })),
      props,
      ctx,
      props.box.align,
    ),
  text: (_props, ctx) =>
    linkLines(itemsOf(ctx, link).map(({ ctx: inner, props: item }) => ({ item, ctx: inner }))),
};
