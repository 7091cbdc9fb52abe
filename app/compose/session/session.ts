/**
 * The composer's document: edits, undo and redo are applied at once and leave through one queue, and what
 * others store is followed and merged. What cannot be merged stays until a choice is made.
 */
import { nanoid } from "nanoid";
import { createStore } from "zustand";
import { checkEdit } from "#core/blocks/check-edit.ts";
import type { Trouble } from "#core/blocks/read.ts";
import {
  adopted,
  type Change,
  changed,
  type Edit,
  EditError,
  type EmailDocument,
  joinedOn,
  nextStep,
  ownSteps,
  type Received,
  type Replica,
  received,
  replicaOf,
  type StoredEdit,
  stepOf,
  type Typed,
  takenBack,
  type Unmerged,
  withEarlier,
  withPending,
} from "#core/document/index.ts";
import { jsonBytes, sameJson } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";
import type { EarlierAnswer, Presence, StateAnswer } from "../wire.ts";
import { puttingBack, textsLost } from "./clashes.ts";
import { createRemote } from "./remote.ts";
import { createSender, type LineState } from "./sender.ts";
import { createUnsent, type Kept } from "./unsent.ts";

export interface SessionState {
  readonly doc: EmailDocument;
  readonly saving: LineState;
  readonly savedAt: Date | null;
  readonly can: { readonly undo: boolean; readonly redo: boolean };
  /** Words of this person that could not be joined with what somebody else did, the oldest first. */
  readonly clashes: readonly Kept[];
  /** Others who have this email open, and where they are. */
  readonly others: readonly Presence[];
}

export interface Session {
  /** The campaign whose email it is. */
  readonly campaign: string;
  readonly store: Readable<SessionState>;
  /** What the store holds at this moment. */
  state(): SessionState;
  /** Applies an edit and sends it. Gives false, and says why, when it does not fit. */
  edit(edit: Edit): boolean;
  /** Takes the person's last step back, or does it again: at once, and as an edit like any other. */
  undo(): void;
  redo(): void;
  /** Text is being typed that has not become an edit yet. */
  typing(): void;
  /** Nothing came of the typing. */
  rested(): void;
  /** Sends what is on its way even while the page closes. */
  flush(): void;
  /** Sends everything and waits for it. */
  finish(): Promise<void>;
  /**
   * Another page begins to read the email: everything is sent at once. What it gives is asked when that page
   * stands; it waits until all is stored, and tells whether that page may have been read too early.
   */
  readElsewhere(): () => Promise<boolean>;
  /** Registers what is to be called before anything is sent early or merged (text that is being typed). */
  beforeFlush(work: () => void): () => void;
  /** Ends the choice between two versions: the person's own is put in, or let go. */
  settle(id: string, keep: "mine" | "theirs"): void;
  /** The edits on their way, where the server takes no more of them; and letting them go once they are kept elsewhere. */
  left(): readonly Change[];
  letGo(): void;
  /** Goes on after the person has signed in again. */
  signedIn(): void;
  /** Starts following other tabs, and sends what an earlier tab left behind; gives the way to stop. */
  follow(): () => void;
  /** Says to others where this person is. */
  here(at: string | null): void;
}

/** How long a selection rests before others hear of it, ms. */
const PRESENCE_MS = 200;
/** Hands that wrote have rested after this, ms. */
const WRITING_MS = 400;
/** How long to wait before following again after the stream was closed, ms. */
const FOLLOW_AGAIN_MS = 5_000;

export interface SessionStart {
  readonly campaign: string;
  /** The member whose edits these are. */
  readonly person: string;
  /** What templates hold is held for them. */
  readonly holds: boolean;
  readonly seq: number;
  readonly doc: EmailDocument;
  readonly can: SessionState["can"];
  /** Why nothing can be changed; null where all can. */
  readonly trouble: Pick<Trouble, "reason"> | null;
}

export function createSession(start: SessionStart, say: (text: string) => void): Session {
  const remote = createRemote(start.campaign);
  const tab = nanoid(10);
  const unsent = createUnsent(start.campaign, tab);
  let replica: Replica = replicaOf(start.person, start.seq, start.doc);
  let typed: Typed | null = null;
  /** Steps of which nothing was left to take back. */
  const passed = new Set<string>();
  /** What was done before this tab was opened, for undo; null until it has come. */
  let earlier: Promise<boolean> | null = null;
  let knowsEarlier = false;
  const early = new Set<() => void>();
  let where: { at: string | null; timer: ReturnType<typeof setTimeout> | undefined } = {
    at: null,
    timer: undefined,
  };
  /** When the hands of who writes here will have rested, ms of the clock. */
  const rests: { at: number; timer?: ReturnType<typeof setTimeout> } = { at: 0 };
  const store = createStore<SessionState>(() => ({
    doc: start.doc,
    saving: "saved",
    savedAt: null,
    can: start.can,
    clashes: [],
    others: [],
  }));
  const { getState, setState: set } = store;

  const steps = () => ownSteps(replica).filter(({ step }) => !passed.has(step));
  /** What can be undone and redone, as far as it is known. */
  function possible(): SessionState["can"] {
    const own = steps();
    const does = own.some((one) => one.does === "do");
    const before = knowsEarlier ? { undo: false, redo: false } : start.can;
    const undo = nextStep(own, "undo") !== null || before.undo;
    const redo = nextStep(own, "redo") !== null || (before.redo && !does);
    const { can } = getState();
    return can.undo === undo && can.redo === redo ? can : { undo, redo };
  }

  /** Makes a state of the replica the one that is shown and kept. */
  function become(next: Replica, change: Partial<SessionState> = {}): void {
    replica = next;
    unsent.keep(replica.seq, replica.pending);
    const doc = sameDocument(next.shown, getState().doc);
    set({ doc, can: possible(), ...change });
  }

  /** Notes what could not be joined; it stays, over a reload too, until a choice is made. */
  function noted(unmerged: readonly Unmerged[]): Partial<SessionState> {
    const made = unmerged
      .filter(({ mine, theirs, lost }) => lost || (mine !== null && !sameJson(mine, theirs)))
      .map((one): Kept => ({ ...one, id: `${Date.now().toString(36)}-${nanoid(6)}` }));
    for (const one of made) unsent.keepClash(one);
    return made.length > 0 ? { clashes: [...getState().clashes, ...made] } : {};
  }
  const take = ({ replica: next, unmerged }: Received) => become(next, noted(unmerged));

  function receive(edits: readonly StoredEdit[]): void {
    const fresh = edits.filter(({ seq }) => seq > replica.seq);
    if (fresh.length === 0) return;
    // While only own edits come back in order, nothing has to be merged.
    const others = fresh.some(({ id }, i) => replica.pending[i]?.id !== id);
    // What is being typed becomes an edit first, so that it is moved with the others.
    if (others) for (const work of early) work();
    const gap = fresh.findIndex(({ seq }, i) => seq !== replica.seq + 1 + i);
    take(received(replica, gap < 0 ? fresh : fresh.slice(0, gap)));
    if (gap >= 0) void catchUp();
  }

  async function catchUp(): Promise<boolean> {
    const reply = await remote.get<StoredEdit[]>(`edits?since=${replica.seq}`);
    if (reply.kind === "ok") receive(reply.body);
    if (reply.kind === "signedOut") said("signedOut");
    return reply.kind === "ok";
  }

  /** Takes edits off their way; words in what the server refused are kept for the person. */
  function giveUp(changes: readonly Change[], why: string | null): void {
    const ids = new Set(changes.map(({ id }) => id));
    const before = replica.shown;
    const pending = replica.pending.filter(({ id }) => !ids.has(id));
    const next = withPending(replica, pending);
    const lost = why === null ? [] : textsLost(changes, before, next.shown);
    become(next, noted(lost));
    if (why !== null) say(why);
  }

  /** Says how it stands. What somebody writes at is called saved when their hands rest, not with every request. */
  function said(saving: LineState): void {
    clearTimeout(rests.timer);
    const left = saving === "saved" ? rests.at - Date.now() : 0;
    if (left <= 0) set({ saving, ...(saving === "saved" && { savedAt: new Date() }) });
    else rests.timer = setTimeout(() => sender.busy() || said("saved"), left);
  }

  const sender = createSender(remote, tab, {
    replica: () => replica,
    receive,
    catchUp,
    giveUp,
    state: said,
  });

  /** Puts a change on its way. Gives false, and says why, when it does not fit. */
  function put(edit: Edit, history: Pick<Change, "does" | "of"> | null): boolean {
    if (start.trouble) {
      say(start.trouble.reason);
      return false;
    }
    const id = nanoid(16);
    const group = history ? { step: id, typed: null } : stepOf(edit, id, typed, Date.now());
    const change: Change = { id, edit, does: "do", of: null, ...history, step: group.step };
    try {
      if (jsonBytes(edit) > LIMITS.editBytes) {
        throw new EditError("limit", "This change is too large to be saved.");
      }
      const last = replica.pending.at(-1);
      const next =
        (last && !sender.left(last.id) && joinedOn(replica, change)) || changed(replica, change);
      checkEdit(replica.shown, next.shown, edit, { held: start.holds });
      typed = group.typed;
      become(next, { saving: getState().saving === "saved" ? "saving" : getState().saving });
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      say(error.message);
      return false;
    }
    if (typed) sender.soon();
    else void sender.go();
    return true;
  }

  /** Loads what was done before this tab was opened; gives whether it is there. */
  function loadEarlier(): Promise<boolean> {
    earlier ??= remote.ask<EarlierAnswer>("history?mine").then((answer) => {
      if (!answer) {
        earlier = null;
        return false;
      }
      knowsEarlier = true;
      become(withEarlier(replica, answer));
      return true;
    });
    return earlier;
  }

  function step(does: "undo" | "redo"): void {
    for (const work of early) work();
    const of = nextStep(steps(), does);
    if (of === null) {
      if (knowsEarlier || !getState().can[does]) return;
      // What was done before this tab was opened has not come yet.
      void loadEarlier().then((there) => {
        if (there) step(does);
        else say("What was done before is not here yet; try again in a moment.");
      });
      return;
    }
    try {
      if (!put(takenBack(replica, of), { does, of })) passed.add(of);
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      passed.add(of);
      say(error.message);
      set({ can: possible() });
    }
  }

  /** Takes over what earlier tabs could not send, one tab after another. */
  async function adopt(): Promise<void> {
    if (start.trouble) return;
    for (const { seq, changes, clear } of unsent.left()) {
      const older = await remote.ask<StateAnswer>(`history?at=${seq}`);
      // What this tab has on its way itself goes first.
      while (replica.pending.length > 0 && getState().saving !== "fixed") await sender.go();
      if (!older || replica.seq < older.seq) continue;
      const since = await remote.ask<StoredEdit[]>(`edits?since=${older.seq}`);
      if (!since || replica.pending.length > 0) continue;
      take(adopted(replica, { ...older, changes }, since));
      clear();
      if (replica.pending.length > 0) set({ saving: "saving" });
      await sender.go();
    }
  }

  function settle(id: string, keep: "mine" | "theirs"): void {
    const clash = getState().clashes.find((one) => one.id === id);
    if (!clash) return;
    if (keep === "mine") {
      const edit = puttingBack(clash, replica.shown);
      if (!edit) {
        say("There is no place for this any more; your words stay here to be copied.");
        return;
      }
      if (!put(edit, null)) return;
    }
    unsent.dropClash(id);
    set({ clashes: getState().clashes.filter((one) => one.id !== id) });
  }

  /** What is being typed becomes an edit. */
  function gather() {
    for (const work of early) work();
  }
  async function finish() {
    gather();
    if (sender.busy()) await sender.go();
  }

  return {
    campaign: start.campaign,
    store,
    state: getState,
    edit: (change) => put(change, null),
    undo: () => step("undo"),
    redo: () => step("redo"),
    typing() {
      rests.at = Date.now() + WRITING_MS;
      if (getState().saving === "saved") set({ saving: "saving" });
    },
    rested: () => {
      if (!sender.busy() && getState().saving === "saving") set({ saving: "saved" });
    },
    finish,
    readElsewhere() {
      gather();
      const read = sender.busy() ? null : replica.seq;
      if (sender.busy()) void sender.go();
      return async () => {
        await finish();
        return replica.seq !== read;
      };
    },
    flush() {
      gather();
      sender.flush();
    },
    beforeFlush(work) {
      early.add(work);
      return () => early.delete(work);
    },
    settle,
    left: () => replica.pending,
    letGo: () => become(withPending(replica, []), { saving: "saved" }),
    signedIn() {
      sender.hurry();
      void catchUp().then((there) => {
        if (there && !sender.busy()) set({ saving: "saved" });
      });
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
      let again: ReturnType<typeof setTimeout> | undefined;
      const begin = () => {
        if (source) return;
        const made = remote.follow(replica.seq, tab);
        source = made;
        made.onmessage = (event) => receive(JSON.parse(event.data) as StoredEdit[]);
        made.addEventListener?.("presence", (event) => {
          const people = JSON.parse((event as MessageEvent).data) as Presence[];
          set({ others: people.filter((one) => one.tab !== tab) });
        });
        made.onopen = () => {
          void catchUp();
          if (where.at) void remote.tell("presence", { tab, at: where.at });
          sender.hurry();
        };
        made.onerror = () => {
          // A stream that was refused does not come back by itself: there may be no session any more.
          if (made.readyState !== made.CLOSED || source !== made) return;
          source = null;
          void catchUp();
          again = setTimeout(begin, FOLLOW_AGAIN_MS);
        };
      };
      // A page that is kept for going back to would keep its connection, and a browser has few of them.
      const end = () => {
        clearTimeout(again);
        source?.close();
        source = null;
      };
      const back = () => sender.hurry();
      begin();
      set({ clashes: unsent.clashes() });
      void loadEarlier();
      void adopt();
      globalThis.addEventListener?.("pagehide", end);
      globalThis.addEventListener?.("pageshow", begin);
      globalThis.addEventListener?.("online", back);
      globalThis.addEventListener?.("focus", back);
      return () => {
        globalThis.removeEventListener?.("pagehide", end);
        globalThis.removeEventListener?.("pageshow", begin);
        globalThis.removeEventListener?.("online", back);
        globalThis.removeEventListener?.("focus", back);
        end();
      };
    },
  };
}

/** The document that is shown already, where nothing has changed: what is drawn of it stays. */
const sameDocument = (next: EmailDocument, shown: EmailDocument): EmailDocument =>
  next !== shown && next.root === shown.root ? shown : next;

export const { Provider: SessionProvider, use: useSession } = handedDown<Session>("email");
/** Reads the email as it is now, and how far it is saved. */
export const useEmail = readsOf(useSession);
