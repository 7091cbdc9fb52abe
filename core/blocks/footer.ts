import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockKind } from "../kinds/kind.ts";
import {
  addressText,
  docMarkup,
  docText,
  hrefMarkup,
  html,
  join,
  lineMarkup,
  type Markup,
  plain,
} from "../markup/index.ts";
import {
  doc,
  docSchema,
  type Line,
  type Link,
  line,
  lineSchema,
  tag,
  wordsOf,
} from "../text/index.ts";
import { colourSchema } from "../theme/theme.ts";
import { inLine } from "./link-item.ts";
import { textLook, wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  why: docSchema,
  address: z.boolean(),
  /** Whom it was sent to. */
  sentTo: lineSchema,
  parts: z.strictObject({ sentTo: z.boolean() }),
  webVersion: z.boolean(),
  webVersionLabel: lineSchema,
  preferences: z.boolean(),
  preferencesLabel: lineSchema,
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
    ...standing(pad(24, 28), "center"),
    why: doc("You get this email because you asked for our news."),
    address: true,
    sentTo: line("This was sent to ", tag("contact:email"), "."),
    parts: { sentTo: false },
    webVersion: true,
    webVersionLabel: line("Read this on the web"),
    preferences: true,
    preferencesLabel: line("Choose what you get"),
    unsubscribe: true,
    unsubscribeLabel: line("Unsubscribe"),
    colour: "onFooter",
  }),
  texts: [
    { path: ["why"], kind: "doc", label: "Why they get it" },
    { path: ["sentTo"], kind: "line", label: "Sent to" },
    { path: ["webVersionLabel"], kind: "line", label: "Web version" },
    { path: ["preferencesLabel"], kind: "line", label: "Preferences" },
    { path: ["unsubscribeLabel"], kind: "line", label: "Unsubscribe" },
  ],
  content: [
    { control: "onSheet", label: "Write on the sheet why people get this." },
    { control: "switch", path: ["address"], label: "Postal address (from the settings)" },
    { control: "line", path: ["sentTo"], label: "Sent to" },
    { control: "switch", path: ["parts", "sentTo"], label: "With the address it was sent to" },
    { control: "switch", path: ["webVersion"], label: "Link to the web version" },
    { control: "line", path: ["webVersionLabel"], label: "Its text" },
    { control: "switch", path: ["preferences"], label: "Link to the preference page" },
    { control: "line", path: ["preferencesLabel"], label: "Its text" },
    { control: "switch", path: ["unsubscribe"], label: "Unsubscribe link" },
    { control: "line", path: ["unsubscribeLabel"], label: "Its text" },
  ],
  style: [{ control: "colour", path: ["colour"], label: "Text colour" }],
  leads: (props) => footerLinks(props).map(({ to }) => to.kind),
  html(props, ctx) {
    const { theme } = ctx;
    const words = (more?: Record<string, string>) =>
      wordAttrs(theme, { font: "body", size: 14, lineHeight: 1.5, colour: props.colour, more });
    const why = docMarkup(props.why, textLook(ctx, { link: props.colour, gap: 8 }));
    const address = props.address
      ? html`<p${words({ margin: "8px 0 0 0" })}>${addressLines(ctx.brand.postalAddress, html`<br>`)}</p>`
      : null;
    const sent = props.parts.sentTo
      ? html`<p${ctx.text("sentTo")}${words({ margin: "8px 0 0 0" })}>${lineMarkup(props.sentTo, "html")}</p>`
      : null;
    const anchor = dress(
      theme,
      { ink: props.colour },
      { display: "inline-block", padding: "12px 8px", "text-decoration": "underline" },
    );
    const links = footerLinks(props).map(
      ({ to, label, part }) =>
        html`<a${hrefMarkup(to, ctx.node, wordsOf(label))}${anchor}><span${ctx.text(part)}${dress(theme, { ink: props.colour })}>${lineMarkup(label, "html")}</span></a>`,
    );
    const row = links.length ? html`<div${words()}>${inLine(links)}</div>` : null;
    return html`<div${ctx.text("why")}${words()}>${why}</div>${address}${sent}${row}`;
  },
  text(props, ctx) {
    const links = footerLinks(props).map(
      ({ to, label }) =>
        plain`${lineMarkup(label, "text")}${addressText(to, ctx.node, wordsOf(label), ": ")}`,
    );
    const address = props.address ? addressLines(ctx.brand.postalAddress, plain`\n`) : null;
    const sent = props.parts.sentTo ? lineMarkup(props.sentTo, "text") : null;
    const parts = [docText(props.why, ctx.node), address, sent, join(links, "\n")];
    return join(
      parts.filter((part) => part !== null && part.segments.length > 0),
      "\n\n",
    );
  },
};

function footerLinks(props: Footer): { to: Link; label: Line; part: string }[] {
  const links: { to: Link; label: Line; part: string }[] = [];
  const { webVersionLabel, preferencesLabel, unsubscribeLabel } = props;
  if (props.webVersion) {
    links.push({ to: { kind: "webVersion" }, label: webVersionLabel, part: "webVersionLabel" });
  }
  if (props.preferences) {
    links.push({ to: { kind: "preferences" }, label: preferencesLabel, part: "preferencesLabel" });
  }
  if (props.unsubscribe) {
    links.push({ to: { kind: "unsubscribe" }, label: unsubscribeLabel, part: "unsubscribeLabel" });
  }
  return links;
}

function addressLines(address: string, between: Markup): Markup {
  const write = between.segments[0] === "<br>" ? html : plain;
  return write`${address
    .split("\n")
    .filter((l) => l.trim())
    .map((l, i) => (i ? [between, l.trim()] : l.trim()))}`;
}
