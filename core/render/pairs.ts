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
  /** The address of the picture that lies behind the words; the ground shows where it does not. */
  readonly over: string | null;
  /** A colour of one's own HTML has a name: nobody can tell their contrast. */
  readonly unsure: boolean;
}

interface Frame extends Omit<Pair, "words"> {
  readonly tag: string;
}
const ROLES = Object.keys(COLOUR_ROLES) as ColourRole[];
const STYLES = {
  ink: /[";]color:(?!inherit)([^;"]+)/,
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
  over: null,
  unsure: false,
};

const styleOf = (attributes: string, name: keyof typeof STYLES) =>
  STYLES[name].exec(attributes)?.[1];
const roleOf = (attributes: string, letter: "i" | "g"): ColourRole | null => {
  const classes = / class="([^"]*)"/.exec(attributes)?.[1]?.split(" ") ?? [];
  return ROLES.find((role) => classes.includes(roleClass(letter, role))) ?? null;
};

/** What the attributes of an element say of colours and type. */
interface Dress {
  readonly ink: { readonly ink: string; readonly inkRole: ColourRole | null } | null;
  readonly ground: { readonly ground: string; readonly groundRole: ColourRole | null } | null;
  readonly size: number | null;
  readonly bold: boolean | null;
  readonly over: string | null;
}

function dressOf(attributes: string): Dress {
  const ink = styleOf(attributes, "ink");
  const ground = styleOf(attributes, "ground");
  const size = styleOf(attributes, "size");
  const weight = styleOf(attributes, "weight");
  return {
    ink: ink ? { ink, inkRole: roleOf(attributes, "i") } : null,
    ground: ground ? { ground, groundRole: roleOf(attributes, "g") } : null,
    // The preview text is shown nowhere in the email.
    size: attributes.includes(' class="ph"') ? 0 : size ? Number(size) : null,
    bold: weight ? Number(weight) >= 600 : null,
    over: /background-image:url\('([^']*)'\)/.exec(attributes)?.[1] ?? null,
  };
}

const NODE = / data-node="([^"]*)"/;

/** What an element does to the colours of what stands in it; blocks of a kind say the same, which is read once. */
function inside(above: Frame, tag: string, attributes: string, read: Map<string, Dress>): Frame {
  if (attributes === "") return { ...above, tag, bold: above.bold || tag === "strong" };
  const mark = NODE.exec(attributes);
  const own = mark ? attributes.replace(mark[0], "") : attributes;
  let dress = read.get(own);
  if (!dress) {
    dress = dressOf(own);
    read.set(own, dress);
  }
  return {
    tag,
    node: mark?.[1] ?? above.node,
    ink: dress.ink?.ink ?? above.ink,
    inkRole: dress.ink ? dress.ink.inkRole : above.inkRole,
    ground: dress.ground?.ground ?? above.ground,
    groundRole: dress.ground ? dress.ground.groundRole : above.groundRole,
    size: dress.size ?? above.size,
    bold: dress.bold ?? (above.bold || tag === "strong"),
    over: dress.over ?? (dress.ground ? null : above.over),
    unsure: dress.ground ? !HEX.test(dress.ground.ground) : above.unsure,
  };
}

const texts = new WeakMap<readonly Segment[], string>();

/** The HTML with its nodes named, “…” for a tag, and the id of a picture where one is made of it. */
function withNodes(html: readonly Segment[]): string {
  let text = texts.get(html);
  if (text === undefined) {
    text = "";
    for (const segment of html) {
      if (typeof segment === "string") text += segment;
      else if (segment.slot === "mark") text += segment.text ? "" : ` data-node="${segment.node}"`;
      else if (segment.slot === "tag") text += segment.as.context === "html" ? "…" : "";
      else if (segment.slot === "made") text += segment.recipe.settings.picture ?? "";
    }
    texts.set(html, text);
  }
  return text;
}

const known = new WeakMap<readonly Segment[], readonly Pair[]>();

/** The pairs of a compiled email's HTML, each once per node. */
export function colourPairs(html: readonly Segment[]): readonly Pair[] {
  const pairs = known.get(html) ?? pairsIn(html);
  known.set(html, pairs);
  return pairs;
}

function pairsIn(html: readonly Segment[]): Pair[] {
  const text = withNodes(html);
  const body = text.slice(text.indexOf("<body")).replace(/<!--[\s\S]*?-->/g, "");
  const stack: Frame[] = [START];
  const found = new Map<string, Pair>();
  const read = new Map<string, Dress>();
  const note = (frame: Frame, words: string) => {
    const { node, ink, ground, inkRole, groundRole, size, bold, over } = frame;
    if (size === 0) return;
    const unsure = frame.unsure || !HEX.test(ink);
    const key = `${node} ${ink} ${ground} ${inkRole} ${groundRole} ${size} ${bold} ${over} ${unsure}`;
    if (found.has(key)) return;
    const pair = { node, ink, ground, inkRole, groundRole, size, bold, over, unsure };
    found.set(key, { ...pair, words: words.slice(0, 40) });
  };
  let at = 0;
  for (const match of body.matchAll(/<(\/?)([a-z0-9]+)((?:\s[^>]*)?)>/g)) {
    const between = body.slice(at, match.index);
    const words = between.includes("&")
      ? between.replace(/&[a-z#0-9]+;/g, " ").trim()
      : between.trim();
    at = match.index + match[0].length;
    const top = stack.at(-1)!;
    if (words) note(top, words);
    const tag = match[2]!;
    const attributes = match[3]!;
    // Where pictures are off, their alt texts are words.
    const alt = tag === "img" && / alt="([^"]+)"/.exec(attributes)?.[1];
    if (alt) note(inside(top, tag, attributes, read), alt);
    if (match[1]) {
      const opened = stack.findLastIndex((frame) => frame.tag === tag);
      if (opened > 0) stack.length = opened;
    } else if (!VOID.has(tag)) stack.push(inside(top, tag, attributes, read));
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
  readonly height: number;
  /** It is a link by itself. */
  readonly linked: boolean;
}

/** The images of a compiled email's HTML, in their order. */
export function imagesOf(html: readonly Segment[]): ShownImage[] {
  const text = withNodes(html);
  const NODE_START = ' data-node="';
  return [...text.matchAll(/(<a [^>]*>)?<img src="([^"]+)" width="(\d+)" height="(\d+)"/g)].map(
    ({ index, 1: link, 2: src, 3: width, 4: height }) => {
      const mark = text.lastIndexOf(NODE_START, index) + NODE_START.length;
      return {
        node: text.slice(mark, text.indexOf('"', mark)),
        src: src!,
        width: Number(width),
        height: Number(height),
        linked: link !== undefined,
      };
    },
  );
}

/** The names of the files of all images of a compiled email's HTML, those that are grounds too. */
export const imageFilesOf = (html: readonly Segment[]): string[] =>
  [...withNodes(html).matchAll(/ (?:src|background)="[^"]*\/([^"/]+)"/g)].map(([, file]) => file!);
