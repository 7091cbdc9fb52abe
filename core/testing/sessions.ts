/**
 * Three tabs, two people and a server, with a line that is slow, drops answers, doubles requests and is cut;
 * tabs close with unsent edits that others take over. Nothing here knows of a browser or a database.
 */
import { createDocument } from "../blocks/index.ts";
import {
  admitted,
  adopted,
  apply,
  type Change,
  changed,
  EditError,
  type EmailDocument,
  entriesOf,
  joinedOn,
  type Numbered,
  nextStep,
  type Received,
  type Replica,
  received,
  replicaOf,
  takenBack,
} from "../document/index.ts";
import { canonical } from "../json.ts";
import { chance as chanceOf } from "../random.ts";
import { lettersFrom, lettersOf, randomEdit, startDocument } from "./random-edits.ts";

export interface SessionResult {
  /** Tabs whose document at the end is not the server's, byte for byte. */
  readonly diverged: number;
  /** Letters that were typed and are nowhere. */
  readonly lettersLost: number;
  readonly edits: number;
  readonly clashes: number;
  readonly undone: number;
}

interface Tab {
  readonly person: string;
  replica: Replica;
  online: boolean;
  /** Edits that may have left. */
  readonly gone: Set<string>;
  /** What tabs of this person left behind. */
  passed: Set<string>;
}

/** Plays one session; the same seed plays the same. */
export function playSession(seed: number, actions = 120): SessionResult {
  const chance = chanceOf(seed);
  const letters = lettersFrom();
  let ids = 0;
  const newId = () => `n${++ids}`;
  const start = createDocument(startDocument(newId));
  /** The server: every edit in order, and the state after each. */
  const log: Numbered[] = [];
  const states: EmailDocument[] = [start];
  /** Letters that were stored at some time. */
  const stored = lettersOf(start);
  /** Letters of clashes that were named: the browser keeps both versions until a person chooses one. */
  const named = new Set<string>();
  const left: { person: string; seq: number; changes: readonly Change[]; shown: EmailDocument }[] =
    [];
  const tabs = ["ada", "ada", "bo"].map(
    (person): Tab => ({
      person,
      replica: replicaOf(person, 0, start),
      online: true,
      gone: new Set(),
      passed: new Set(),
    }),
  );
  let [lettersLost, edits, clashes, undone] = [0, 0, 0, 0];

  const count = (before: EmailDocument, { replica, unmerged }: Received) => {
    clashes += unmerged.length;
    for (const letter of lettersOf(unmerged)) named.add(letter);
    // What is on its way will be stored, also where a later edit takes it out again.
    const here = lettersOf([replica.shown, replica.pending]);
    for (const letter of lettersOf(before)) {
      if (!here.has(letter) && !stored.has(letter) && !named.has(letter)) lettersLost++;
    }
  };
  const take = (tab: Tab, result: Received) => {
    count(tab.replica.shown, result);
    tab.replica = result.replica;
  };
  const listen = (tab: Tab, upTo = log.length) => {
    if (upTo > tab.replica.seq) take(tab, received(tab.replica, log.slice(tab.replica.seq, upTo)));
  };

  /** What the server does with a request; gives false where the tab has to catch up first. */
  function serve(person: string, base: number, changes: readonly Change[]): boolean {
    const since = log.slice(base);
    const result = admitted({ seq: base, doc: states[base]! }, changes, since);
    if (result.stale) return false;
    for (const change of result.changes) {
      if (change.of !== null && log.some((one) => one.of === change.of)) continue;
      states.push(apply(states.at(-1)!, change.edit));
      log.push({ ...change, seq: log.length + 1, person });
      for (const letter of lettersOf(change.edit)) stored.add(letter);
    }
    return true;
  }

  function send(tab: Tab, reliable = false): void {
    const { seq, pending } = tab.replica;
    if (pending.length === 0) return;
    const batch = reliable ? pending : pending.slice(0, 1 + chance.below(pending.length));
    for (const { id } of batch) tab.gone.add(id);
    if (!reliable && chance.is(0.15)) return; // The request is lost.
    const ok = serve(tab.person, seq, batch);
    if (!reliable && chance.is(0.1)) serve(tab.person, seq, batch); // It comes twice.
    if (!reliable && chance.is(0.2)) return; // The answer is lost.
    if (!ok || reliable) {
      listen(tab);
      return;
    }
    // One's own edits come with the answer, what stands before them is asked for.
    const last = log.findLastIndex(({ id }) => batch.some((one) => one.id === id));
    listen(tab, last + 1);
  }

  function change(tab: Tab): void {
    const edit = randomEdit(tab.replica.shown, chance, letters, newId, states.slice(-6));
    if (!edit) return;
    const id = `e${++edits}-------`;
    const last = entriesOf(tab.replica).findLast(({ own }) => own);
    const goesOn = edit.type === "text" && last?.does === "do" && chance.is(0.4);
    const step = goesOn ? last.step : id;
    const made: Change = { id, edit, does: "do", step, of: null };
    const tail = tab.replica.pending.at(-1);
    const joined = tail && !tab.gone.has(tail.id) ? joinedOn(tab.replica, made) : null;
    tab.replica = joined ?? changed(tab.replica, made);
  }

  function back(tab: Tab, what: "undo" | "redo"): void {
    const own = entriesOf(tab.replica).filter((one) => one.own && !tab.passed.has(one.step));
    const of = nextStep(own, what);
    if (of === null) return;
    try {
      const edit = takenBack(tab.replica, of);
      const id = `e${++edits}-------`;
      tab.replica = changed(tab.replica, { id, edit, does: what, step: id, of });
      undone++;
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      tab.passed.add(of);
    }
  }

  function close(tab: Tab): void {
    const { seq, pending, shown } = tab.replica;
    if (pending.length > 0) left.push({ person: tab.person, seq, changes: pending, shown });
    tab.replica = replicaOf(tab.person, log.length, states.at(-1)!);
    tab.passed = new Set();
  }

  function adopt(tab: Tab): void {
    const at = left.findIndex(({ person }) => person === tab.person);
    // What a tab has on its way itself goes first.
    if (tab.replica.pending.length > 0) {
      send(tab, true);
      return;
    }
    if (at < 0) return;
    const [one] = left.splice(at, 1);
    for (const { id } of one!.changes) tab.gone.add(id);
    const base = { seq: one!.seq, doc: states[one!.seq]!, changes: one!.changes };
    // The state it was made on may be later than what this tab knows.
    if (one!.seq > tab.replica.seq) listen(tab, one!.seq);
    const result = adopted(tab.replica, base, log.slice(one!.seq));
    count(one!.shown, result);
    take(tab, result);
  }

  for (let i = 0; i < actions; i++) {
    const tab = chance.pick(tabs);
    const what = chance.below(100);
    if (what < 45) change(tab);
    else if (what < 53) back(tab, "undo");
    else if (what < 57) back(tab, "redo");
    else if (what < 61) tab.online = !tab.online;
    else if (what < 63) close(tab);
    else if (!tab.online) continue;
    else if (what < 80) send(tab);
    else if (what < 84) adopt(tab);
    else listen(tab, tab.replica.seq + chance.below(log.length - tab.replica.seq + 1));
  }
  while (left.length > 0) for (const tab of tabs) adopt(tab);
  for (let round = 0; round < 6; round++) {
    for (const tab of tabs) {
      listen(tab);
      send(tab, true);
    }
  }
  for (const tab of tabs) listen(tab);
  const end = canonical(states.at(-1)!);
  const diverged = tabs.filter(
    ({ replica }) => replica.pending.length > 0 || canonical(replica.shown) !== end,
  ).length;
  return { diverged, lettersLost, edits, clashes, undone };
}
