/**
 * HTML that somebody wrote or pasted, made fit for an email: only elements, attributes, styles and addresses
 * from the lists below stay, and what went is named. Merge tags in it become tags, links become links that
 * are counted.
 */

import { Parser } from "htmlparser2";
import sanitizeHtml from "sanitize-html";
import { under } from "../../json.ts";
import {
  addressText,
  escapeHtml,
  type Hole,
  html,
  Markup,
  plain,
  slot,
  trusted,
} from "../../markup/index.ts";
import {
  LANDINGS,
  type Landing,
  type Link,
  line,
  linkSchema,
  OWN_ADDRESSES,
  parseLiquid,
  type Tag,
} from "../../text/index.ts";
import { cleanStyle } from "./clean-style.ts";

const ELEMENTS = (
  "a abbr b blockquote br caption center cite code col colgroup dd del div dl dt em figcaption figure " +
  "h1 h2 h3 h4 h5 h6 hr i img ins li ol p pre q s small span strong sub sup table tbody td tfoot th " +
  "thead tr u ul"
).split(" ");
const EVERYWHERE = [
  "style",
  "align",
  "valign",
  "bgcolor",
  "width",
  "height",
  "dir",
  "lang",
  "title",
  "role",
];
const ATTRIBUTES: Record<string, string[]> = {
  a: ["href"],
  img: ["src", "alt", "border"],
  table: ["border", "cellpadding", "cellspacing"],
  td: ["colspan", "rowspan"],
  th: ["colspan", "rowspan", "scope"],
  ol: ["start", "type"],
  "*": EVERYWHERE,
};
const OPTIONS: sanitizeHtml.IOptions = {
  allowedTags: ELEMENTS,
  allowedAttributes: ATTRIBUTES,
  // They are cleaned below: parsing CSS would take more script than all the rest here.
  parseStyleAttributes: false,
  allowedSchemes: ["http", "https", "mailto", "tel"],
  allowedSchemesByTag: { img: ["http", "https"] },
  allowProtocolRelative: false,
  nonTextTags: ["script", "style", "textarea", "option", "noscript", "title", "xml", "svg", "math"],
  // A picture whose address is not whole shows nothing in a mail program.
  exclusiveFilter: ({ tag, attribs }) =>
    tag === "img" && !/^(https?:\/\/|\ue000)/i.test(attribs.src ?? ""),
  transformTags: {
    // A picture without alt text would be read aloud by its address.
    // One that is wider than its place would make the page as wide.
    img: (tagName, { style = "", ...attribs }) => {
      const says = (name: string) => new RegExp(`(?:^|;)\\s*${name}\\s*:`, "i").test(style);
      const own = [
        style.replace(/;\s*$/, ""),
        says("max-width") ? "" : "max-width:100%",
        says("height") ? "" : "height:auto",
      ]
        .filter(Boolean)
        .join(";");
      return { tagName, attribs: { alt: "", ...attribs, style: own } };
    },
    "*": (tagName, { style, ...attribs }) => {
      const clean = style === undefined ? "" : cleanStyle(style);
      return { tagName, attribs: clean ? { ...attribs, style: clean } : attribs };
    },
  },
};

/** Stand in for tags while the HTML is cleaned: from the private use area, taken out of the source first. */
const OPEN = "\ue000";
const CLOSE = "\ue001";
const HOLDERS = /\ue000(\d+)\ue001/g;

function withHolders(source: string): { text: string; tags: Tag[] } {
  const tags: Tag[] = [];
  const pieces = parseLiquid(source.replace(/[\ue000\ue001]/g, "")).pieces;
  const text = pieces
    .map((piece) => (typeof piece === "string" ? piece : `${OPEN}${tags.push(piece) - 1}${CLOSE}`))
    .join("");
  return { text, tags };
}

/** What stands in HTML and might go: elements, attributes, style properties, addresses; each with its count. */
function inventory(text: string): Map<string, number> {
  const found = new Map<string, number>();
  const add = (what: string) => found.set(what, (found.get(what) ?? 0) + 1);
  const parser = new Parser({
    onopentag(name, attributes) {
      add(`<${name}>`);
      if (!ELEMENTS.includes(name)) return;
      for (const [attribute, value] of Object.entries(attributes)) {
        const known =
          EVERYWHERE.includes(attribute) || under(ATTRIBUTES, name)?.includes(attribute);
        if (!known) add(attribute);
        else if (attribute === "href" || attribute === "src")
          add(`the address ${value.slice(0, 40)}`);
        else if (attribute === "style") {
          for (const part of value.split(";")) {
            const property = part.split(":")[0]!.trim().toLowerCase();
            if (property) add(`the style ${property}`);
          }
        }
      }
    },
    oncomment: () => add("a comment"),
  });
  parser.end(text);
  return found;
}

function missing(before: Map<string, number>, after: Map<string, number>): string[] {
  const gone: string[] = [];
  for (const [what, count] of before) {
    const less = count - (after.get(what) ?? 0);
    if (less > 0) gone.push(less > 1 ? `${what} (${less} times)` : what);
  }
  return gone;
}

const unescaped = (text: string) =>
  text
    .replaceAll("&quot;", '"')
    .replaceAll("&#34;", '"')
    .replaceAll("&#39;", "'")
    .replaceAll("&lt;", "<")
    .replaceAll("&gt;", ">")
    .replaceAll("&amp;", "&");

/** An address of the cleaned HTML as a link, or null where it is none that leads anywhere. */
function linkFrom(address: string, tags: readonly Tag[]): Link | null {
  const text = unescaped(address).trim();
  if (/^mailto:[^?]+$/i.test(text)) {
    return linkSchema.safeParse({ kind: "mail", address: text.slice(7) }).data ?? null;
  }
  if (/^tel:/i.test(text)) {
    return linkSchema.safeParse({ kind: "phone", number: text.slice(4) }).data ?? null;
  }
  const alone = /^\ue000(\d+)\ue001$/.exec(text);
  const own = alone && under(OWN_ADDRESSES, tags[Number(alone[1])]!.ref);
  if (own) return own;
  const pieces = text.split(/(\ue000\d+\ue001)/).filter(Boolean);
  const content = pieces.map((piece) => {
    const held = /^\ue000(\d+)\ue001$/.exec(piece);
    return held ? tags[Number(held[1])]! : piece;
  });
  return linkSchema.safeParse({ kind: "web", address: line(...content) }).data ?? null;
}

/** A picture's address: of the reader's alone, or with a part of theirs. */
const srcOf = (attribute: string): Landing =>
  /^ src="\ue000\d+\ue001"$/.test(attribute) ? LANDINGS.addressHtml : LANDINGS.partHtml;

/** Cleaned HTML with every tag and link in it as slots. */
function slotted(cleaned: string, tags: readonly Tag[], node: string, removed: string[]): Markup {
  const out: (Markup | null)[] = [];
  const fill = (text: string, as: Landing) => {
    let at = 0;
    for (const match of text.matchAll(HOLDERS)) {
      out.push(trusted(text.slice(at, match.index)));
      out.push(slot({ slot: "tag", tag: tags[Number(match[1])]!, as }));
      at = match.index + match[0].length;
    }
    out.push(trusted(text.slice(at)));
  };
  /** An element or a part of one, each attribute by what it holds. */
  const fillElement = (text: string) => {
    for (const piece of text.split(/( [a-z-]+="[^"]*")/)) {
      const name = /^ ([a-z-]+)="/.exec(piece)?.[1];
      fill(
        piece,
        name === "style" ? LANDINGS.css : name === "src" ? srcOf(piece) : LANDINGS.attribute,
      );
    }
  };
  // The cleaner writes attributes in double quotes and escapes brackets in text, so that this finds them all.
  const TOKEN = /<[^>]*>/g;
  let at = 0;
  for (const match of cleaned.matchAll(TOKEN)) {
    fill(cleaned.slice(at, match.index), LANDINGS.html);
    at = match.index + match[0].length;
    const href = /^<a [^>]*?href="([^"]*)"/.exec(match[0]);
    const to = href && linkFrom(href[1]!, tags);
    const mailWithQuery = href && /^mailto:[^\ue000]*$/i.test(href[1]!);
    if (href && !to && !mailWithQuery) {
      removed.push(`the address ${href[1]!.replace(HOLDERS, "…").slice(0, 40)}`);
      fillElement(match[0].replace(/ href="[^"]*"/, ""));
    } else if (href && to) {
      const [before, after] = match[0].split(href[0].slice(href[0].indexOf("href="))) as [
        string,
        string,
      ];
      const words = (/^([\s\S]*?)<\/a>/.exec(cleaned.slice(at))?.[1] ?? "").replace(
        /<[^>]*>|[\ue000\ue001]/g,
        "",
      );
      fillElement(`${before}href="`);
      out.push(slot({ slot: "link", node, to, words: unescaped(words).trim(), as: "html" }));
      fillElement(`"${after}`);
    } else fillElement(match[0]);
  }
  fill(cleaned.slice(at), LANDINGS.html);
  return html`${out}`;
}

/** The widest fixed width in some HTML, px: of anything but pictures, which shrink; 0 where there is none. */
function widestIn(text: string): number {
  let widest = 0;
  const parser = new Parser({
    onopentag(name, { width = "", style = "" }) {
      if (name === "img" || /max-width\s*:\s*100%/i.test(style)) return;
      const styled = /(?:^|[;\s])(?:min-)?width\s*:\s*(\d+)px/i.exec(style)?.[1];
      const given = /^\d+$/.test(width.trim()) ? width : "0";
      widest = Math.max(widest, Number(styled ?? given));
    },
  });
  parser.end(text);
  return widest;
}

interface Cleaned {
  readonly markup: Markup;
  /** The widest fixed width in it, px. */
  readonly widest: number;
  /** What was taken out, in words. */
  readonly removed: readonly string[];
}

/** Cleaning parses, and the sheet, the settings and the checks all ask: the last few are kept. */
const KEPT = 60;
const kept = new Map<string, Cleaned>();

/** Cleans HTML of one's own; `node` is the block it belongs to. */
export function cleanHtml(source: string, node: string): Cleaned {
  const key = `${node}\n${source}`;
  const before = kept.get(key);
  if (before) return before;
  const { text, tags } = withHolders(source);
  const cleaned = sanitizeHtml(text, OPTIONS);
  const removed = missing(inventory(text), inventory(cleaned)).map((what) =>
    what.replace(HOLDERS, "…"),
  );
  const markup = slotted(cleaned, tags, node, removed);
  const made = { markup, widest: widestIn(cleaned), removed: [...new Set(removed)] };
  if (kept.size >= KEPT) kept.delete(kept.keys().next().value!);
  kept.set(key, made);
  return made;
}

const BLOCKS = new Set(
  "p div h1 h2 h3 h4 h5 h6 table tr ul ol dl blockquote figure pre hr center li dt dd".split(" "),
);

/** The words of one's own HTML as plain text, addresses behind what leads to them. */
export function htmlText(source: string, node: string): Markup {
  const { text, tags } = withHolders(source);
  const holes: Hole[] = [];
  let line = "";
  const newLine = () => {
    if (line.trim() !== "") holes.push(words(line.trim()), "\n");
    line = "";
  };
  const words = (part: string): Hole =>
    part
      .split(/(\ue000\d+\ue001|\ue002\d+\ue003)/)
      .filter(Boolean)
      .map((piece): Hole => {
        const held = /^\ue000(\d+)\ue001$/.exec(piece);
        if (held) return slot({ slot: "tag", tag: tags[Number(held[1])]!, as: LANDINGS.text });
        const address = /^\ue002(\d+)\ue003$/.exec(piece);
        return address ? addresses[Number(address[1])]! : piece;
      });
  const addresses: Markup[] = [];
  const open: { href: string; from: number }[] = [];
  const parser = new Parser({
    onopentag(name, attributes) {
      if (BLOCKS.has(name)) newLine();
      if (name === "br") newLine();
      if (name === "li") line += "- ";
      if (name === "td" || name === "th") line += line.trim() ? "  " : "";
      if (name === "img" && attributes.alt) line += `[${attributes.alt}]`;
      if (name === "a") open.push({ href: attributes.href ?? "", from: line.length });
    },
    ontext(part) {
      line += part.replace(/[\s\ue002\ue003]+/g, " ");
    },
    onclosetag(name) {
      if (name === "a") {
        const { href, from } = open.pop() ?? { href: "", from: 0 };
        const to = linkFrom(escapeHtml(href), tags);
        const label = line
          .slice(from)
          .replace(/[\ue000\ue001]/g, "")
          .trim();
        const address = to && addressText(to, node, label, " (");
        if (address) line += `\ue002${addresses.push(address) - 1}\ue003`;
      }
      if (BLOCKS.has(name)) newLine();
    },
  });
  parser.end(sanitizeHtml(text, OPTIONS));
  newLine();
  if (holes.at(-1) === "\n") holes.pop();
  return holes.length ? plain`${holes}` : Markup.empty;
}
