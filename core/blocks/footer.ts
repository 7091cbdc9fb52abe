import { z } from "zod";
import { blockShape, box, pad } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import {
  css,
  doc,
  docMarkup,
  docSchema,
  docText,
  hrefMarkup,
  html,
  join,
  type Line,
  type Link,
  line,
  lineMarkup,
  lineSchema,
  type Markup,
  plain,
  slot,
  wordsOf,
} from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { wordStyle } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  why: docSchema,
  address: z.boolean(),
  webVersion: z.boolean(),
  webVersionLabel: lineSchema,
  unsubscribe: z.boolean(),
  unsubscribeLabel: lineSchema,
  colour: colourSchema,
});
type Footer = z.infer<typeof schema>;

export const footer: BlockKind<Footer> = {
  type: "footer",
  label: "Footer",
  group: "layout",
  icon: "panel-bottom",
  schema,
  create: () => ({
    box: box(pad(24, 28), "center"),
    show: "both",
    why: doc("You get this email because you asked for our news."),
    address: true,
    webVersion: true,
    webVersionLabel: line("Read this on the web"),
    unsubscribe: true,
    unsubscribeLabel: line("Unsubscribe"),
    colour: "quiet",
  }),
  texts: [
    { path: ["why"], kind: "doc", label: "Why they get it" },
    { path: ["webVersionLabel"], kind: "line", label: "Web version" },
    { path: ["unsubscribeLabel"], kind: "line", label: "Unsubscribe" },
  ],
  content: [
    { control: "onSheet", label: "Write on the sheet why people get this." },
    { control: "switch", path: ["address"], label: "Postal address (from the settings)" },
    { control: "switch", path: ["webVersion"], label: "Link to the web version" },
    { control: "line", path: ["webVersionLabel"], label: "Its words" },
    { control: "switch", path: ["unsubscribe"], label: "Unsubscribe link" },
    { control: "line", path: ["unsubscribeLabel"], label: "Its words" },
  ],
  style: [{ control: "colour", path: ["colour"], label: "Colour of the words" }],
  html(props, ctx) {
    const colour = resolveColour(props.colour, ctx.theme);
    const style = wordStyle(ctx.theme, {
      font: ctx.theme.fonts.body,
      size: 14,
      lineHeight: 1.5,
      colour: props.colour,
    });
    const why = docMarkup(props.why, { node: ctx.node, linkColour: colour, paragraphGap: 8 });
    const address = props.address
      ? html`<div style="${style};padding:8px 0 0 0">${addressLines(ctx.brand.postalAddress, html`<br>`)}</div>`
      : null;
    const links = footerLinks(props).map(
      ({ to, label }) =>
        html`<a${hrefMarkup(to, ctx.node, wordsOf(label))} style="${css({ color: colour, display: "inline-block", padding: "12px 8px", "text-decoration": "underline" })}"><span style="color:${colour}">${lineMarkup(label, "html")}</span></a>`,
    );
    const row = links.length ? html`<div style="${style}">${join(links, " ")}</div>` : null;
    return html`<div${ctx.text("why")} style="${style}">${why}</div>${address}${row}`;
  },
  text(props, ctx) {
    const links = footerLinks(props).map(
      ({ to, label }) =>
        plain`${lineMarkup(label, "text")}: ${slot({ slot: "link", node: ctx.node, to, words: wordsOf(label), as: "text" })}`,
    );
    const address = props.address ? addressLines(ctx.brand.postalAddress, plain`\n`) : null;
    return join([docText(props.why, ctx.node), address, join(links, "\n")], "\n\n");
  },
};

function footerLinks(props: Footer): { to: Link; label: Line }[] {
  const links: { to: Link; label: Line }[] = [];
  if (props.webVersion) links.push({ to: { kind: "webVersion" }, label: props.webVersionLabel });
  if (props.unsubscribe) links.push({ to: { kind: "unsubscribe" }, label: props.unsubscribeLabel });
  return links;
}

function addressLines(address: string, between: Markup): Markup {
  const write = between.segments[0] === "<br>" ? html : plain;
  return write`${address
    .split("\n")
    .filter((l) => l.trim())
    .map((l, i) => (i ? [between, l.trim()] : l.trim()))}`;
}
