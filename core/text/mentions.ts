/** What a text mentions: its tags, its links with what stands in their addresses, and the conditions of its words. */
import { type Json, under } from "../json.ts";
import type { Rule } from "../rules/index.ts";
import { type Context, inAddress, LANDINGS, type Landing } from "./landing.ts";
import { wordsOf } from "./line.ts";
import type { Link } from "./link.ts";
import { linkKinds } from "./link-from.ts";
import { OWN_ADDRESSES, parseLiquid } from "./liquid.ts";
import type { TextJson } from "./schema.ts";
import type { Tag } from "./tag.ts";
import { EVERYBODY_KEY, ruleKey, type Seen, seenRuns, type When, whenBoth } from "./when.ts";

export type TextMention =
  /** A value of the reader, the brand or the campaign, and where it lands. */
  | { readonly what: "tag"; readonly tag: Tag; readonly lands: Landing; readonly when: When | null }
  /** Where something leads, and the words that lead there. */
  | {
      readonly what: "link";
      readonly to: Link;
      readonly words: string;
      readonly when: When | null;
    }
  /** A rule on which something depends; as the last of a chain none, for everybody else. */
  | {
      readonly what: "condition";
      readonly key: string;
      readonly rule: Rule | null;
      readonly when: When | null;
    };
export type TextMentionSink = (mention: TextMention) => void;

/** The condition that a part adds, if any. */
export function seenMention(
  { seenBy, chain }: Partial<Seen>,
  when: When | null,
): TextMention | null {
  if (seenBy) return { what: "condition", key: ruleKey(seenBy), rule: seenBy, when };
  return typeof chain === "string"
    ? { what: "condition", key: EVERYBODY_KEY, rule: null, when }
    : null;
}

/** Whether a value is where something leads. */
export const isLink = (value: { readonly kind?: Json }): boolean =>
  typeof value.kind === "string" && linkKinds.has(value.kind);

const tagOf = (node: TextJson) => node.attrs as unknown as Tag;

/** A link, and the tags in its address. */
export function linkMentions(
  to: Link,
  words: string,
  when: When | null,
  context: "html" | "text",
  sink: TextMentionSink,
): void {
  sink({ what: "link", to, words, when });
  const line = to.kind === "web" ? to.address : to.kind === "forward" ? to.subject : null;
  const content = line?.content ?? [];
  const whole = to.kind === "web" && content.length === 1;
  for (const part of content) {
    if (part.type === "tag") {
      sink({ what: "tag", tag: tagOf(part), lands: inAddress(context, whole), when });
    }
  }
}

/** A tag; one that is an address of the email itself is a link. */
function tagMention(tag: Tag, lands: Landing, when: When | null, sink: TextMentionSink): void {
  const own = under(OWN_ADDRESSES, tag.ref);
  if (own && lands.context !== "header") sink({ what: "link", to: own, words: "", when });
  else sink({ what: "tag", tag, lands, when });
}

const linkOfPart = ({ marks }: TextJson): Link | null => {
  if (marks) for (const { type, attrs } of marks) if (type === "link") return attrs?.to as never;
  return null;
};

function partMentions(
  parts: readonly TextJson[],
  lands: Landing,
  when: When | null,
  sink: TextMentionSink,
): void {
  let last: Link | null = null;
  for (const part of parts) {
    const to = linkOfPart(part);
    if (to && to !== last) {
      const under = parts.filter((one) => linkOfPart(one) === to);
      linkMentions(to, wordsOf({ type: "line", content: under }), when, "html", sink);
    }
    last = to;
    if (part.type === "tag") tagMention(tagOf(part), lands, when, sink);
  }
}

const isForSome = ({ marks }: TextJson): boolean => {
  if (marks) for (const { type } of marks) if (type === "who") return true;
  return false;
};

function inlineMentions(
  content: readonly TextJson[],
  lands: Landing,
  outer: When | null,
  sink: TextMentionSink,
): void {
  // Most texts are for everybody.
  if (!content.some(isForSome)) {
    partMentions(content, lands, outer, sink);
    return;
  }
  for (const { seen, when: own, parts } of seenRuns(content)) {
    const condition = seen && seenMention(seen, outer);
    if (condition) sink(condition);
    partMentions(parts, lands, whenBoth(outer, own), sink);
  }
}

/** Everything a text mentions, in reading order; `when` is when it is shown itself. */
export function textMentions(
  text: TextJson,
  context: Context,
  when: When | null,
  sink: TextMentionSink,
): void {
  // A translation may be of any shape until it is looked at.
  const content = Array.isArray(text.content) ? text.content : [];
  const lands = context === "header" ? LANDINGS.header : LANDINGS.html;
  if (content.some((part) => part.content)) {
    for (const part of content) textMentions(part, context, when, sink);
  } else inlineMentions(content, lands, when, sink);
}

/** Everything that words with Liquid's marks mention, written by hand. */
export function liquidMentions(
  source: string,
  context: "html" | "text",
  when: When | null,
  sink: TextMentionSink,
): void {
  for (const piece of parseLiquid(source).pieces) {
    if (typeof piece !== "string") tagMention(piece, LANDINGS[context], when, sink);
  }
}
