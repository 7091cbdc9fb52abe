/** What the checks find about the email: made by a worker when hands rest; what is stale is thrown away. */

import { createStore } from "zustand";
import { shallow } from "zustand/shallow";
import type { Asides } from "#core/kinds/kind.ts";
import { ask, wordsOf } from "../../ask.ts";
import type { Reading } from "../reading/reading.ts";
import type { Session } from "../session/session.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";
import type { Inspected, Inspection, UnknownWords } from "./inspect.ts";
import type { Spelled } from "./spelled.ts";

/** How long hands rest before it begins, ms. */
const REST_MS = 400;

type Answer = { readonly n: number; readonly unknown: UnknownWords } & Inspection;

export interface FindingsState {
  /** The latest; null until there is one. */
  readonly inspection: Inspection | null;
}

export interface Findings {
  readonly store: Readable<FindingsState>;
  /** Inspects from now on; gives the way to stop. */
  begin(): () => void;
  /**
   * What the server found about the email as it was loaded, or null where it could not tell. It is of use while
   * nothing has changed: until then nothing is inspected here, and what it takes is not even loaded.
   */
  hear(inspection: Inspection | null, asides?: Asides): void;
  /** Takes a word as one of the brand's own from now on; gives what is wrong, or null. */
  accept(word: string): Promise<string | null>;
}

/** `publicAddress` is what readers know the pages by: what goes out is weighed with it. */
export function createFindings(
  session: Session,
  { store: reading }: Pick<Reading, "store">,
  publicAddress: string,
  spelled: Spelled,
): Findings {
  const store = createStore<FindingsState>(() => ({ inspection: null }));
  /** The email as it is now, whatever is looked at. */
  const subject = () => {
    const { surroundings, fields, whoSees } = reading.getState();
    return { doc: session.state().doc, surroundings, fields, whoSees };
  };
  type Subject = ReturnType<typeof subject>;
  const loaded = subject();
  let worker: Worker | null = null;
  /** The server may still tell of the email as it was loaded. */
  let expecting = true;
  let asked = 0;
  /** The question whose unknown words have been looked up: once is enough. */
  let learnedFor = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let last = loaded;
  let aside: Asides = {};

  function begun(): Worker {
    const made = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
    made.onmessage = async ({ data }: MessageEvent<Answer>) => {
      const { n, unknown, ...inspection } = data;
      if (n !== asked) return;
      // What is not known to be right is looked up first, so that what is told does not come and go.
      const learned = unknown.length > 0 && n !== learnedFor && (await spelled.learn(unknown));
      if (n !== asked) return;
      if (learned) {
        learnedFor = n;
        send(subject(), n);
      } else store.setState({ inspection });
    };
    // Without a line its script may not have come: the next change tries again.
    made.onerror = () => {
      made.terminate();
      if (worker === made) worker = null;
    };
    return made;
  }

  function send({ doc, fields, whoSees, ...now }: Subject, n: number): void {
    worker ??= begun();
    const inspected: Inspected = {
      doc,
      surroundings: { ...now.surroundings, ...aside, publicAddress },
      fields: new Map(fields.map((field) => [field.id, field])),
      readers: whoSees,
      known: spelled.known(),
    };
    worker.postMessage({ n, ...inspected });
  }

  function inspect(now: Subject): void {
    expecting = false;
    const n = ++asked;
    clearTimeout(timer);
    timer = setTimeout(() => send(now, n), REST_MS);
  }
  function look(): void {
    const now = subject();
    if (shallow(last, now)) return;
    last = now;
    // Who sees what is counted by the server along with what it finds.
    if (expecting && shallow({ ...now, whoSees: null }, { ...loaded, whoSees: null })) return;
    inspect(now);
  }
  return {
    store,
    begin() {
      look();
      const ends = [session.store.subscribe(look), reading.subscribe(look)];
      return () => {
        for (const end of ends) end();
        clearTimeout(timer);
        // What is still to be answered is answered to nobody.
        asked++;
        worker?.terminate();
        worker = null;
      };
    },
    async accept(word) {
      const reply = await ask("/settings/words", { json: { word } });
      if (reply.kind !== "ok") return wordsOf(reply, "This could not be kept.");
      spelled.accept(word);
      inspect(subject());
      return null;
    },
    hear(inspection, asides = {}) {
      aside = asides;
      if (!expecting) return;
      if (inspection) store.setState({ inspection });
      else inspect(subject());
      expecting = false;
    },
  };
}

export const { Provider: FindingsProvider, use: useInspecting } = handedDown<Findings>("findings");
export const useFindings = readsOf(useInspecting);
