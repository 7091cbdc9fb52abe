/** One block, as the table row it is in its column, and as plain text. Kept per node: nodes never change. */
import { blockKind } from "../blocks/index.ts";
import type { DocNode } from "../document/index.ts";
import type { Align, BlockProps } from "../kinds/common.ts";
import type { BlockContext, Surroundings } from "../kinds/kind.ts";
import { attrs, css, html, Markup, slot } from "../text/index.ts";
import { resolveColour, type Theme } from "../theme/theme.ts";

/** What all blocks of one email share. Kept as one object per root, so that caches can compare it. */
export interface EmailContext {
  readonly theme: Theme;
  readonly lang: string;
  readonly width: number;
  readonly surroundings: Surroundings;
}

const ALIGN: Record<Align, "left" | "center" | "right"> = {
  start: "left",
  center: "center",
  end: "right",
};

/** The mark that names a node on the sheet. */
export const mark = (node: DocNode): Markup => slot({ slot: "mark", node: node.id, text: null });

/** Classes of the small style element; see narrow.ts. */
export function showClass(show: BlockProps["show"], kind: "row" | "table"): string | null {
  if (show === "wide") return "nw";
  if (show === "narrow") return kind === "row" ? "nr" : "nt";
  return null;
}

interface Made {
  context: EmailContext;
  width: number;
  html: Markup;
  text: Markup;
}
const made = new WeakMap<DocNode, Made>();

/** Renders a block for a column of the given width (px), or takes what was made before. */
export function renderBlock(node: DocNode, width: number, context: EmailContext): Made {
  const before = made.get(node);
  if (before && before.context === context && before.width === width) return before;
  const kind = blockKind(node.type);
  if (!kind) return { context, width, html: Markup.empty, text: Markup.empty };
  const props = node.props as unknown as BlockProps;
  const { padding, background, align, alignNarrow } = props.box;
  const inner: BlockContext = {
    ...context.surroundings,
    node: node.id,
    theme: context.theme,
    lang: context.lang,
    width: Math.max(1, width - padding.left - padding.right),
    text: (path) => slot({ slot: "mark", node: node.id, text: path }),
  };
  const ground = background && resolveColour(background, context.theme);
  const classes = [
    padding.left + padding.right >= 40 ? "sp" : null,
    alignNarrow ? `a${ALIGN[alignNarrow][0]}` : null,
  ].filter(Boolean);
  const rowClass = showClass(props.show, "row");
  const row = attrs({
    class: rowClass,
    style: props.show === "narrow" ? "display:none" : null,
  });
  const cell = attrs({
    class: classes.length ? classes.join(" ") : null,
    align: ALIGN[align],
    bgcolor: ground,
    style: css({
      padding: `${padding.top}px ${padding.right}px ${padding.bottom}px ${padding.left}px`,
      "background-color": ground,
      "text-align": ALIGN[align],
    }),
  });
  const result: Made = {
    context,
    width,
    html: html`<tr${mark(node)}${row}><td${cell}>${kind.html(props, inner)}</td></tr>\n`,
    text: props.show === "narrow" ? Markup.empty : kind.text(props, inner),
  };
  made.set(node, result);
  return result;
}
