/** A small drawing of an email from its document: bands and blocks by their kinds, in its colours. */
import { blockKind } from "#core/blocks/index.ts";
import { CARD, type DocNode, type EmailDocument } from "#core/document/index.ts";
import type { BlockGroup } from "#core/kinds/kind.ts";
import { type Colour, resolveColour, type Theme } from "#core/theme/theme.ts";

export interface Stroke {
  readonly kind: "words" | "title" | "picture" | "button" | "gap";
  readonly colour: string;
}
export interface MiniBand {
  readonly ground: string;
  readonly columns: readonly (readonly Stroke[])[];
}

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

function Mark({ kind, colour }: Stroke) {
  if (kind === "picture") {
    return (
      <div
        className="h-9 w-full"
        style={{ background: "linear-gradient(#dfe9de 45%, #9db89b 46% 70%, #5f8465 71%)" }}
      />
    );
  }
  if (kind === "button")
    return <div className="h-3 w-2/5 rounded-sm" style={{ background: colour }} />;
  if (kind === "title") {
    return <div className="h-1.5 w-3/5 rounded-sm opacity-80" style={{ background: colour }} />;
  }
  if (kind === "words") {
    return (
      <div className="flex w-full flex-col gap-1 opacity-25">
        <div className="h-1 w-full rounded-sm" style={{ background: colour }} />
        <div className="h-1 w-4/5 rounded-sm" style={{ background: colour }} />
      </div>
    );
  }
  return <div className="h-px w-full bg-[#0000001f]" />;
}

export function Miniature({ bands }: { bands: readonly MiniBand[] }) {
  return (
    <div aria-hidden className="h-[132px] overflow-hidden rounded-t-md bg-bench px-12 pt-3.5">
      <div className="border border-line bg-[#ffffff]">
        {bands.map((band, i) => (
          <div key={i} className="flex gap-2 px-2.5 py-1.5" style={{ background: band.ground }}>
            {band.columns.map((column, j) => (
              <div key={j} className="flex flex-1 flex-col gap-1.5">
                {column.map((one, k) => (
                  <Mark key={k} {...one} />
                ))}
              </div>
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}
