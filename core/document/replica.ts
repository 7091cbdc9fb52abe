/**
 * One tab's copy of a document: the state that is stored, and the edits on their way applied on top. What
 * others stored first is taken in, and what is on its way is moved over it. The server admits edits that were
 * made on an earlier state by the same steps, so that both come to the same.
 */
import { sameJson } from "../json.ts";
import { LIMITS } from "../limits.ts";
import { apply, type Edit, moveOver, type Own, type Unmerged } from "./edits/index.ts";
import { joinedText } from "./edits/text.ts";
import { type Change, type Entry, type StepMark, takeBack, withTakesBack } from "./history.ts";
import type { EmailDocument } from "./model.ts";

/** An edit in the order of all, with who made it. */
export interface Numbered extends Change {
  readonly seq: number;
  readonly person: string;
}

export interface Replica {
  /** Whose it is. */
  readonly person: string;
  /** The number of the stored state. */
  readonly seq: number;
  readonly stored: EmailDocument;
  /** Edits on their way, made one after another on the stored state. */
  readonly pending: readonly Change[];
  /** The stored state with them on top. */
  readonly shown: EmailDocument;
  /** The stored edits that are known, up to the stored state, and the state before the first of them. */
  readonly log: readonly Entry[];
  readonly logFrom: () => EmailDocument;
}

export const replicaOf = (person: string, seq: number, doc: EmailDocument): Replica => ({
  person,
  seq,
  stored: doc,
  pending: [],
  shown: doc,
  log: [],
  logFrom: () => doc,
});

/** Puts an edit on its way. Throws an EditError where it does not fit what is shown. */
export const changed = (replica: Replica, change: Change): Replica => ({
  ...replica,
  pending: [...replica.pending, change],
  shown: apply(replica.shown, change.edit),
});

/**
 * Puts an edit on its way as a part of the last one, where both are typing in one text in one go; null where they
 * are not. The last one must not have left: a request that was sent twice would store it without this part.
 */
export function joinedOn(replica: Replica, change: Change): Replica | null {
  const last = replica.pending.at(-1);
  if (!last || last.step !== change.step || last.does !== "do" || change.does !== "do") return null;
  if (last.edit.type !== "text" || change.edit.type !== "text") return null;
  const edit = joinedText(last.edit, change.edit);
  if (!edit) return null;
  return {
    ...replica,
    pending: [...replica.pending.slice(0, -1), { ...last, edit }],
    shown: apply(replica.shown, change.edit),
  };
}

/** The person's steps that are known, in order: those stored, and those on their way. */
export const ownSteps = ({ log, pending }: Replica): StepMark[] => [
  ...log.filter(({ own }) => own),
  ...pending,
];

/** All edits that are known, in order: those stored, and those on their way. */
export function entriesOf(replica: Replica): Entry[] {
  let after = replica.stored;
  const pending = replica.pending.map((change): Entry => {
    after = apply(after, change.edit);
    return { ...change, own: true, after };
  });
  return [...replica.log, ...pending];
}

/** The edit that takes a step of the replica's person back, on what is shown. Throws an EditError where nothing is left of it. */
export const takenBack = (replica: Replica, step: string): Edit =>
  takeBack(replica.logFrom, entriesOf(replica), step);

/** Shows the stored state with what is on its way; an edit that does not fit is left for the server to refuse. */
export function withPending(replica: Replica, pending: readonly Change[]): Replica {
  const shown = pending.reduce((state, { edit }) => {
    try {
      return apply(state, edit);
    } catch {
      return state;
    }
  }, replica.stored);
  return { ...replica, pending, shown };
}

/** What came of taking in edits: the replica, and what could not be joined. */
export interface Received {
  readonly replica: Replica;
  readonly unmerged: readonly Unmerged[];
}

/** The stored state moved on by one edit. */
function advanced(replica: Replica, one: Numbered, stored: EmailDocument): Replica {
  const { seq, person, id, edit, does, step, of } = one;
  const entry = { id, edit, does, step, of, own: person === replica.person, after: stored };
  const log = [...replica.log, entry];
  if (log.length <= 2 * LIMITS.undoEdits) return { ...replica, seq, stored, log };
  // A tab that stays open for days keeps no more than one that opens now would get.
  const [before, ...latest] = log.slice(-LIMITS.undoEdits - 1);
  return { ...replica, seq, stored, log: latest, logFrom: () => before!.after };
}

/** Changes as they are moved over others. */
const ownOf = (changes: readonly Change[], others: readonly Change[]): Own[] =>
  withTakesBack(changes).map(({ edit, takesBack }, i) => {
    const { does, of } = changes[i]!;
    return {
      edit,
      yields: does !== "do",
      // Two tabs of one person took the same step back: once is enough.
      done: of !== null && others.some((one) => one.of === of),
      of: takesBack,
    };
  });

/** Takes in edits of others, all of which were stored one after another. */
function takeIn(replica: Replica, others: readonly Numbered[]): Received {
  const { pending, stored } = replica;
  let now = replica;
  for (const one of others) now = advanced(now, one, apply(now.stored, one.edit));
  if (pending.length === 0) return { replica: { ...now, shown: now.stored }, unmerged: [] };
  const mine = ownOf(pending, others);
  const { edits, unmerged, doc } = moveOver(stored, mine, withTakesBack(others));
  const moved = pending.flatMap((change, i) => {
    const edit = edits[i];
    return edit ? [{ ...change, edit }] : [];
  });
  return { replica: { ...now, pending: moved, shown: doc }, unmerged };
}

/** Takes in an own edit that has been stored. */
function acknowledged(replica: Replica, own: Numbered): Replica {
  const [first, ...pending] = replica.pending as [Change, ...Change[]];
  if (sameJson(first.edit, own.edit)) {
    // What is shown is right already; where nothing else is on its way, it is what is stored.
    const stored = pending.length > 0 ? apply(replica.stored, own.edit) : replica.shown;
    return { ...advanced(replica, own, stored), pending };
  }
  return withPending(advanced(replica, own, apply(replica.stored, own.edit)), pending);
}

/**
 * Takes in edits as they were stored, in order; those it has already are passed over. Throws a RangeError where
 * one is missing in between.
 */
export function received(start: Replica, edits: readonly Numbered[]): Received {
  let replica = start;
  const unmerged: Unmerged[] = [];
  let others: Numbered[] = [];
  const settle = () => {
    if (others.length === 0) return;
    const taken = takeIn(replica, others);
    replica = taken.replica;
    unmerged.push(...taken.unmerged);
    others = [];
  };
  for (const one of edits) {
    const seq = others.at(-1)?.seq ?? replica.seq;
    if (one.seq <= seq) continue;
    if (one.seq !== seq + 1) throw new RangeError("An edit is missing in between");
    // What is on its way is known to be the stored one only when those before it are taken in.
    if (replica.pending.some(({ id }) => id === one.id)) settle();
    if (replica.pending[0]?.id === one.id) replica = acknowledged(replica, one);
    else others.push(one);
  }
  settle();
  return { replica, unmerged };
}

/**
 * Takes over edits that another tab of the person left behind, made on an earlier state; `since` is what was
 * stored after that. The replica has nothing on its way itself.
 */
export function adopted(
  replica: Replica,
  left: { readonly seq: number; readonly doc: EmailDocument; readonly changes: readonly Change[] },
  since: readonly Numbered[],
): Received {
  const older = withPending(replicaOf(replica.person, left.seq, left.doc), left.changes);
  const moved = received(
    older,
    since.filter(({ seq }) => seq <= replica.seq),
  );
  const { pending, shown } = moved.replica;
  return { replica: { ...replica, pending, shown }, unmerged: moved.unmerged };
}

/** What is to be stored of changes that were made on an earlier state; `stale` where they cannot be joined with what came since. */
export interface Admitted {
  readonly changes: readonly Change[];
  readonly stale: boolean;
}

/**
 * Brings changes, made one after another on `base`, up to the last of `since`, which came after it. Those
 * among them that are stored already are left out, and those with nothing left to do. Throws an EditError
 * where one does not fit the state it was made on.
 */
export function admitted(
  base: { readonly seq: number; readonly doc: EmailDocument },
  changes: readonly Change[],
  since: readonly Numbered[],
): Admitted {
  const start = changes.reduce(changed, replicaOf("", base.seq, base.doc));
  const { replica, unmerged } = received(start, since);
  return { changes: replica.pending, stale: unmerged.length > 0 };
}

/** Puts edits that were stored before all that the replica knows in front of its log, each with the edit that takes it back. */
export function withEarlier(
  replica: Replica,
  earlier: readonly (Numbered & { readonly inverse: Edit })[],
): Replica {
  const first = replica.seq - replica.log.length;
  const known = earlier.filter(({ seq }) => seq <= first);
  // States are made from the latest back as they are asked for: most never are.
  const states: EmailDocument[] = [];
  const stateAfter = (at: number): EmailDocument => {
    if (states.length === 0) states.push(replica.logFrom());
    const back = known.length - 1 - at;
    while (states.length <= back) {
      const { inverse } = known[known.length - states.length]!;
      states.push(apply(states.at(-1)!, inverse));
    }
    return states[back]!;
  };
  const before = known.map(({ id, edit, does, step, of, person }, at): Entry => {
    const own = person === replica.person;
    return {
      id,
      edit,
      does,
      step,
      of,
      own,
      get after() {
        return stateAfter(at);
      },
    };
  });
  return { ...replica, log: [...before, ...replica.log], logFrom: () => stateAfter(-1) };
}
