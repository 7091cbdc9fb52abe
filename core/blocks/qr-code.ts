import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import { html, lineMarkup, plain } from "../markup/index.ts";
import { isBlank, isWebAddress, line, lineSchema, plainLine, wordsOf } from "../text/index.ts";
import { colourSchema, contrast, resolveColour, STANDARD_THEME } from "../theme/theme.ts";
import { linkedWords } from "./link-item.ts";
import { imgTag, linked, made, placed } from "./picture.ts";
import { wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  /** What the code says: an address, or any words; tags make it each reader's own. */
  content: lineSchema.refine(
    (text) => plainLine(text, () => "x").length <= LIMITS.qrLength,
    `A code holds at most ${LIMITS.qrLength} characters.`,
  ),
  alt: lineSchema,
  caption: lineSchema,
  parts: z.strictObject({ caption: z.boolean(), address: z.boolean() }),
  /** px */
  size: z.number().int().min(80).max(300),
  ink: colourSchema,
  ground: colourSchema,
});
type QrCode = z.infer<typeof schema>;

const NOWHERE = { kind: "none" } as const;

/** Below this contrast many cameras do not find the code. */
const READABLE = 3;

export const qrCode: BlockKind<QrCode> = {
  type: "qrCode",
  label: "QR code",
  group: "actions",
  icon: "qr-code",
  schema,
  create: () => ({
    ...standing(pad(16, 28), "center"),
    content: line("https://example.org/"),
    alt: line("QR code: point your camera at it to open the page"),
    caption: line("Show this at the gate"),
    parts: { caption: true, address: false },
    size: 160,
    ink: "#000000",
    ground: "#ffffff",
  }),
  examples: [["content"], ["caption"]],
  texts: [
    { path: ["content"], kind: "line", label: "What it says" },
    { path: ["alt"], kind: "line", label: "Alt text" },
    { path: ["caption"], kind: "line", label: "Caption" },
  ],
  content: [
    {
      control: "line",
      path: ["content"],
      label: "What it says",
      hint: "An address, or a number or word that is read at a till.",
    },
    { control: "line", path: ["alt"], label: "Alt text" },
    { control: "line", path: ["caption"], label: "Caption" },
    { control: "switch", path: ["parts", "caption"], label: "With the caption" },
    { control: "switch", path: ["parts", "address"], label: "With what it says, to be read" },
  ],
  style: [
    { control: "number", path: ["size"], label: "Size", min: 80, max: 300, unit: "px" },
    { control: "colour", path: ["ink"], label: "Code" },
    { control: "colour", path: ["ground"], label: "Background" },
  ],
  html(props, ctx) {
    const { theme } = ctx;
    const width = Math.min(props.size, ctx.width);
    const settings = {
      ink: resolveColour(props.ink, theme),
      ground: resolveColour(props.ground, theme),
    };
    const img = imgTag(ctx, {
      src: made({ kind: "qr", words: props.content, settings }),
      alt: lineMarkup(props.alt, "attribute"),
      width,
      height: width,
    });
    const words = wordAttrs(theme, {
      font: "body",
      size: 14,
      lineHeight: 1.45,
      colour: "quiet",
      more: { margin: "6px 0 0 0" },
    });
    const caption =
      props.parts.caption && !isBlank(props.caption)
        ? html`<p${ctx.text("caption")}${words}>${lineMarkup(props.caption, "html")}</p>`
        : null;
    // Whoever reads on the telephone that would scan it follows it instead.
    const opens = isWebAddress(props.content);
    const to = opens ? ({ kind: "web", address: props.content } as const) : NOWHERE;
    const look = { name: wordsOf(props.content), colour: "quiet" } as const;
    const content = linkedWords(lineMarkup(props.content, "html"), to, ctx, look);
    const said = html`<p${ctx.text("content")}${words}>${content}</p>`;
    const code = linked(img, to, ctx, wordsOf(props.alt) || wordsOf(props.caption));
    return html`${placed(code, width, props.box.align, ctx)}${caption}${props.parts.address && said}`;
  },
  text(props) {
    const caption =
      props.parts.caption && !isBlank(props.caption)
        ? plain`${lineMarkup(props.caption, "text")}: `
        : null;
    return plain`${caption}${lineMarkup(props.content, "text")}`;
  },
  checks(props) {
    const findings = [];
    if (isBlank(props.content)) {
      const message = "A QR code says nothing";
      findings.push({
        check: "empty-code",
        severity: "look" as const,
        message,
        detail: "Write the address it opens.",
      });
    }
    const [ink, ground] = [props.ink, props.ground].map((c) => resolveColour(c, STANDARD_THEME));
    const fixed = props.ink.startsWith("#") && props.ground.startsWith("#");
    if (fixed && contrast(ink!, ground!) < READABLE) {
      const message = "A QR code is too pale for cameras";
      findings.push({
        check: "code-contrast",
        severity: "look" as const,
        message,
        detail: "Make the code darker or its ground lighter.",
      });
    }
    return findings;
  },
};
