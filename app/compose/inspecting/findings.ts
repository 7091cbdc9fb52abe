/** What the checks find about the email: made by a worker when hands rest; what is stale is thrown away. */
import { createStore } from "zustand";
import { shallow } from "zustand/shallow";
import type { Reading } from "../reading/reading.ts";
import type { Session } from "../session/session.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";
import type { Inspection } from "./inspect.ts";

/** How long hands rest before it begins, ms. */
const REST_MS = 400;

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
  hear(inspection: Inspection | null): void;
}

/** `publicAddress` is what readers know the pages by: what goes out is weighed with it. */
export function createFindings(
  session: Session,
  { store: reading }: Pick<Reading, "store">,
  publicAddress: string,
): Findings {
  const store = createStore<FindingsState>(() => ({ inspection: null }));
  /** The email as it is now, whatever is looked at. */
  const subject = () => {
    const { surroundings, fields, whoSees } = reading.getState();
    return { doc: session.state().doc, surroundings, fields, whoSees };
  };
  const loaded = subject();
  let worker: Worker | null = null;
  /** The server may still tell of the email as it was loaded. */
  let expecting = true;
  let asked = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let last = loaded;

  function begun(): Worker {
    const made = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
    made.onmessage = ({ data }: MessageEvent<{ n: number } & Inspection>) => {
      if (data.n === asked) store.setState({ inspection: data });
    };
    // Without a line its script may not have come: the next change tries again.
    made.onerror = () => {
      made.terminate();
      if (worker === made) worker = null;
    };
    return made;
  }

  function inspect(now: ReturnType<typeof subject>): void {
    expecting = false;
    const n = ++asked;
    clearTimeout(timer);
    timer = setTimeout(() => {
      worker ??= begun();
      const { doc, fields, whoSees } = now;
      const surroundings = { ...now.surroundings, publicAddress };
      const known = new Map(fields.map((field) => [field.id, field]));
      worker.postMessage({ n, doc, surroundings, fields: known, readers: whoSees });
    }, REST_MS);
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
        worker?.terminate();
        worker = null;
      };
    },
    hear(inspection) {
      if (!expecting) return;
      if (inspection) store.setState({ inspection });
      else inspect(subject());
      expecting = false;
    },
  };
}

export const { Provider: FindingsProvider, use: useInspecting } = handedDown<Findings>("findings");
export const useFindings = readsOf(useInspecting);
