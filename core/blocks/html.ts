import { z } from "zod";
import { cleaner } from "#html-cleaner";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import { html, Markup } from "../markup/index.ts";
import { parseLiquid } from "../text/index.ts";
import { narrowClasses, PLAIN_TYPE, typeCss, typeSchema } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  source: z.string().max(LIMITS.htmlSource, "This HTML is too long."),
  type: typeSchema,
});
type OwnHtml = z.infer<typeof schema>;

const START = `<p style="margin:0">Your own HTML, for {{ contact.first_name | default: "everybody" }}.</p>`;

/** What is left of the narrowest window beside the padding of a block, px. */
const NARROWEST = 320;

export const ownHtml: BlockKind<OwnHtml> = {
  type: "html",
  label: "HTML",
  group: "own",
  icon: "code",
  late: cleaner,
  schema,
  create: () => ({ ...standing(pad(12, 28)), source: START, type: PLAIN_TYPE }),
  texts: [],
  content: [{ control: "code", path: ["source"], label: "HTML" }],
  style: [{ control: "type", path: ["type"], label: "Type" }],
  html(props, ctx) {
    // What stands in it may be a picture: no line is of an exact height.
    const own = { font: "body", size: ctx.theme.type.body, lineHeight: 1.5 } as const;
    const words = dress(ctx.theme, { ink: "ink" }, typeCss(ctx.theme, own, props.type), {
      classes: ["pc", ...narrowClasses(own, props.type)],
    });
    const cleaned = cleaner.now()?.cleanHtml(props.source, ctx.node);
    return html`<div${words}>${cleaned?.markup ?? Markup.empty}</div>`;
  },
  text: (props, ctx) => cleaner.now()?.htmlText(props.source, ctx.node) ?? Markup.empty,
  checks(props, node) {
    const { removed = [], widest = 0 } = cleaner.now()?.cleanHtml(props.source, node.id) ?? {};
    const { problems } = parseLiquid(props.source);
    const findings = [];
    if (removed.length > 0) {
      findings.push({
        check: "html-removed",
        severity: "look" as const,
        message: "Something was taken out of an HTML block",
        detail: `Mail programs would not run or show it: ${removed.join(", ")}.`,
      });
    }
    if (widest > NARROWEST) {
      findings.push({
        check: "html-width",
        severity: "look" as const,
        message: `Something in an HTML block is ${widest} px wide`,
        detail: `A telephone shows ${NARROWEST} px: a width in per cent, or max-width, fits both.`,
        in: ["source"],
      });
    }
    if (problems.length > 0) {
      findings.push({
        check: "html-tags",
        severity: "look" as const,
        message: "An HTML block has braces that are no merge tag",
        detail: `Readers see them as they are: ${problems.slice(0, 3).join(", ")}.`,
      });
    }
    return findings;
  },
};
