import { z } from "zod";
import { blockShape, pad, sideOf, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import { createItem } from "../kinds/item.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { addressText, hrefMarkup, html, join, lineMarkup, plain } from "../markup/index.ts";
import { isBlank, line, lineSchema, linkSchema, wordsOf } from "../text/index.ts";
import { colourSchema } from "../theme/theme.ts";
import { oneCell, stackingColumns } from "./columns.ts";
import { flowRow } from "./flow.ts";
import { itemsOf, type LinkItem, linkHtml, linkKind, linkText, webLink } from "./link-item.ts";
import {
  backingControl,
  NO_VERSIONS,
  newPicture,
  pictureControls,
  pictureFindings,
  pictureHtml,
  pictureOf,
  pictureShape,
  placed,
  versionControls,
  versionsShape,
} from "./picture.ts";
import { PLAIN_TYPE, typeSchema, wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  ...pictureShape,
  ...versionsShape,
  /** Stands where there is no logo. */
  name: lineSchema,
  to: linkSchema,
  webVersion: lineSchema,
  /** The issue, or the date. */
  issue: lineSchema,
  parts: z.strictObject({
    logo: z.boolean(),
    issue: z.boolean(),
    links: z.boolean(),
    webVersion: z.boolean(),
  }),
  layout: z.enum(["middle", "sides"]),
  /** Of the logo, px. */
  size: z.number().int().min(40).max(400),
  colour: colourSchema,
  type: typeSchema,
});
type Masthead = z.infer<typeof schema>;

const link = linkKind("masthead.link", { label: "Link", plural: "Links", least: 0, most: 6 });

export const masthead: BlockKind<Masthead> = {
  type: "masthead",
  label: "Masthead",
  group: "layout",
  icon: "panel-top",
  schema,
  create: () => ({
    ...standing(pad(14, 28), "center"),
    ...newPicture(null, line()),
    ...NO_VERSIONS,
    name: line("Your name here"),
    to: webLink(),
    webVersion: line("Read this on the web"),
    issue: line("Issue 1"),
    parts: { logo: false, issue: false, links: false, webVersion: false },
    layout: "middle",
    size: 160,
    colour: "onMasthead",
    type: PLAIN_TYPE,
  }),
  partOf: { ...pictureOf("logo"), dark: "logo", narrow: "logo", size: "logo" },
  holds: [link],
  showsItems: ({ parts }) => parts.links,
  start: (newId) =>
    ["Visit", "What is on"].map((label) =>
      createItem(link, newId, { label: line(label), to: webLink() }),
    ),
  examples: [["name"], ["issue"]],
  texts: [
    { path: ["name"], kind: "line", label: "Name" },
    { path: ["issue"], kind: "line", label: "Issue or date" },
    { path: ["webVersion"], kind: "line", label: "Web version" },
    { path: ["alt"], kind: "line", label: "Alt text" },
  ],
  content: [
    { control: "line", path: ["name"], label: "Name" },
    { control: "link", path: ["to"], label: "Link to" },
    { control: "switch", path: ["parts", "logo"], label: "A logo instead of the name" },
    ...pictureControls,
    ...versionControls,
    { control: "line", path: ["issue"], label: "Issue or date" },
    { control: "switch", path: ["parts", "issue"], label: "With the issue or date" },
    { control: "switch", path: ["parts", "links"], label: "With links" },
    { control: "switch", path: ["parts", "webVersion"], label: "With the web version" },
    { control: "line", path: ["webVersion"], label: "Text of the web version link" },
  ],
  style: [
    {
      control: "choice",
      path: ["layout"],
      label: "Layout",
      options: [
        { value: "middle", label: "One under another" },
        { value: "sides", label: "Links at the side" },
      ],
    },
    { control: "number", path: ["size"], label: "Logo", min: 40, max: 400, unit: "px" },
    { control: "colour", path: ["colour"], label: "Text colour" },
    backingControl,
    { control: "type", path: ["type"], label: "Type" },
  ],
  html(props, ctx) {
    const { theme, dir } = ctx;
    const sides = props.layout === "sides";
    const align = sides ? "start" : props.box.align;
    const withLogo = props.parts.logo && props.picture;
    const room = sides ? Math.floor(ctx.width / 2) : ctx.width;
    const size = Math.max(1, Math.min(props.size, room));
    const logo = withLogo
      ? placed(
          pictureHtml(props, ctx, { width: size, to: props.to, versions: props }),
          size,
          align,
          ctx,
        )
      : null;
    const nameLook = wordAttrs(
      theme,
      { font: "heading", size: 20, lineHeight: 1.3, colour: props.colour, bold: true },
      { ...props.type, spacing: props.type.spacing || 10 },
    );
    const href = hrefMarkup(props.to, ctx.node, wordsOf(props.name));
    const words = html`<span${ctx.text("name")}${dress(theme, { ink: props.colour })}>${lineMarkup(props.name, "html")}</span>`;
    const anchor = dress(
      theme,
      { ink: props.colour },
      { display: "inline-block", padding: "9px 0", "text-decoration": "none" },
    );
    const name = logo
      ? null
      : html`<div${nameLook}>${href ? html`<a${href}${anchor}>${words}</a>` : words}</div>`;

    const small = wordAttrs(theme, {
      font: "body",
      size: 14,
      lineHeight: 20 / 14,
      colour: props.colour,
    });
    const quiet = { font: "body", size: 14, lineHeight: 1.45, colour: "quiet" } as const;
    const issue =
      props.parts.issue && !isBlank(props.issue)
        ? html`<div${ctx.text("issue")}${wordAttrs(theme, quiet)}>${lineMarkup(props.issue, "html")}</div>`
        : null;
    const look = { colour: props.colour, underline: false };
    const links = props.parts.links
      ? itemsOf(ctx, link).map(({ mark, ctx: inner, props: item }) =>
          linkHtml(item, inner, { ...look, mark }),
        )
      : [];
    if (props.parts.webVersion) {
      const item: LinkItem = { label: props.webVersion, to: { kind: "webVersion" } };
      links.push(
        linkHtml(item, ctx, { ...look, underline: true, mark: html``, path: "webVersion" }),
      );
    }
    const row = links.length
      ? html`<div${small}>${flowRow(links, { gap: 8, align: sides ? "end" : align, dir })}</div>`
      : null;
    if (!sides || !row) return html`${logo}${name}${issue}${row}`;
    const cell = (inner: typeof row, side: string) =>
      oneCell(html` align="${side}" class="ac" style="text-align:${side}"`, inner);
    const first = Math.floor(ctx.width / 2);
    return stackingColumns(
      [
        { width: first, html: cell(html`${logo}${name}${issue}`, sideOf("start", dir)) },
        { width: ctx.width - first, html: cell(row, sideOf("end", dir)) },
      ],
      { valign: "middle", dir },
    );
  },
  text(props, ctx) {
    const words = props.parts.logo && !isBlank(props.alt) ? props.alt : props.name;
    const lines = [
      plain`${lineMarkup(words, "text")}${addressText(props.to, ctx.node, wordsOf(words), ": ")}`,
    ];
    if (props.parts.issue && !isBlank(props.issue)) lines.push(lineMarkup(props.issue, "text"));
    if (props.parts.links) {
      for (const { ctx: inner, props: item } of itemsOf(ctx, link))
        lines.push(linkText(item, inner));
    }
    if (props.parts.webVersion) {
      lines.push(linkText({ label: props.webVersion, to: { kind: "webVersion" } }, ctx));
    }
    return join(lines, "\n");
  },
  checks: (props) => (props.parts.logo ? pictureFindings(props) : []),
};
