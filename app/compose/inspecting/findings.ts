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
  return {
    store,
    begin() {
      const worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
      let asked = 0;
      let timer: ReturnType<typeof setTimeout> | undefined;
      let last: ReturnType<typeof subject> | null = null;
      worker.onmessage = ({ data }: MessageEvent<{ n: number } & Inspection>) => {
        if (data.n === asked) store.setState({ inspection: data });
      };
      const look = () => {
        const now = subject();
        if (last && shallow(last, now)) return;
        last = now;
        const n = ++asked;
        clearTimeout(timer);
        timer = setTimeout(() => {
          const { doc, fields, whoSees } = now;
          const surroundings = { ...now.surroundings, publicAddress };
          const known = new Map(fields.map((field) => [field.id, field]));
          worker.postMessage({ n, doc, surroundings, fields: known, readers: whoSees });
        }, REST_MS);
      };
      look();
      const ends = [session.store.subscribe(look), reading.subscribe(look)];
      return () => {
        for (const end of ends) end();
        clearTimeout(timer);
        worker.terminate();
      };
    },
  };
}

export const { Provider: FindingsProvider, use: useInspecting } = handedDown<Findings>("findings");
export const useFindings = readsOf(useInspecting);
