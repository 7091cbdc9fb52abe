import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import type { BlockContext, BlockKind, Finding } from "../kinds/kind.ts";
import { addressText, html, type Markup, onSheetOnly, plain } from "../markup/index.ts";
import { languageOf, phrases } from "../phrases/index.ts";
import { isBlank, line, lineSchema, linkSchema } from "../text/index.ts";
import { colourSchema, isRole, resolveColour, type Theme } from "../theme/theme.ts";
import { imgTag, linked, made, placed } from "./picture.ts";
import { wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  /** The moment it counts to (UTC), and the zone it is told in (IANA). */
  until: z.iso.datetime().nullable(),
  zone: z.string().regex(/^[A-Za-z][A-Za-z0-9_+/-]{1,60}$/),
  /** What stands there afterwards. */
  after: lineSchema,
  to: linkSchema,
  /** px */
  size: z.number().int().min(160).max(600),
  ink: colourSchema,
  ground: colourSchema,
});
type Countdown = z.infer<typeof schema>;

/** Height over width. */
export const COUNTDOWN_SHAPE = 0.28;

/** When it ends, as the reader's language writes it, with its zone; null where nobody has said. */
function endOf({ until, zone }: Countdown, lang: string): string | null {
  if (until === null) return null;
  const write = (timeZone: string) =>
    new Date(until).toLocaleString(lang, { dateStyle: "long", timeStyle: "short", timeZone });
  let when: string;
  try {
    when = `${write(zone)} (${zone.replaceAll("_", " ")})`;
  } catch {
    // A zone that this platform does not know.
    when = `${write("UTC")} (UTC)`;
  }
  return phrases(languageOf(lang)).endsAt(when);
}

function pictureOf(props: Countdown, ctx: BlockContext, end: string): Markup {
  const { theme, lang } = ctx;
  const width = Math.min(props.size, ctx.width);
  const height = Math.max(1, Math.round(width * COUNTDOWN_SHAPE));
  const drawn = (colours: Pick<Theme, "colours">) =>
    made({
      kind: "countdown",
      words: props.after,
      settings: {
        until: props.until!,
        lang: languageOf(lang),
        ink: resolveColour(props.ink, colours),
        ground: resolveColour(props.ground, colours),
      },
    });
  const img = (src: Markup, scheme?: "light" | "dark") =>
    imgTag(ctx, { src, alt: html`${end}`, width, height }, { scheme });
  // Numbers in colours of the theme have others where programs are dark.
  const twice = (isRole(props.ink) || isRole(props.ground)) && theme.dark;
  const both = twice
    ? html`${img(drawn(theme), "light")}${img(drawn({ colours: twice }), "dark")}`
    : img(drawn(theme));
  return placed(linked(both, props.to, ctx, end), width, props.box.align, ctx);
}

/** The time that is left: a picture that is made whenever it is fetched. */
export const countdown: BlockKind<Countdown> = {
  type: "countdown",
  label: "Countdown",
  group: "actions",
  icon: "timer",
  schema,
  create: () => ({
    ...standing(pad(16, 28), "center"),
    until: null,
    zone: "UTC",
    after: line("It has ended"),
    to: { kind: "none" },
    size: 320,
    ink: "accent",
    ground: "tint",
  }),
  examples: [["after"]],
  texts: [{ path: ["after"], kind: "line", label: "Afterwards" }],
  content: [
    { control: "moment", path: ["until"], zone: ["zone"], label: "Counts to" },
    {
      control: "line",
      path: ["after"],
      label: "Afterwards",
      hint: "What the image says once the time is over.",
    },
    { control: "link", path: ["to"], label: "Link to" },
  ],
  style: [
    { control: "number", path: ["size"], label: "Width", min: 160, max: 600, unit: "px" },
    { control: "colour", path: ["ink"], label: "Numbers" },
    { control: "colour", path: ["ground"], label: "Behind them" },
  ],
  html(props, ctx) {
    const end = endOf(props, ctx.lang);
    if (end) return pictureOf(props, ctx, end);
    const look = wordAttrs(ctx.theme, { font: "body", size: 14, lineHeight: 1.5, colour: "quiet" });
    return onSheetOnly(html`<div${look}>Say what it counts to.</div>`);
  },
  ends: ({ until }) => until,
  text(props, ctx) {
    const end = endOf(props, ctx.lang);
    return end ? plain`${end}${addressText(props.to, ctx.node, end, ": ")}` : plain``;
  },
  checks(props) {
    const findings: Omit<Finding, "at">[] = [];
    if (props.until === null) {
      findings.push({
        check: "countdown",
        severity: "stop",
        message: "A countdown has no end",
        detail: "Say what it counts to, or take it out.",
        in: ["until"],
      });
    }
    if (isBlank(props.after)) {
      findings.push({
        check: "countdown",
        severity: "look",
        message: "A countdown says nothing afterwards",
        detail: "Emails are read late: write what stands there then.",
        in: ["after"],
      });
    }
    return findings;
  },
};
