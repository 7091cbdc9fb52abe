/**
 * The one way edits leave the browser: in their order, one request at a time, until all are stored. It knows
 * five states; only the first means that everything is stored.
 */
import type { Change, Envelope, Replica, StoredEdit } from "#core/document/index.ts";
import { jsonBytes } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import type { Remote } from "./remote.ts";

export type LineState = "saved" | "saving" | "waiting" | "signedOut" | "fixed";

export interface SenderWork {
  replica(): Replica;
  /** Takes in edits as they are stored. */
  receive(edits: readonly StoredEdit[]): void;
  /** Asks for what others stored; gives whether there was an answer. */
  catchUp(): Promise<boolean>;
  /** Takes edits off their way: the server will not have them, and why; null where there was nothing left to do. */
  giveUp(changes: readonly Change[], why: string | null): void;
  state(state: LineState): void;
}

export interface Sender {
  /** Sends what is on its way until all is stored, or there is no going on; resolves then. */
  go(): Promise<void>;
  /** Whether a request is out, or something waits to be sent. */
  busy(): boolean;
  /** The same in a moment: what is typed meanwhile travels with it. */
  soon(): void;
  /** Whether an edit may be on its way already, or stored. */
  left(id: string): boolean;
  /** Ends the wait for the next try. */
  hurry(): void;
  /** Sends all at once while the page closes; what comes of it is not heard. */
  flush(): void;
}

const RETRY_MS = 2_000;
/** How often a session is looked for that has ended, ms: it may be begun again in another tab. */
const SIGNED_OUT_MS = 15_000;
/** How long typing is gathered before it leaves, ms. */
const SOON_MS = 600;
/** How many edits travel at a time. */
const BATCH = 100;

/** The first edits on their way, as many as travel together. */
function batchOf(pending: readonly Change[], most: number): readonly Change[] {
  let size = 0;
  const end = pending.findIndex((change, i) => {
    size += jsonBytes(change);
    return i > 0 && (i >= most || size > LIMITS.editBatch);
  });
  return end < 0 ? pending : pending.slice(0, end);
}

export function createSender(remote: Remote, tab: string, work: SenderWork): Sender {
  let running: Promise<void> | null = null;
  let wake = () => {};
  let timer: ReturnType<typeof setTimeout> | undefined;
  /** Edits that were in a request, whatever came of it. */
  const gone = new Set<string>();

  function envelope(changes: readonly Change[]): Envelope {
    for (const { id } of changes) gone.add(id);
    return { tab, base: work.replica().seq, changes: [...changes] as Envelope["changes"] };
  }
  const pause = (ms: number) =>
    new Promise<void>((ok) => {
      const timer = setTimeout(ok, ms);
      wake = () => {
        clearTimeout(timer);
        ok();
      };
    });
  const wait = async (state: LineState, ms: number) => {
    work.state(state);
    await pause(ms);
  };
  /** Edits of a request that are still on their way, though all up to it is known: there was nothing left of them. */
  const leftOf = (batch: readonly Change[]) => {
    const ids = new Set(batch.map(({ id }) => id));
    return work.replica().pending.filter(({ id }) => ids.has(id));
  };

  async function stored(batch: readonly Change[], seq: number, edits: readonly StoredEdit[]) {
    work.receive(edits);
    if (work.replica().seq < seq && !(await work.catchUp())) return;
    if (work.replica().seq < seq) return;
    const left = leftOf(batch);
    if (left.length > 0) work.giveUp(left, null);
  }

  /** Gives whether it can go on when there is more. */
  async function send(): Promise<boolean> {
    let most = BATCH;
    /** The state on which a request was called stale: twice on the same one is a refusal. */
    let stale = -1;
    while (work.replica().pending.length > 0) {
      const batch = batchOf(work.replica().pending, most);
      const base = work.replica().seq;
      const reply = await remote.edits(envelope(batch));
      if (reply.kind === "signedOut") await wait("signedOut", SIGNED_OUT_MS);
      else if (reply.kind === "away") await wait("waiting", RETRY_MS);
      else if (reply.kind === "ok") {
        work.state("saving");
        await stored(batch, reply.body.seq, reply.body.edits);
        if (batch.length < most) most = BATCH;
      } else if (reply.body.problem === "fixed") {
        work.state("fixed");
        return false;
      } else if (reply.body.problem === "stale" && stale !== base) {
        stale = base;
        if (!(await work.catchUp())) await wait("waiting", RETRY_MS);
      } else if (batch.length > 1) {
        // All of a batch or none is taken: one at a time shows which of them does not fit.
        most = 1;
      } else {
        work.giveUp(batch, reply.body.message ?? "This change was refused.");
        most = BATCH;
      }
    }
    work.state("saved");
    return true;
  }

  const sender: Sender = {
    go() {
      clearTimeout(timer);
      timer = undefined;
      running ??= send().then((done) => {
        running = null;
        // What was put on its way in the last moment.
        if (done && work.replica().pending.length > 0) return sender.go();
      });
      return running;
    },
    soon() {
      timer ??= setTimeout(() => void sender.go(), SOON_MS);
    },
    left: (id) => gone.has(id),
    busy: () => running !== null || work.replica().pending.length > 0,
    hurry: () => wake(),
    flush() {
      const { pending } = work.replica();
      // What is on its way may be cut off with the page; sent twice it does no harm.
      if (pending.length > 0) void remote.edits(envelope(pending), true);
    },
  };
  return sender;
}
