/** Words of a foreign email as texts of ours: written out as plain HTML and read as pasted words are. */
import { piecesFromHtml } from "../../text/from-html.ts";
import type { Link, Piece } from "../../text/index.ts";
import { isParagraphEnd } from "./runs.ts";
import { type El, type Inner, isEl } from "./tree.ts";

const escaped = (text: string) =>
  text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/"/g, "&quot;");
const KEPT = new Set(
  "a b strong i em cite u ins s del strike sup sub br p ul ol li blockquote table thead tbody tr td th h1 h2 h3 h4 h5 h6 div pre dl dt dd small span".split(
    " ",
  ),
);
/** What of a style says how words are marked. */
const MARKING = ["font-weight", "font-style", "vertical-align", "text-decoration", "mso-list"];

function written(inner: Inner, out: string[]): void {
  if (!isEl(inner)) {
    out.push(escaped(inner));
    return;
  }
  if (isParagraphEnd(inner)) {
    out.push("</p><p>");
    return;
  }
  const { tag, attrs, css, children } = inner;
  const name = KEPT.has(tag) ? tag : "span";
  const style = MARKING.flatMap((one) => (css[one] ? [`${one}:${css[one]}`] : [])).join(";");
  // Said on a heading itself, heavy words say nothing.
  const said = style && !/^h[1-6]$/.test(tag) ? ` style="${escaped(style)}"` : "";
  out.push(`<${name}${attrs.href ? ` href="${escaped(attrs.href)}"` : ""}${said}>`);
  if (tag === "br") return;
  for (const [i, one] of children.entries()) {
    // Two ends of a line are the end of a paragraph.
    const next = children[i + 1];
    if (isBreak(one) && next !== undefined && isBreak(next)) out.push("</p><p>");
    else if (!(isBreak(one) && isBreak(children[i - 1]))) written(one, out);
  }
  out.push(`</${name}>`);
}
const isBreak = (one: Inner | undefined): one is El =>
  one !== undefined && isEl(one) && one.tag === "br";

/** HTML of some nodes: only what words have. */
export function htmlOf(nodes: readonly Inner[]): string {
  const out: string[] = [];
  for (const one of nodes) written(one, out);
  return out.join("");
}

/** The pieces that nodes of words are. */
export const wordsOf = (
  nodes: readonly Inner[],
  linkOf: (href: string) => Link | null,
): readonly Piece[] => piecesFromHtml(`<p>${htmlOf(nodes)}</p>`, linkOf).pieces;

const VOID = new Set("img br hr input source".split(" "));
/** Where an image is now that had an address; null where it is not ours. */
export type ImageAt = (src: string) => string | null;
const ADDRESSES = new Set(["src", "background", "poster", "srcset"]);

/** The attributes of an element that is written out; `only` leaves no address of an image but ours. */
function attributesOf({ attrs, css }: El, imageAt: ImageAt, only: boolean): [string, string][] {
  const kept = Object.entries(attrs).flatMap(([name, value]): [string, string][] => {
    if (/^(style|class|id|on.*)$/.test(name)) return [];
    if (!ADDRESSES.has(name)) return [[name, value]];
    const own = name === "srcset" ? null : imageAt(value);
    if (own !== null) return [[name, own]];
    return only || name === "srcset" ? [] : [[name, value]];
  });
  const style = Object.entries(css)
    .filter(([, value]) => !only || !/url\(/i.test(value))
    .map(([name, value]) => `${name}:${value}`)
    .join(";");
  return style ? [...kept, ["style", style]] : kept;
}

/** Nodes as they were, with the styles that held for them, and without what runs. */
export function sourceOf(nodes: readonly Inner[], imageAt: ImageAt, only = false): string {
  const out: string[] = [];
  const write = (inner: Inner): void => {
    if (!isEl(inner)) {
      out.push(escaped(inner));
      return;
    }
    const all = attributesOf(inner, imageAt, only);
    out.push(
      `<${inner.tag}${all.map(([name, value]) => ` ${name}="${escaped(value)}"`).join("")}>`,
    );
    if (VOID.has(inner.tag)) return;
    for (const one of inner.children) write(one);
    out.push(`</${inner.tag}>`);
  };
  for (const one of nodes) write(one);
  return out.join("");
}
