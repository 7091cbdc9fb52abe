/**
 * What became of texts: the steps that a person's edits make on each text, moved over what others did to
 * that text since. A text that was set anew or taken out is another text, until it stands there again as it was.
 */
import { type Json, sameJson } from "../../json.ts";
import { moveSteps, type OwnSteps, type TextJson } from "../../text/index.ts";
import { createDraft, type Lookup, lookupOf } from "../draft.ts";
import type { EmailDocument } from "../model.ts";
import { covers, type Touch } from "./edit.ts";
import { kindOf, parts, type SimpleEdit } from "./kinds.ts";
import type { Later, Own } from "./over.ts";
import { textAt } from "./text.ts";

type TextPart = SimpleEdit & { type: "text" };
const keyOf = ({ node, path }: Touch): string => `${node} ${path!.join(" ")}`;

interface OwnText {
  readonly touch: Touch;
  /** The parts made on the text as it stood before all of them. */
  readonly parts: (OwnSteps & { readonly part: TextPart })[];
}

interface TheirText {
  readonly touch: Touch;
  /** The text as it was each time, with how many of the steps lead to it. */
  readonly seen: { readonly text: TextJson; readonly count: number }[];
  readonly done: { readonly edit: number; readonly steps: readonly Json[] }[];
  /** It is gone, or another one stands there. */
  lost: boolean;
}

/** The texts a person wrote in, until she put another text there: what she writes after that is hers alone. */
function ownTexts(start: EmailDocument, mine: readonly Own[]): Map<string, OwnText> {
  const texts = new Map<string, OwnText>();
  const made: Touch[] = [];
  const draft = createDraft(start);
  for (const { edit, yields, done = false } of mine) {
    for (const part of parts(edit)) {
      const kind = kindOf(part);
      if (part.type === "text") {
        if (!made.some((touch) => covers(touch, part))) {
          const text = texts.get(keyOf(part)) ?? { touch: part, parts: [] };
          texts.set(keyOf(part), text);
          text.parts.push({ part, steps: part.steps, yields, done });
        }
      } else if (part.type !== "move") made.push(...kind.touches(part, draft));
      kind.apply(draft, part);
    }
  }
  return texts;
}

/** Follows a text through one change of others. */
function follow(text: TheirText, change: SimpleEdit, edit: number, now: Lookup): void {
  if (change.type === "text" && keyOf(change) === keyOf(text.touch)) {
    text.done.push({ edit, steps: change.steps });
    const there = textAt(now, text.touch);
    if (there) text.seen.push({ text: there, count: text.done.length });
    return;
  }
  const there = textAt(now, text.touch);
  const before = there && text.seen.findLast((one) => sameJson(one.text, there));
  text.lost = !before;
  if (before) text.done.length = before.count;
}

/** What others did, applied; and what it did to texts. */
function theirTexts(
  start: EmailDocument,
  own: ReadonlyMap<string, OwnText>,
  theirs: readonly Later[],
): { readonly end: EmailDocument; readonly texts: ReadonlyMap<string, TheirText> } {
  const texts = new Map<string, TheirText>();
  const draft = createDraft(start);
  const known = (touch: Touch) => {
    const text = textAt(draft, touch);
    if (!text || texts.has(keyOf(touch))) return;
    texts.set(keyOf(touch), { touch, seen: [{ text, count: 0 }], done: [], lost: false });
  };
  for (const { touch } of own.values()) known(touch);
  for (const [i, { edit }] of theirs.entries()) {
    for (const part of parts(edit)) {
      if (part.type === "text") known(part);
      const touched = kindOf(part).touches(part, draft);
      kindOf(part).apply(draft, part);
      if (part.type === "move") continue;
      for (const text of texts.values()) {
        const reached = touched.some((one) => covers(one, text.touch) || covers(text.touch, one));
        if (reached) follow(text, part, i, draft);
      }
    }
  }
  return { end: draft.done(), texts };
}

/** What became of the texts that two sides wrote in. */
export interface TextsOver {
  /** The document after what others did. */
  readonly end: EmailDocument;
  /** The steps of a text edit as they must be now; of a set, whether it would write over what others wrote. */
  steps(edit: object): readonly Json[] | "clash";
}

/**
 * Moves the text edits among `mine`, made on `start`, over `theirs`, made on that same state. Where both
 * cannot be kept, all of the person's edits on that text clash.
 */
export function moveTexts(
  start: EmailDocument,
  mine: readonly Own[],
  theirs: readonly Later[],
): TextsOver {
  const own = ownTexts(start, mine);
  const { end, texts } = theirTexts(start, own, theirs);
  const before = lookupOf(start);
  const after = lookupOf(end);
  const results = new Map<object, readonly Json[] | "clash">();
  const clashing: Touch[] = [];
  /** Texts that read otherwise now than the person saw them. */
  const changed = [...texts.values()].filter(({ touch, done }) => {
    const there = textAt(after, touch);
    return done.length > 0 && there && !sameJson(there, textAt(before, touch));
  });
  for (const { edit, yields } of mine) {
    for (const part of parts(edit)) {
      if (yields || part.type !== "set") continue;
      if (!changed.some(({ touch }) => covers(part, touch))) continue;
      results.set(part, "clash");
      clashing.push(part);
    }
  }
  for (const [key, { touch, parts: written }] of own) {
    const other = texts.get(key);
    const now = textAt(after, touch);
    const moved =
      other && now && !other.lost && !clashing.some((one) => covers(one, touch))
        ? moveSteps(
            now,
            written,
            theirs.map(({ takesBack }, edit) => ({
              takesBack,
              steps: other.done.filter((one) => one.edit === edit).flatMap(({ steps }) => steps),
            })),
          )
        : null;
    if (!moved) clashing.push(touch);
    for (const [i, { part }] of written.entries()) results.set(part, moved?.[i] ?? "clash");
  }
  return {
    end,
    steps(edit) {
      const result = results.get(edit);
      if (result) return result;
      // Made on a text of the person's own: it stands or falls with that text.
      const part = edit as SimpleEdit;
      if (part.type !== "text") return [];
      return clashing.some((touch) => covers(touch, part)) ? "clash" : part.steps;
    },
  };
}
