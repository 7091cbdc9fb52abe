/** Moving edits over others that were stored first: merging, taking back, and what another tab left behind. */
import type { Json } from "../../json.ts";
import { createDraft, type Draft, type Lookup } from "../draft.ts";
import type { DocNode, EmailDocument } from "../model.ts";
import { Clash, covers, EditError, holdsWords, type Past, type Touch } from "./edit.ts";
import { type Edit, kindOf, parts, type SimpleEdit } from "./kinds.ts";
import { standing } from "./remove.ts";
import { valueAt } from "./set.ts";
import { moveTexts } from "./texts.ts";

/** An edit that is moved. */
export interface Own {
  readonly edit: Edit;
  /** It takes an earlier edit back, and gives way to what was done since. */
  readonly yields: boolean;
  /** Others have done the very same since: nothing of it is left to do. */
  readonly done?: boolean;
  /** The edits of the list that it takes back, by index: they are moved as well. */
  readonly of?: readonly number[];
}

/** An edit that was stored since. */
export interface Later {
  readonly edit: Edit;
  /** The edits of the list that it takes back, by index: what they took out is found again. */
  readonly takesBack: readonly number[];
}

/** Words of the person that could not be kept, beside what stands in their place. */
export interface Unmerged extends Touch {
  /** The person's version of the text; null where whole blocks have lost their place. */
  readonly mine: Json | null;
  /** What stands there now; null where the block is gone. */
  readonly theirs: Json | null;
  /** The block, band or column that is gone, as the person had it, and where it stood. */
  readonly lost: {
    readonly parent: string;
    readonly after: string | null;
    readonly node: DocNode;
  } | null;
}

export interface MovedOver {
  /** The edits as they apply after the others, in their order; null where there is nothing left to do. */
  readonly edits: readonly (Edit | null)[];
  readonly unmerged: readonly Unmerged[];
  /** The document after the others and these. */
  readonly doc: EmailDocument;
}

/** Applies an edit that was moved; gives what takes it back, or null where it does not fit after all. */
function applied(now: Draft, edit: SimpleEdit): SimpleEdit | null {
  try {
    const inverse = kindOf(edit).invert(now, edit) as SimpleEdit;
    kindOf(edit).apply(now, edit);
    return inverse;
  } catch (error) {
    if (error instanceof EditError) return null;
    throw error;
  }
}

/**
 * A part that takes back one that was moved too: values it would put back are what stood there when that one
 * was done anew, with what others had written by then.
 */
function renewed(part: SimpleEdit, inverses: readonly SimpleEdit[]): SimpleEdit {
  if (part.type !== "set" && part.type !== "restore") return part;
  const fresh = inverses.find(
    (one) =>
      (part.type === "restore" && one.type === "restore") ||
      (part.type === "set" && one.type === "set" && covers(one, part) && covers(part, one)),
  );
  return fresh ?? part;
}

/**
 * Moves edits, made one after another on `start`, over `theirs`, made one after another on that same state:
 * each part by its kind's `over`, in sequence. What is given applies, and nothing a person wrote is dropped
 * without being named.
 */
export function moveOver(
  start: EmailDocument,
  mine: readonly Own[],
  theirs: readonly Later[],
): MovedOver {
  const texts = moveTexts(start, mine, theirs);
  const before = createDraft(start);
  const now = createDraft(texts.end);
  const clashes: Touch[] = [];
  /** What takes back each part of each edit as it was moved. */
  const inverses: SimpleEdit[][] = [];
  const edits = mine.map(({ edit, yields, done = false, of = [] }, at): Edit | null => {
    const past: Past = { before, now, yields, steps: texts.steps };
    const kept: SimpleEdit[] = [];
    const own: SimpleEdit[] = [];
    inverses[at] = own;
    for (const part of parts(edit)) {
      const meant = renewed(
        part,
        of.flatMap((one) => inverses[one] ?? []),
      );
      const moved = done ? null : kindOf(meant).over(meant, past);
      kindOf(part).apply(before, part);
      if (moved instanceof Clash) clashes.push(moved.at);
      else if (moved) {
        const inverse = applied(now, moved);
        if (inverse) {
          kept.push(moved);
          own.push(inverse);
        } else if (holdsWords(moved as unknown as Json)) clashes.push(placeOf(moved));
      }
    }
    if (kept.length === 0) return null;
    return edit.type === "group" ? { type: "group", edits: kept } : kept[0]!;
  });
  return { edits, unmerged: named(clashes, before, now), doc: now.done() };
}

const placeOf = (edit: SimpleEdit): Touch =>
  edit.type === "text" || edit.type === "set"
    ? edit
    : { node: edit.type === "insert" ? edit.node.id : "", path: null };

/** The outermost node around one, itself included, that is not there any more. */
function lostAround(id: string, mine: Lookup, now: Lookup): Unmerged["lost"] {
  let lost: string | null = null;
  for (let at: string | undefined = id; at && !now.find(at); at = mine.find(at)?.parent?.id) {
    lost = at;
  }
  return lost ? standing(mine, lost) : null;
}

/** Both versions of what clashed; what the person has taken out herself since is left out. */
function named(clashes: readonly Touch[], mine: Lookup, now: Lookup): Unmerged[] {
  const found = new Map<string, Unmerged>();
  for (const { node, path } of clashes) {
    const own = mine.find(node)?.node;
    if (!own) continue;
    const lost = lostAround(node, mine, now);
    const key = lost ? lost.node.id : `${node} ${path?.join(" ")}`;
    const there = now.find(node)?.node;
    found.set(key, {
      node,
      path,
      mine: (path && valueAt(own.props, path)) ?? null,
      theirs: (there && path && valueAt(there.props, path)) ?? null,
      lost,
    });
  }
  return [...found.values()];
}
