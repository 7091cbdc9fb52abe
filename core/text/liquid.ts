/**
 * The small part of Liquid that hand-written plain text and HTML blocks take: outputs of a value with a
 * default and letter case, `{{ contact.first_name | default: "friend" | upcase }}`. They become the same
 * tags as everywhere else; whatever else stands in braces stays as it is written, and is told.
 */

import { under } from "../json.ts";
import { plainLine } from "./line.ts";
import type { Link } from "./link.ts";
import { type Line, line, type TextJson } from "./schema.ts";
import { TAG_REF, type Tag, type TagFormat } from "./tag.ts";

export interface LiquidText {
  readonly pieces: readonly (string | Tag)[];
  /** What stands in braces and is not understood. */
  readonly problems: readonly string[];
}

const VALUE = /^([a-z]+)(?:\.([A-Za-z0-9_-]+)|\[\s*(?:"([^"]+)"|'([^']+)')\s*\])/;
const FILTER = /^\s*\|\s*([a-z_]+)\s*(?::\s*(?:"([^"]*)"|'([^']*)'))?/;
const CASES: Record<string, TagFormat> = {
  upcase: { type: "case", to: "upper" },
  downcase: { type: "case", to: "lower" },
};

/** One output's tag, or null where it is not of the part that is taken. */
function parseOutput(text: string): Tag | null {
  const value = VALUE.exec(text);
  if (!value) return null;
  const ref = `${value[1]}:${value[2] ?? value[3] ?? value[4]}`;
  if (!TAG_REF.test(ref)) return null;
  let rest = text.slice(value[0].length);
  let fallback: string | null = null;
  let format: TagFormat | null = null;
  while (rest.trim() !== "") {
    const filter = FILTER.exec(rest);
    if (!filter) return null;
    const [all, name, double, single] = filter;
    if (name === "default") fallback = double ?? single ?? "";
    else if (under(CASES, name!)) format = under(CASES, name!)!;
    else if (name !== "escape") return null;
    rest = rest.slice(all.length);
  }
  return { ref, fallback, format };
}

interface LiquidMark {
  readonly from: number;
  readonly to: number;
  /** What an output stands for; null for a mark of another kind (`{% … %}`). */
  readonly output: string | null;
}

/** Everything between Liquid's marks, found in one pass whatever the text is: each character is looked at once. */
function marksIn(source: string): LiquidMark[] {
  const marks: LiquidMark[] = [];
  /** Where each kind of end stands next; none is looked for again behind where it was found to be missing. */
  const ends = { "}}": 0, "%}": 0 };
  for (let from = source.indexOf("{"); from >= 0; from = source.indexOf("{", from + 1)) {
    const next = source[from + 1];
    const end = next === "{" ? "}}" : next === "%" ? "%}" : null;
    if (!end || ends[end] < 0) continue;
    if (ends[end] < from + 2) ends[end] = source.indexOf(end, from + 2);
    const at = ends[end];
    if (at < 0) continue;
    const inner = source
      .slice(from + 2, at)
      .replace(/^-/, "")
      .replace(/-$/, "")
      .trim();
    marks.push({ from, to: at + 2, output: end === "}}" ? inner : null });
    from = at + 1;
  }
  return marks;
}

/** Takes a text apart into words and tags. */
export function parseLiquid(source: string): LiquidText {
  const pieces: (string | Tag)[] = [];
  const problems: string[] = [];
  let at = 0;
  const words = (text: string) => {
    if (text === "") return;
    if (typeof pieces.at(-1) === "string") pieces[pieces.length - 1] += text;
    else pieces.push(text);
  };
  for (const { from, to, output } of marksIn(source)) {
    words(source.slice(at, from));
    const tag = output === null ? null : parseOutput(output);
    if (tag) pieces.push(tag);
    else {
      words(source.slice(from, to));
      problems.push(source.slice(from, to));
    }
    at = to;
  }
  words(source.slice(at));
  return { pieces, problems };
}

const quoted = (text: string) =>
  text.includes('"') ? `'${text.replaceAll("'", "’")}'` : `"${text}"`;

/** A tag as Liquid, the way `parseLiquid` reads it. Formats of dates and numbers have no such spelling and are left out. */
export function tagLiquid(tag: Tag): string {
  const [scope, id] = tag.ref.split(":") as [string, string];
  const value = /^[A-Za-z0-9_]+$/.test(id) ? `${scope}.${id}` : `${scope}["${id}"]`;
  const name = Object.keys(CASES).find(
    (key) => JSON.stringify(CASES[key]) === JSON.stringify(tag.format),
  );
  const fallback = tag.fallback === null ? "" : ` | default: ${quoted(tag.fallback)}`;
  return `{{ ${value}${fallback}${name ? ` | ${name}` : ""} }}`;
}

/** A line as it is written by hand, its tags as Liquid; and back. */
export const lineLiquid = (text: TextJson): string => plainLine(text, tagLiquid);
export const liquidLine = (source: string): Line => line(...parseLiquid(source.trim()).pieces);

/** Values that are an address of the email itself rather than one of the reader's. */
export const OWN_ADDRESSES: Record<string, Link> = {
  "campaign:unsubscribe": { kind: "unsubscribe" },
  "campaign:preferences": { kind: "preferences" },
  "campaign:web_version": { kind: "webVersion" },
};
