/** Gathering words into paragraphs and lists, as they come from a parser. */
import { sameJson } from "../json.ts";
import { parseText, type TextJson } from "./schema.ts";

export type MarkJson = NonNullable<TextJson["marks"]>[number];
/** The order marks have in the schema. */
const RANK = ["who", "link", "strong", "em", "underline", "strike", "superscript", "subscript"];

/** Marks in the order of the schema. */
export const ranked = (marks: readonly MarkJson[]): MarkJson[] =>
  [...marks].sort((a, b) => RANK.indexOf(a.type) - RANK.indexOf(b.type));

/** Paragraphs and lists as a whole text; nothing is one empty paragraph. */
export const docOf = (content: readonly TextJson[]): TextJson =>
  parseText(
    { type: "doc", content: content.length ? content : [{ type: "paragraph" }] },
    "doc",
  ).toJSON();

/** Something that is being filled: a list, an item, a set-in part, or the whole. */
interface Holder {
  readonly type: "doc" | "bullet_list" | "ordered_list" | "list_item" | "indented";
  readonly content: TextJson[];
}

/** Puts words together into paragraphs and lists. */
export class Words {
  private holders: Holder[] = [{ type: "doc", content: [] }];
  private inline: TextJson[] = [];

  text(text: string, marks: readonly MarkJson[]): void {
    const last = this.inline.at(-1);
    const opens = !last || last.type === "hard_break" || last.text?.endsWith(" ");
    const words = opens ? text.replace(/^ /, "") : text;
    if (!words) return;
    const before = last?.type === "text" && sameJson((last.marks ?? []) as never, marks as never);
    if (before) this.inline[this.inline.length - 1] = { ...last, text: `${last.text}${words}` };
    else this.inline.push({ type: "text", text: words, ...(marks.length ? { marks } : {}) });
  }
  lineBreak(): void {
    if (this.inline.length) this.inline.push({ type: "hard_break" });
  }
  /** The words gathered so far, without blanks and breaks at their end. */
  takeInline(): TextJson[] {
    const inline = this.inline;
    this.inline = [];
    for (let last = inline.at(-1); last; last = inline.at(-1)) {
      const text = last.text?.trimEnd();
      inline.pop();
      if (text) {
        inline.push({ ...last, text });
        break;
      }
    }
    return inline;
  }
  endParagraph(): void {
    const content = this.takeInline();
    if (content.length) this.put({ type: "paragraph", content });
  }
  put(node: TextJson): void {
    const holder = this.holders.at(-1)!;
    const list = holder.type === "bullet_list" || holder.type === "ordered_list";
    const last = holder.content.at(-1);
    if (list && node.type !== "list_item") {
      if (node.type !== "paragraph" && last) {
        const content = itemContent([...(last.content ?? []), node]);
        holder.content[holder.content.length - 1] = { ...last, content };
      } else holder.content.push({ type: "list_item", content: itemContent([node]) });
    } else if (!list && node.type === "list_item") {
      holder.content.push({ type: "bullet_list", content: [node] });
    } else holder.content.push(node);
  }
  open(type: Holder["type"]): void {
    this.endParagraph();
    this.holders.push({ type, content: [] });
  }
  close(type: Holder["type"]): void {
    this.endParagraph();
    const at = this.holders.findLastIndex((holder) => holder.type === type);
    if (at <= 0) return;
    while (this.holders.length > at) {
      const { type: own, content } = this.holders.pop()!;
      if (content.length === 0) continue;
      this.put({ type: own, content: own === "list_item" ? itemContent(content) : content });
    }
  }
  /** Whether words stand on the outermost level. */
  get flat(): boolean {
    return this.holders.length === 1;
  }
  finish(): TextJson[] {
    this.endParagraph();
    while (this.holders.length > 1) this.close(this.holders[1]!.type);
    return this.holders[0]!.content.splice(0);
  }
}

/** An item begins with a paragraph and holds nothing that is set in. */
function itemContent(content: readonly TextJson[]): TextJson[] {
  const flat = content.flatMap((node) =>
    node.type === "indented" || node.type === "list_item"
      ? itemContent(node.content ?? [])
      : [node],
  );
  return flat[0]?.type === "paragraph" ? flat : [{ type: "paragraph" }, ...flat];
}

/** Lists of one kind that follow each other become one. */
export function joinedLists(nodes: readonly TextJson[]): TextJson[] {
  const content: TextJson[] = [];
  for (const node of nodes) {
    const last = content.at(-1);
    const list = node.type === "bullet_list" || node.type === "ordered_list";
    if (last && list && last.type === node.type) {
      const both = [...(last.content ?? []), ...(node.content ?? [])];
      content[content.length - 1] = { ...last, content: both };
    } else content.push(node);
  }
  return content;
}
