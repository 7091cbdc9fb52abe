/**
 * Which words stand in which colour on which ground, read off a compiled email: the truth of what is sent,
 * for every block there is or will be.
 */

import { roleClass } from "../kinds/dress.ts";
import type { Segment } from "../markup/index.ts";
import { COLOUR_ROLES, type ColourRole, HEX } from "../theme/theme.ts";

export interface Pair {
  /** The node the words belong to. */
  readonly node: string;
  readonly words: string;
  /** Six-digit hex where programs show light. */
  readonly ink: string;
  readonly ground: string;
  /** The roles they come from, or null for fixed colours. */
  readonly inkRole: ColourRole | null;
  readonly groundRole: ColourRole | null;
  /** px */
  readonly size: number;
  readonly bold: boolean;
  /** A picture lies behind the words, or a colour of one's own HTML has a name: nobody can tell their contrast. */
  readonly unsure: boolean;
}

interface Frame extends Omit<Pair, "words"> {
  readonly tag: string;
}
const ROLES = Object.keys(COLOUR_ROLES) as ColourRole[];
const STYLES = {
  ink: /[";]color:([^;"]+)/,
  ground: /[";]background-color:([^;"]+)/,
  size: /[";]font-size:([\d.]+)px/,
  weight: /[";]font-weight:([^;"]+)/,
};
const VOID = new Set(["img", "br", "meta", "hr", "col", "input"]);
const START: Frame = {
  tag: "",
  node: "",
  ink: "#000000",
  ground: "#ffffff",
  inkRole: null,
  groundRole: null,
  size: 16,
  bold: false,
  unsure: false,
};

const styleOf = (attributes: string, name: keyof typeof STYLES) =>
  STYLES[name].exec(attributes)?.[1];
const roleOf = (attributes: string, letter: "i" | "g"): ColourRole | null => {
  const classes = / class="([^"]*)"/.exec(attributes)?.[1]?.split(" ") ?? [];
  return ROLES.find((role) => classes.includes(roleClass(letter, role))) ?? null;
};

/** What an element does to the colours of what stands in it. */
function inside(above: Frame, tag: string, attributes: string): Frame {
  const ink = styleOf(attributes, "ink");
  const ground = styleOf(attributes, "ground");
  const weight = styleOf(attributes, "weight");
  const covered = ground ? !HEX.test(ground) : above.unsure;
  return {
    tag,
    node: / data-node="([^"]*)"/.exec(attributes)?.[1] ?? above.node,
    ink: ink ?? above.ink,
    inkRole: ink ? roleOf(attributes, "i") : above.inkRole,
    ground: ground ?? above.ground,
    groundRole: ground ? roleOf(attributes, "g") : above.groundRole,
    // The preview text is shown nowhere in the email.
    size: attributes.includes(' class="ph"')
      ? 0
      : Number(styleOf(attributes, "size") ?? above.size),
    bold: weight ? Number(weight) >= 600 : above.bold || tag === "strong",
    unsure: attributes.includes("background-image") || covered,
  };
}

const known = new WeakMap<readonly Segment[], readonly Pair[]>();

/** The pairs of a compiled email's HTML, each once per node. */
export function colourPairs(html: readonly Segment[]): readonly Pair[] {
  const pairs = known.get(html) ?? pairsIn(html);
  known.set(html, pairs);
  return pairs;
}

function pairsIn(html: readonly Segment[]): Pair[] {
  const text = html
    .map((segment) => {
      if (typeof segment === "string") return segment;
      if (segment.slot === "mark") return segment.text ? "" : ` data-node="${segment.node}"`;
      return segment.slot === "tag" && segment.as.context === "html" ? "…" : "";
    })
    .join("");
  const body = text.slice(text.indexOf("<body")).replace(/<!--[\s\S]*?-->/g, "");
  const stack: Frame[] = [START];
  const found = new Map<string, Pair>();
  const note = ({ tag: _tag, ...rest }: Frame, words: string) => {
    if (rest.size === 0) return;
    const pair = { ...rest, unsure: rest.unsure || !HEX.test(rest.ink) };
    const key = JSON.stringify(pair);
    if (!found.has(key)) found.set(key, { ...pair, words: words.slice(0, 40) });
  };
  let at = 0;
  for (const match of body.matchAll(/<(\/?)([a-z0-9]+)((?:\s[^>]*)?)>/g)) {
    const words = body
      .slice(at, match.index)
      .replace(/&[a-z#0-9]+;/g, " ")
      .trim();
    at = match.index + match[0].length;
    const top = stack.at(-1)!;
    if (words) note(top, words);
    const [, close, tag, attributes] = match as unknown as [string, string, string, string];
    // Where pictures are off, their alt texts are words.
    const alt = tag === "img" && / alt="([^"]+)"/.exec(attributes)?.[1];
    if (alt) note(inside(top, tag, attributes), alt);
    if (close) {
      const opened = stack.findLastIndex((frame) => frame.tag === tag);
      if (opened > 0) stack.length = opened;
    } else if (!VOID.has(tag)) stack.push(inside(top, tag, attributes));
  }
  return [...found.values()];
}

/** An image as it stands in an email. */
export interface ShownImage {
  readonly node: string;
  /** Its address, or the id of the picture the server makes it from. */
  readonly src: string;
  /** px on the wide sheet. */
  readonly width: number;
}

/** The images of a compiled email's HTML, in their order. */
export function imagesOf(html: readonly Segment[]): ShownImage[] {
  const text = html
    .map((segment) => {
      if (typeof segment === "string") return segment;
      if (segment.slot === "mark") return segment.text ? "" : ` data-node="${segment.node}"`;
      return segment.slot === "made" ? String(segment.recipe.settings.picture ?? "") : "";
    })
    .join("");
  let node = "";
  return [...text.matchAll(/ data-node="([^"]*)"|<img src="([^"]*)" width="(\d+)"/g)].flatMap(
    ([, mark, src, width]) => {
      if (mark !== undefined) node = mark;
      return src ? [{ node, src, width: Number(width) }] : [];
    },
  );
}
