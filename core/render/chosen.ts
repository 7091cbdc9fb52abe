/**
 * Rich words of derived tags: where a text with marks names one, its values stand one beside another, and each
 * reader gets theirs. In lines, where no marks can stand, such a tag is its plain words.
 */
import { textsOf } from "../blocks/index.ts";
import { alternativesOf, type DerivedTags, derivedIdOf, type TextValue } from "../derived/index.ts";
import { type DocNode, valueAt, withValue } from "../document/index.ts";
import type { Json } from "../json.ts";
import { LIMITS } from "../limits.ts";
import { chosenWords } from "../markup/index.ts";
import { isBlank, type Tag, type TextJson } from "../text/index.ts";

const withoutLinks = (part: TextJson): TextJson => ({
  ...part,
  ...(part.marks && { marks: part.marks.filter(({ type }) => type !== "link") }),
});

/** A text with the values of such tags in their places; the same text where it names none. */
function spread(text: TextJson, derived: DerivedTags, depth = 0): TextJson {
  if (!text.content) return text;
  const content = text.content.map((part) => {
    if (part.type !== "tag") return spread(part, derived, depth);
    const { ref, fallback } = part.attrs as unknown as Tag;
    const tag = derived.get(derivedIdOf(ref) ?? "");
    // One that leads to itself comes to an end.
    if (tag?.kind !== "rich" || depth >= LIMITS.derivedSteps) return part;
    const linked = part.marks?.some(({ type }) => type === "link");
    const marks = part.marks?.filter(({ type }) => type !== "who");
    const alternatives = alternativesOf<TextValue>(tag).map(({ when, value: { words } }) => {
      const none = isBlank(words);
      const own = none && fallback ? [{ type: "text", text: fallback }] : (words.content ?? []);
      const inner = spread({ type: "phrase", content: own }, derived, depth + 1).content ?? [];
      // A link cannot stand in another.
      return { when, content: linked ? inner.map(withoutLinks) : inner };
    });
    const chosen = chosenWords(alternatives, marks);
    const who = part.marks?.filter(({ type }) => type === "who") ?? [];
    return who.length > 0 ? { ...chosen, marks: [...who, ...(marks ?? [])] } : chosen;
  });
  return content.every((part, i) => part === text.content![i]) ? text : { ...text, content };
}

const kept = new WeakMap<DocNode, { derived: DerivedTags; spread: DocNode }>();

/** A block with the rich words of derived tags in its own texts and those of its items. */
export function withChosenWords(node: DocNode, derived: DerivedTags | undefined): DocNode {
  if (!derived || derived.size === 0) return node;
  const before = kept.get(node);
  if (before?.derived === derived) return before.spread;
  let props = node.props;
  for (const { path, kind } of textsOf(node.type)) {
    if (kind === "line") continue;
    const text = valueAt(node.props, path) as unknown as TextJson | undefined;
    const own = text && spread(text, derived);
    if (own && own !== text) props = withValue(props, path, own as unknown as Json);
  }
  const children = node.children.map((child) => withChosenWords(child, derived));
  const same = props === node.props && children.every((child, i) => child === node.children[i]);
  const made = same ? node : { ...node, props, children };
  kept.set(node, { derived, spread: made });
  return made;
}
