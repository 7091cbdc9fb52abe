/** Merging: edits on their way, moved over an edit of somebody else that was stored before them. */
import { mergeable, rebaseEach } from "../../text/index.ts";
import { clash, type Edit, parts, type SimpleEdit } from "./index.ts";

type TextPart = SimpleEdit & { type: "text" };
const keyOf = ({ node, path }: TextPart) => `${node} ${path.join(".")}`;
const isText = (part: SimpleEdit): part is TextPart => part.type === "text";

/** A text that both changed in a way that cannot be joined. */
export interface Unmerged {
  readonly node: string;
  readonly path: readonly string[];
}

export interface Merged {
  /** The edits as they apply after the other one, in their order; those that say nothing any more are null. */
  readonly edits: readonly (Edit | null)[];
  readonly unmerged: readonly Unmerged[];
}

/**
 * Moves edits, made one after another on some state, over `other`, made on that same state. Text steps are
 * moved where both can be kept; where they cannot, every edit on that text is taken out and the text is named.
 */
export function mergeOver(edits: readonly Edit[], other: Edit): Merged {
  if (!edits.some((edit) => clash(edit, other))) return { edits, unmerged: [] };
  const texts = new Map<string, { part: TextPart; steps: TextPart["steps"] }>();
  for (const part of edits.flatMap((edit) => parts(edit)).filter(isText)) {
    const known = texts.get(keyOf(part));
    texts.set(keyOf(part), { part, steps: [...(known?.steps ?? []), ...part.steps] });
  }
  const moved = new Map<string, (TextPart["steps"][number] | null)[]>();
  const unmerged: Unmerged[] = [];
  for (const [key, { part, steps }] of texts) {
    if (!clash({ ...part, steps }, other)) continue;
    const theirs = parts(other).filter((one) => isText(one) && keyOf(one) === key) as TextPart[];
    const over = theirs.flatMap((one) => one.steps);
    // Set anew, or taken out with its block: there is nothing to move over.
    if (over.length && mergeable(steps, over)) {
      moved.set(key, rebaseEach(steps, [{ steps: over, takesBack: null }]));
    } else unmerged.push({ node: part.node, path: part.path });
  }
  const gone = new Set(unmerged.map(({ node, path }) => `${node} ${path.join(".")}`));
  const next = new Map<string, number>();
  const mergedPart = (part: SimpleEdit): SimpleEdit | null => {
    if (!isText(part)) return part;
    const key = keyOf(part);
    if (gone.has(key)) return null;
    const all = moved.get(key);
    if (!all) return part;
    const at = next.get(key) ?? 0;
    next.set(key, at + part.steps.length);
    const steps = all.slice(at, at + part.steps.length).filter((step) => step !== null);
    return steps.length ? { ...part, steps } : null;
  };
  return {
    unmerged,
    edits: edits.map((edit) => {
      const kept = parts(edit)
        .map(mergedPart)
        .filter((part) => part !== null);
      if (kept.length === 0) return null;
      return edit.type === "group" ? { type: "group", edits: kept } : kept[0]!;
    }),
  };
}
