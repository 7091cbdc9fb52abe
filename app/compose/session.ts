/**
 * The composer's document: edits are applied at once, sent in order, and followed from other tabs. What
 * is shown is the stored state with the edits on their way applied on top.
 */
import { nanoid } from "nanoid";
import { checkDocument } from "#core/blocks/index.ts";
import {
  apply,
  type Edit,
  EditError,
  type EmailDocument,
  type Envelope,
  find,
  parts,
  type StoredEdit,
  valueAt,
} from "#core/document/index.ts";
import { sameJson } from "#core/json.ts";
import type { TextJson } from "#core/text/index.ts";
import type { EditsAnswer } from "./wire.ts";

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
  readonly conflict: Conflict | null;
}

export interface Session {
  subscribe(listener: () => void): () => void;
  state(): SessionState;
  /** Applies an edit and sends it. Gives false, and says why, when it does not fit. */
  edit(edit: Edit): boolean;
  undo(): Promise<void>;
  redo(): Promise<void>;
  /** Sends what is on its way even while the page closes. */
  flush(): void;
  /** Registers what is to be called before anything is sent early (text that is being typed). */
  beforeFlush(work: () => void): () => void;
  settleConflict(): void;
  /** Starts following other tabs; gives the way to stop. */
  follow(): () => void;
}

const RETRY_MS = 2_000;

export function createSession(
  start: { campaign: string; seq: number; doc: EmailDocument; can: SessionState["can"] },
  say: (text: string) => void,
): Session {
  const address = `/campaigns/${start.campaign}`;
  const tab = nanoid(10);
  let stored = { seq: start.seq, doc: start.doc };
  let pending: Envelope[] = [];
  const unsent = new Set<() => void>();
  let running: Promise<void> | null = null;
  let current: SessionState = {
    doc: start.doc,
    saving: "saved",
    savedAt: null,
    can: start.can,
    conflict: null,
  };
  const listeners = new Set<() => void>();

  function set(change: Partial<SessionState>): void {
    current = { ...current, ...change };
    for (const listener of listeners) listener();
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

  function receive(edits: readonly StoredEdit[]): void {
    let foreign = false;
    for (const { seq, id, edit } of edits) {
      if (seq <= stored.seq) continue;
      if (seq !== stored.seq + 1) return void catchUp();
      const mine = pending[0]?.id === id;
      // While only own edits come back in order, what is shown is right already.
      if (mine) pending = pending.slice(1);
      else foreign = true;
      stored = { seq, doc: apply(stored.doc, edit) };
    }
    if (pending.length === 0 && !foreign) stored = { ...stored, doc: current.doc };
    else if (foreign) set({ doc: pending.length ? rebuilt() : stored.doc });
  }

  async function catchUp(): Promise<void> {
    const response = await fetch(`${address}/edits?since=${stored.seq}`);
    if (response.ok) receive((await response.json()) as StoredEdit[]);
  }

  async function post(body: unknown, keepalive = false): Promise<EditsAnswer | null> {
    try {
      const response = await fetch(`${address}/edits`, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify(body),
        keepalive,
      });
      if (response.status !== 200 && response.status !== 409) return null;
      return (await response.json()) as EditsAnswer;
    } catch {
      return null;
    }
  }

  /** The first text among refused edits whose two versions differ. */
  function conflictIn(refused: readonly Envelope[], now: EmailDocument): Conflict | null {
    for (const { edit } of refused) {
      for (const part of parts(edit)) {
        if (part.type !== "text") continue;
        const read = (doc: EmailDocument) => {
          const node = find(doc, part.node)?.node;
          return node ? ((valueAt(node.props, part.path) as unknown as TextJson) ?? null) : null;
        };
        const [mine, theirs] = [read(current.doc), read(now)];
        if (mine && !sameJson(mine, theirs)) {
          return { node: part.node, path: part.path, mine, theirs };
        }
      }
    }
    return null;
  }

  function refused(answer: EditsAnswer): void {
    const lost = pending;
    pending = [];
    const conflict = answer.stored ? conflictIn(lost, answer.stored.doc) : null;
    if (answer.stored) stored = answer.stored;
    set({ doc: stored.doc, saving: "saved", can: answer.can, conflict });
    if (!conflict) say(answer.message ?? "This change was refused.");
  }

  async function send(): Promise<void> {
    while (pending.length > 0) {
      const batch = pending.slice(0, 100);
      const answer = await post({ do: "edits", envelopes: batch });
      if (!answer) {
        set({ saving: "waiting" });
        await new Promise((ok) => setTimeout(ok, RETRY_MS));
      } else if (answer.problem) refused(answer);
      else {
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
    for (const work of unsent) work();
    if (pending.length || running) await keepSending();
    const answer = await post({ do: what, tab });
    if (!answer) return say("There is no connection; try again in a moment.");
    if (answer.problem) {
      set({ can: answer.can });
      return say(answer.message ?? "This cannot be taken back.");
    }
    receive(answer.edits);
    set({ can: answer.can, savedAt: new Date() });
  }

  return {
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    state: () => current,
    edit(edit) {
      try {
        const doc = apply(current.doc, edit);
        checkDocument(doc);
        pending = [...pending, { id: nanoid(16), tab, base: stored.seq, edit }];
        set({ doc, saving: "saving", can: { undo: true, redo: false } });
      } catch (error) {
        if (!(error instanceof EditError)) throw error;
        say(error.message);
        return false;
      }
      void keepSending();
      return true;
    },
    undo: () => step("undo"),
    redo: () => step("redo"),
    flush() {
      for (const work of unsent) work();
      // What is on its way may be cut off with the page; sent twice it does no harm.
      if (pending.length) void post({ do: "edits", envelopes: pending }, true);
    },
    beforeFlush(work) {
      unsent.add(work);
      return () => unsent.delete(work);
    },
    settleConflict: () => set({ conflict: null }),
    follow() {
      const source = new EventSource(`${address}/follow?since=${stored.seq}`);
      source.onmessage = (event) => receive(JSON.parse(event.data) as StoredEdit[]);
      source.onopen = () => void catchUp();
      return () => source.close();
    },
  };
}
