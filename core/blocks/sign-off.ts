import { z } from "zod";
import { blockShape, pad, sideOf, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import { createItem } from "../kinds/item.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { html, join, lineMarkup } from "../markup/index.ts";
import { isBlank, line, lineSchema, linkSchema } from "../text/index.ts";
import { colourSchema } from "../theme/theme.ts";
import { type Column, fixedColumns, oneCell } from "./columns.ts";
import { inLine, itemsOf, linkHtml, linkKind, linkText, webLink } from "./link-item.ts";
import {
  backingControl,
  newPicture,
  pictureControls,
  pictureFindings,
  pictureHtml,
  pictureId,
  pictureShape,
  pictureText,
  placed,
} from "./picture.ts";
import { wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  ...pictureShape,
  greeting: lineSchema,
  name: lineSchema,
  role: lineSchema,
  /** Where the picture leads. */
  to: linkSchema,
  /** Written by hand, between the greeting and the name; the name says what it shows. */
  signature: z.strictObject({ picture: pictureId.nullable() }),
  signatureWidth: z.number().int().min(60).max(240),
  parts: z.strictObject({
    picture: z.boolean(),
    greeting: z.boolean(),
    signature: z.boolean(),
    role: z.boolean(),
  }),
  /** px; half of it or more makes a square picture round. */
  corner: z.number().int().min(0).max(60),
  size: z.number().int().min(40).max(160),
  linkColour: colourSchema,
});
type SignOff = z.infer<typeof schema>;

const way = linkKind("signOff.way", {
  label: "Way to reach them",
  plural: "Ways to reach them",
  least: 0,
  most: 5,
});

const GAP = 16;

export const signOff: BlockKind<SignOff> = {
  type: "signOff",
  label: "Sign-off",
  group: "words",
  icon: "signature",
  schema,
  create: () => ({
    ...standing(pad(16, 28)),
    ...newPicture(null, line()),
    greeting: line("With warm regards"),
    name: line("Your name"),
    role: line("What you do here"),
    to: { kind: "none" },
    signature: { picture: null },
    signatureWidth: 140,
    parts: { picture: false, greeting: true, signature: false, role: true },
    corner: 40,
    size: 80,
    linkColour: "accent",
  }),
  partOf: {
    // What stands behind the picture stands behind the signature too.
    ...{ alt: "picture", decorative: "picture" },
    ...{ to: "picture", size: "picture", corner: "picture" },
    signatureWidth: "signature",
  },
  holds: [way],
  start: (newId) => [
    createItem(way, newId, { label: line("Write to me"), to: { kind: "mail", address: "" } }),
    createItem(way, newId, { label: line("Our website"), to: webLink() }),
  ],
  examples: [["name"], ["role"]],
  texts: [
    { path: ["greeting"], kind: "line", label: "Greeting" },
    { path: ["name"], kind: "line", label: "Name" },
    { path: ["role"], kind: "line", label: "Role" },
    { path: ["alt"], kind: "line", label: "Alt text" },
  ],
  content: [
    { control: "line", path: ["greeting"], label: "Greeting" },
    { control: "line", path: ["name"], label: "Name" },
    { control: "line", path: ["role"], label: "Role" },
    { control: "switch", path: ["parts", "greeting"], label: "With the greeting" },
    { control: "switch", path: ["parts", "role"], label: "With the role" },
    { control: "switch", path: ["parts", "picture"], label: "With an image" },
    ...pictureControls,
    { control: "link", path: ["to"], label: "The image links to" },
    { control: "switch", path: ["parts", "signature"], label: "With a handwritten signature" },
    { control: "picture", path: ["signature", "picture"], label: "Signature", same: true },
  ],
  style: [
    {
      control: "number",
      path: ["signatureWidth"],
      label: "Signature",
      min: 60,
      max: 240,
      unit: "px",
    },
    { control: "number", path: ["size"], label: "Image", min: 40, max: 160, unit: "px" },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 60, unit: "px" },
    { control: "colour", path: ["linkColour"], label: "Link colour" },
    backingControl,
  ],
  html(props, ctx) {
    const { theme, dir } = ctx;
    const row = (part: "greeting" | "name" | "role") => {
      const name = part === "name";
      const attributes = wordAttrs(theme, {
        font: name ? "heading" : "body",
        size: name ? theme.type.heading3 : 15,
        lineHeight: 1.4,
        colour: part === "role" ? "quiet" : "ink",
        bold: name,
      });
      return html`<div${ctx.text(part)}${attributes}>${lineMarkup(props[part], "html")}</div>`;
    };
    const room = Math.max(1, ctx.width - (props.parts.picture ? props.size + GAP : 0));
    const width = Math.min(props.signatureWidth, room);
    const signature = {
      ...{ picture: props.signature.picture, alt: line(), decorative: true },
      backing: props.backing,
    };
    const hand = props.parts.signature
      ? placed(
          pictureHtml(signature, ctx, { width, missing: "No signature yet" }),
          width,
          props.parts.picture ? "start" : props.box.align,
          ctx,
        )
      : null;
    const links = itemsOf(ctx, way).map(({ mark, ctx: inner, props: item }) =>
      linkHtml(item, inner, {
        mark,
        colour: props.linkColour,
        underline: true,
        flush: props.parts.picture || props.box.align === "start",
      }),
    );
    const side = sideOf(props.parts.picture ? "start" : props.box.align, dir);
    const ways = links.length
      ? html`<div${wordAttrs(theme, { font: "body", size: 15, lineHeight: 20 / 15, colour: props.linkColour })}>${inLine(links)}</div>`
      : null;
    const words = oneCell(
      html` align="${side}"${dress(theme, {}, { "text-align": side })}`,
      html`${props.parts.greeting && row("greeting")}${hand}${row("name")}${props.parts.role && row("role")}${ways}`,
    );
    if (!props.parts.picture) return words;
    const size = Math.max(1, Math.min(props.size, ctx.width - GAP - 1));
    const picture: Column = {
      width: size,
      rigid: true,
      html: pictureHtml(props, ctx, {
        width: size,
        height: size,
        corner: props.corner,
        to: props.to,
      }),
    };
    const columns: Column[] = [
      picture,
      { width: GAP, rigid: true, html: html`&nbsp;` },
      { width: Math.max(1, ctx.width - size - GAP), html: words },
    ];
    return fixedColumns(columns, "top", dir);
  },
  text(props, ctx) {
    const { parts } = props;
    const lines = [
      parts.greeting && !isBlank(props.greeting) ? lineMarkup(props.greeting, "text") : null,
      lineMarkup(props.name, "text"),
      parts.role && !isBlank(props.role) ? lineMarkup(props.role, "text") : null,
      ...itemsOf(ctx, way).map(({ ctx: inner, props: item }) => linkText(item, inner)),
      parts.picture ? pictureText(props, ctx, props.to) : null,
    ];
    return join(
      lines.filter((one) => one !== null && one.segments.length > 0),
      "\n",
    );
  },
  checks: (props) => [
    ...(props.parts.picture ? pictureFindings(props, props.to) : []),
    ...(props.parts.signature && props.signature.picture === null
      ? [
          {
            check: "no-picture",
            severity: "stop" as const,
            message: "The signature is missing",
            in: ["signature", "picture"],
            detail: "Choose an image of it, or leave it out.",
          },
        ]
      : []),
  ],
};
