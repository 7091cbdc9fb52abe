/** Words with Liquid's marks, written by hand, as markup. */
import { under } from "../json.ts";
import { LANDINGS, OWN_ADDRESSES, parseLiquid } from "../text/index.ts";
import { type Hole, html, type Markup, plain, slot } from "./markup.ts";

// biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is looked for
const CONTROLS = /[\u0000-\u0009\u000b-\u001f\u007f]/g;

/** A Liquid text as markup, safe for where it lands; `node` is the block it belongs to. */
export function liquidMarkup(source: string, as: "html" | "text", node: string): Markup {
  const { pieces } = parseLiquid(source);
  const holes: Hole[] = pieces.map((piece) => {
    if (typeof piece === "string") return piece.replace(CONTROLS, "");
    const to = under(OWN_ADDRESSES, piece.ref);
    return to
      ? slot({ slot: "address", node, to, words: "", lead: "" })
      : slot({ slot: "tag", tag: piece, as: LANDINGS[as] });
  });
  return as === "html" ? html`${holes}` : plain`${holes}`;
}
