/** The words of a line, which is the simplest text. */
import type { TextJson } from "./schema.ts";
import type { Tag } from "./tag.ts";

/** The words of a line, its tags written by `write`. */
export function plainLine(text: TextJson, write: (tag: Tag) => string): string {
  return (text.content ?? [])
    .map((part) => (part.type === "tag" ? write(part.attrs as unknown as Tag) : (part.text ?? "")))
    .join("");
}

/** The words of a line where there is no reader: fallbacks stand for tags. */
export const wordsOf = (text: TextJson): string =>
  plainLine(text, (tag) => String(tag.said ?? tag.fallback ?? "…")).trim();
