/**
 * The composer's document: edits are applied at once, sent in order, and followed from other tabs. What
 * is shown is the stored state with the edits on their way applied on top.
 */
import { nanoid } from "nanoid";
import { checkDocument } from "#core/blocks/index.ts";
import type { Trouble } from "#core/blocks/read.ts";
import {
  apply,
  clash,
  type Edit,
  EditError,
  type EmailDocument,
  type Envelope,
  find,
  parts,
  type StoredEdit,
  valueAt,
} from "#core/document/index.ts";
import { type Json, sameJson } from "#core/json.ts";
import type { TextJson } from "#core/text/index.ts";
import type { EditsAnswer } from "./wire.ts";

/** A text that two people changed: both versions, so that nothing is lost. */
export interface Conflict {
  readonly node: string;
  readonly path: readonly string[];
  readonly mine: TextJson;
  readonly theirs: TextJson | null;
}

/** Steps typed into a text, and what they were typed on. */
export interface WrittenText {
  readonly node: string;
  readonly path: readonly string[];
  readonly steps: Json[];
  readonly base: number;
  readonly mine: TextJson;
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
  /** Applies steps written on the state `seq`; `mine` is the text as the person sees it. */
  write(text: WrittenText): void;
  /** The sequence number of the state that is shown. */
  seq(): number;
  undo(): Promise<void>;
  redo(): Promise<void>;
  /** Text is being typed that has not become an edit yet. */
  typing(): void;
  /** Sends what is on its way even while the page closes. */
  flush(): void;
  /** Sends everything and waits for it; gives whether there was anything. */
  finish(): Promise<boolean>;
  /** Registers what is to be called before anything is sent early (text that is being typed). */
  beforeFlush(work: () => void): () => void;
  settleConflict(): void;
  /** Starts following other tabs; gives the way to stop. */
  follow(): () => void;
}

const RETRY_MS = 2_000;
/** Edits of others that are kept for comparing. */
const KEPT_FOREIGN = 100;

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
  const address = `/campaigns/${start.campaign}`;
  const tab = nanoid(10);
  let stored = { seq: start.seq, doc: start.doc };
  let pending: Envelope[] = [];
  const unsent = new Set<() => void>();
  /** The latest edits of others, to find out whether a text was written on stale ground. */
  let foreign: StoredEdit[] = [];
  /** Texts as the person saw them when somebody else's change came in under an edit on its way. */
  const seen = new Map<string, TextJson>();
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
    let changed = false;
    for (const stored_ of edits) {
      const { seq, id, edit } = stored_;
      if (seq <= stored.seq) continue;
      if (seq !== stored.seq + 1) return void catchUp();
      const mine = pending[0]?.id === id;
      // While only own edits come back in order, what is shown is right already.
      if (mine) pending = pending.slice(1);
      else {
        changed = true;
        foreign = [...foreign.slice(-KEPT_FOREIGN), stored_];
        remember(edit);
      }
      stored = { seq, doc: apply(stored.doc, edit) };
    }
    if (pending.length === 0 && !changed) stored = { ...stored, doc: current.doc };
    else if (changed) set({ doc: pending.length ? rebuilt() : stored.doc });
  }

  const keyOf = (node: string, path: readonly string[]) => `${node} ${path.join(".")}`;

  function textAt(doc: EmailDocument, node: string, path: readonly string[]): TextJson | null {
    const found = find(doc, node)?.node;
    return found ? ((valueAt(found.props, path) as unknown as TextJson) ?? null) : null;
  }

  /** Keeps the texts of edits on their way that an edit of somebody else clashes with. */
  function remember(other: Edit): void {
    for (const { edit } of pending) {
      if (!clash(edit, other)) continue;
      for (const part of parts(edit)) {
        if (part.type !== "text" || seen.has(keyOf(part.node, part.path))) continue;
        const text = textAt(current.doc, part.node, part.path);
        if (text) seen.set(keyOf(part.node, part.path), text);
      }
    }
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
        const { node, path } = part;
        const mine = seen.get(keyOf(node, path)) ?? textAt(current.doc, node, path);
        const theirs = textAt(now, node, path);
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
    seen.clear();
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

  function edit(change: Edit): boolean {
    if (start.trouble) {
      say(start.trouble.reason);
      return false;
    }
    try {
      const doc = apply(current.doc, change);
      checkDocument(doc);
      pending = [...pending, { id: nanoid(16), tab, base: stored.seq, edit: change }];
      set({ doc, saving: "saving", can: { undo: true, redo: false } });
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      say(error.message);
      return false;
    }
    void keepSending();
    return true;
  }

  return {
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    state: () => current,
    seq: () => stored.seq,
    edit,
    write({ node, path, steps, base, mine }) {
      const idle = pending.length === 0 && !running;
      if (!find(current.doc, node)) return void (idle && set({ saving: "saved" }));
      const change: Edit = { type: "text", node, path: [...path], steps };
      const stale = foreign.some((other) => other.seq > base && clash(change, other.edit));
      if (!stale && edit(change)) return;
      if (idle) set({ saving: "saved" });
      if (stale) set({ conflict: { node, path, mine, theirs: textAt(current.doc, node, path) } });
    },
    typing: () => set({ saving: "saving" }),
    async finish() {
      for (const work of unsent) work();
      if (pending.length === 0 && !running) return false;
      await keepSending();
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
      let source: EventSource | null = null;
      const begin = () => {
        source ??= new EventSource(`${address}/follow?since=${stored.seq}`);
        source.onmessage = (event) => receive(JSON.parse(event.data) as StoredEdit[]);
        source.onopen = () => void catchUp();
      };
      // A page that is kept for going back to would keep its connection, and a browser has few of them.
      const end = () => {
        source?.close();
        source = null;
      };
      begin();
      globalThis.addEventListener?.("pagehide", end);
      globalThis.addEventListener?.("pageshow", begin);
      return () => {
        globalThis.removeEventListener?.("pagehide", end);
        globalThis.removeEventListener?.("pageshow", begin);
        end();
      };
    },
  };
}
