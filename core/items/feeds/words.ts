/** What stands in the HTML of an item: its words, and its first picture. */
import { Parser } from "htmlparser2";

const SILENT = new Set(["script", "style", "noscript", "template", "svg", "math", "title", "head"]);
const APART = new Set(
  "p div h1 h2 h3 h4 h5 h6 tr li dt dd ul ol dl blockquote figure figcaption pre hr br table section article td th".split(
    " ",
  ),
);

export interface Written {
  /** In one line, blanks joined. */
  readonly words: string;
  /** The address of its first picture as it is written there, or empty. */
  readonly picture: string;
}

/** Pixels that only count readers are no pictures. */
const isPicture = ({ width = "", height = "" }: Record<string, string>) =>
  !/^[01]$/.test(width.trim()) && !/^[01]$/.test(height.trim());

/** In one line, without what a database could not keep (NUL and its like, half a pair of surrogates). */
export const inOneLine = (text: string): string =>
  text
    .toWellFormed()
    // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what goes
    .replace(/[\s\u0000-\u001f\u007f]+/g, " ")
    .trim();

const NOTHING: Written = { words: "", picture: "" };

/** Reads HTML (or plain words, which are HTML too) for its words; nothing in it is run or fetched. */
export function readHtml(html: string): Written {
  if (html === "") return NOTHING;
  if (!/[<&]/.test(html)) return { words: inOneLine(html), picture: "" };
  const parts: string[] = [];
  let picture = "";
  let silent = 0;
  const parser = new Parser({
    onopentag(name, attributes) {
      if (SILENT.has(name)) silent++;
      if (APART.has(name)) parts.push(" ");
      if (name === "img" && !picture && attributes.src && isPicture(attributes)) {
        picture = attributes.src;
      }
    },
    ontext: (text) => void (silent === 0 && parts.push(text)),
    onclosetag(name) {
      if (SILENT.has(name)) silent = Math.max(0, silent - 1);
      if (APART.has(name)) parts.push(" ");
    },
  });
  parser.end(html);
  return { words: inOneLine(parts.join("")), picture };
}
