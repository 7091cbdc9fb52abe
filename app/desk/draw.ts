/** What a small drawing of an email shows, from its document; for loaders, so that no page has to load the blocks. */
import { blockKind } from "#core/blocks/index.ts";
import { CARD, type DocNode, type EmailDocument } from "#core/document/index.ts";
import type { BlockGroup } from "#core/kinds/kind.ts";
import { type Colour, resolveColour, type Theme } from "#core/theme/theme.ts";
import type { MiniBand, Stroke } from "./miniature.tsx";

/** How the blocks of a group are drawn; a new block is drawn like its neighbours in the tray. */
const GROUPS: Record<BlockGroup, Stroke["kind"]> = {
  words: "words",
  pictures: "picture",
  actions: "button",
  layout: "gap",
  own: "words",
};
/** Those that look otherwise. */
const KINDS: Record<string, Stroke["kind"]> = {
  heading: "title",
  masthead: "title",
  footer: "words",
};

function stroke(block: DocNode, theme: Theme): Stroke {
  const group = blockKind(block.type)?.group;
  const kind = KINDS[block.type] ?? (group ? GROUPS[group] : "gap");
  const colour = (block.props.fill ?? block.props.colour ?? "ink") as Colour;
  return { kind, colour: resolveColour(colour, theme) };
}

/** What the drawing needs, small enough to send for a page of emails. */
export function miniature(doc: EmailDocument, bands = 6): MiniBand[] {
  const theme = doc.root.props.theme as unknown as Theme;
  return doc.root.children.slice(0, bands).map((band) => ({
    ground: resolveColour((band.props.background as Colour | null) ?? "sheet", theme),
    columns: band.children.map((column) =>
      column.children
        .flatMap((block) => (block.type === CARD ? block.children : [block]))
        .slice(0, 6)
        .map((block) => stroke(block, theme)),
    ),
  }));
}
