/**
 * The composer's document: edits are applied at once, sent in order, and followed from other tabs. What
 * is shown is the stored state with the edits on their way applied on top. An edit of somebody else that
 * was stored first is merged: the edits on their way are moved over it.
 */
import { nanoid } from "nanoid";
import { checkDocument } from "#core/blocks/index.ts";
import type { Trouble } from "#core/blocks/read.ts";
import {
  apply,
  type Edit,
  EditError,
  type EmailDocument,
  type Envelope,
  find,
  mergeOver,
  type StoredEdit,
  type Unmerged,
  valueAt,
} from "#core/document/index.ts";
import { sameJson } from "#core/json.ts";
import type { TextJson } from "#core/text/index.ts";
import { createRemote } from "./remote.ts";
import { createUnsent } from "./unsent.ts";
import type { EditsAnswer, Presence, StateAnswer } from "./wire.ts";

/** A text that two people changed: both versions, so that nothing is lost. */
export interface Conflict {
  readonly node: string;
  readonly path: readonly string[];
  readonly mine: TextJson;
  readonly theirs: TextJson | null;
}

export interface SessionState {
  readonly doc: EmailDocument;
  readonly saving: "saved" | "saving" | "waiting";
  readonly savedAt: Date | null;
  readonly can: { readonly undo: boolean; readonly redo: boolean };
  /** The first of the texts that could not be joined; the next comes when it is settled. */
  readonly conflict: Conflict | null;
  /** Others who have this email open, and where they are. */
  readonly others: readonly Presence[];
}

export interface Session {
  subscribe(listener: () => void): () => void;
  state(): SessionState;
  /** Applies an edit and sends it. Gives false, and says why, when it does not fit. */
  edit(edit: Edit): boolean;
  undo(): Promise<void>;
  redo(): Promise<void>;
  /** Text is being typed that has not become an edit yet. */
  typing(): void;
  /** Nothing came of the typing. */
  rested(): void;
  /** Sends what is on its way even while the page closes. */
  flush(): void;
  /** Sends everything and waits for it; gives whether there was anything. */
  finish(): Promise<boolean>;
  /** Registers what is to be called before anything is sent early or merged (text that is being typed). */
  beforeFlush(work: () => void): () => void;
  settleConflict(): void;
  /** Starts following other tabs, and sends what an earlier tab left behind; gives the way to stop. */
  follow(): () => void;
  /** Says to others where this person is. */
  here(at: string | null): void;
}

const RETRY_MS = 2_000;
/** How long a selection rests before others hear of it, ms. */
const PRESENCE_MS = 200;
/** How often edits are merged and sent again before they are given up as refused. */
const MERGES = 8;
const BATCH = 100;

export function createSession(
  start: {
    campaign: string;
    seq: number;
    doc: EmailDocument;
    can: SessionState["can"];
    /** Why nothing can be changed; null where all can. */
    trouble: Trouble | null;
  },
  say: (text: string) => void,
): Session {
  const remote = createRemote(start.campaign);
  const tab = nanoid(10);
  const unsent = createUnsent(start.campaign, tab);
  let stored = { seq: start.seq, doc: start.doc };
  let pending: readonly Envelope[] = [];
  /** Texts that could not be joined and have not been shown yet. */
  let conflicts: readonly Conflict[] = [];
  const early = new Set<() => void>();
  let running: Promise<void> | null = null;
  /** Ends the wait for the next try. */
  let hurry = () => {};
  let where: { at: string | null; timer: ReturnType<typeof setTimeout> | undefined } = {
    at: null,
    timer: undefined,
  };
  let current: SessionState = {
    doc: start.doc,
    saving: "saved",
    savedAt: null,
    can: start.can,
    conflict: null,
    others: [],
  };
  const listeners = new Set<() => void>();

  function set(change: Partial<SessionState>): void {
    current = { ...current, ...change };
    for (const listener of listeners) listener();
  }
  function setPending(next: readonly Envelope[]): void {
    pending = next;
    unsent.keep(stored.seq, pending);
  }

  /** The stored state with what is on its way on top; an edit that no longer fits is left out. */
  function rebuilt(): EmailDocument {
    let doc = stored.doc;
    for (const { edit } of pending) {
      try {
        doc = apply(doc, edit);
      } catch {
        // The server will refuse it and say so.
      }
    }
    return doc;
  }

  function textAt(doc: EmailDocument, { node, path }: Unmerged): TextJson | null {
    const found = find(doc, node)?.node;
    return found ? ((valueAt(found.props, path) as unknown as TextJson) ?? null) : null;
  }

  /** Moves what is on its way over an edit of somebody else; texts that cannot be joined are kept to be shown. */
  function merge({ seq, edit }: StoredEdit): void {
    // What is being typed becomes an edit first, so that it is moved with the others.
    for (const work of early) work();
    const before = current.doc;
    const { edits, unmerged } = mergeOver(
      pending.map((envelope) => envelope.edit),
      edit,
    );
    stored = { seq, doc: apply(stored.doc, edit) };
    setPending(
      pending.flatMap((envelope, i) => {
        const moved = edits[i];
        return moved ? [{ ...envelope, base: seq, edit: moved }] : [];
      }),
    );
    const clashes = unmerged.flatMap((place): Conflict[] => {
      const [mine, theirs] = [textAt(before, place), textAt(stored.doc, place)];
      return mine && !sameJson(mine, theirs) ? [{ ...place, mine, theirs }] : [];
    });
    conflicts = [...conflicts, ...clashes];
  }

  /** The next conflict to be shown, where none is. */
  function nextConflict(): Conflict | null {
    if (current.conflict) return current.conflict;
    const [next = null, ...rest] = conflicts;
    conflicts = rest;
    return next;
  }

  function receive(edits: readonly StoredEdit[]): void {
    let changed = false;
    for (const one of edits) {
      if (one.seq <= stored.seq) continue;
      if (one.seq !== stored.seq + 1) {
        void catchUp();
        break;
      }
      // While only own edits come back in order, what is shown is right already.
      if (pending[0]?.id === one.id) {
        stored = { seq: one.seq, doc: apply(stored.doc, one.edit) };
        setPending(pending.slice(1));
      } else {
        changed = true;
        merge(one);
      }
    }
    if (changed) {
      set({ doc: pending.length ? rebuilt() : stored.doc, conflict: nextConflict() });
    } else if (pending.length === 0) stored = { ...stored, doc: current.doc };
  }

  async function catchUp(): Promise<void> {
    const edits = await remote.ask<StoredEdit[]>(`edits?since=${stored.seq}`);
    if (edits) receive(edits);
  }

  /** An edit that the server will not take is given up; those that came after it go on. */
  async function refused(envelope: Envelope, answer: EditsAnswer): Promise<void> {
    await catchUp();
    if (answer.stored && answer.stored.seq > stored.seq) stored = answer.stored;
    setPending(pending.filter((one) => one.id !== envelope.id));
    set({ doc: rebuilt(), can: answer.can });
    say(answer.message ?? "This change was refused.");
  }

  async function send(): Promise<void> {
    let merges = 0;
    let batch = BATCH;
    while (pending.length > 0) {
      const envelopes = pending.slice(0, batch);
      const answer = await remote.edits({ do: "edits", envelopes });
      if (!answer) {
        set({ saving: "waiting" });
        await new Promise<void>((ok) => {
          const timer = setTimeout(ok, RETRY_MS);
          hurry = () => {
            clearTimeout(timer);
            ok();
          };
        });
      } else if (answer.problem === "stale" && ++merges <= MERGES) await catchUp();
      // All of a batch or none is taken: one at a time shows which of them does not fit.
      else if (answer.problem && envelopes.length > 1) batch = 1;
      else if (answer.problem) {
        await refused(envelopes[0]!, answer);
        batch = BATCH;
      } else {
        receive(answer.edits);
        set({ can: answer.can });
      }
    }
    set({ saving: "saved", savedAt: new Date() });
  }

  const keepSending = (): Promise<void> => {
    running ??= send().finally(() => {
      running = null;
    });
    return running;
  };

  async function step(what: "undo" | "redo"): Promise<void> {
    for (const work of early) work();
    if (pending.length || running) await keepSending();
    const answer = await remote.edits({ do: what, tab });
    if (!answer) return say("There is no connection; try again in a moment.");
    if (answer.problem) {
      set({ can: answer.can });
      return say(answer.message ?? "This cannot be taken back.");
    }
    receive(answer.edits);
    set({ can: answer.can, savedAt: new Date() });
  }

  function edit(change: Edit): boolean {
    if (start.trouble) {
      say(start.trouble.reason);
      return false;
    }
    try {
      const doc = apply(current.doc, change);
      checkDocument(doc);
      setPending([...pending, { id: nanoid(16), tab, base: stored.seq, edit: change }]);
      set({
        doc,
        saving: current.saving === "waiting" ? "waiting" : "saving",
        can: { undo: true, redo: false },
      });
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      say(error.message);
      return false;
    }
    void keepSending();
    return true;
  }

  /**
   * Takes over what earlier tabs could not send, one tab after another: applied to the state it was made on,
   * then brought up to now.
   */
  async function adopt(): Promise<void> {
    if (start.trouble) return;
    for (const { seq, envelopes, clear } of unsent.left()) {
      const older = await remote.ask<StateAnswer>(`history?at=${seq}`);
      // What this tab has on its way itself goes first: both at once would have two states below them.
      while (pending.length > 0) await keepSending();
      if (!older) continue;
      const now = stored.seq;
      stored = { seq: older.seq, doc: older.doc };
      setPending(envelopes);
      clear();
      current = { ...current, doc: rebuilt() };
      if (older.seq < now) await catchUp();
      set({ doc: rebuilt(), saving: "saving", can: { undo: true, redo: false } });
      await keepSending();
    }
  }

  return {
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    state: () => current,
    edit,
    typing: () => set({ saving: current.saving === "waiting" ? "waiting" : "saving" }),
    rested: () => {
      if (pending.length === 0 && !running) set({ saving: "saved" });
    },
    async finish() {
      for (const work of early) work();
      if (pending.length === 0 && !running) return false;
      await keepSending();
      return true;
    },
    undo: () => step("undo"),
    redo: () => step("redo"),
    flush() {
      for (const work of early) work();
      // What is on its way may be cut off with the page; sent twice it does no harm.
      if (pending.length) void remote.edits({ do: "edits", envelopes: pending }, true);
    },
    beforeFlush(work) {
      early.add(work);
      return () => early.delete(work);
    },
    settleConflict() {
      current = { ...current, conflict: null };
      set({ conflict: nextConflict() });
    },
    here(at) {
      if (where.at === at) return;
      clearTimeout(where.timer);
      where = {
        at,
        timer: setTimeout(() => void remote.tell("presence", { tab, at: where.at }), PRESENCE_MS),
      };
    },
    follow() {
      let source: EventSource | null = null;
      const begin = () => {
        if (source) return;
        source = remote.follow(stored.seq, tab);
        source.onmessage = (event) => receive(JSON.parse(event.data) as StoredEdit[]);
        source.addEventListener?.("presence", (event) => {
          const people = JSON.parse((event as MessageEvent).data) as Presence[];
          set({ others: people.filter((one) => one.tab !== tab) });
        });
        source.onopen = () => {
          void catchUp();
          if (where.at) void remote.tell("presence", { tab, at: where.at });
          hurry();
        };
      };
      // A page that is kept for going back to would keep its connection, and a browser has few of them.
      const end = () => {
        source?.close();
        source = null;
      };
      const back = () => hurry();
      begin();
      void adopt();
      globalThis.addEventListener?.("pagehide", end);
      globalThis.addEventListener?.("pageshow", begin);
      globalThis.addEventListener?.("online", back);
      return () => {
        globalThis.removeEventListener?.("pagehide", end);
        globalThis.removeEventListener?.("pageshow", begin);
        globalThis.removeEventListener?.("online", back);
        end();
      };
    },
  };
}
