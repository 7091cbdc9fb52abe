/** Which panels stand open. */
import { createStore } from "zustand";
import { handedDown, type Readable, readsOf } from "../shared.ts";

/** The panels there are, and what each is opened with. */
export interface PanelSubjects {
  readonly comments: true;
  readonly history: true;
  readonly find: true;
  readonly blocks: true;
  /** Items of sources, above the tray; those that are picked for a block, by its id. */
  readonly items: string | true;
  /** A language. */
  readonly translations: string;
}
export type PanelName = keyof PanelSubjects;

export type PanelState = Readonly<Partial<PanelSubjects>>;

export interface Panels {
  readonly store: Readable<PanelState>;
  open<Name extends PanelName>(name: Name, subject: PanelSubjects[Name]): void;
  close(name: PanelName): void;
}

/** Those that stand beside the sheets, in the place of the settings. */
const BESIDE: readonly PanelName[] = ["comments", "history"];

export function createPanels(): Panels {
  const store = createStore<PanelState>(() => ({}));
  return {
    store,
    open(name, subject) {
      // They stand in one place.
      const others = BESIDE.includes(name) ? BESIDE : [];
      const closed = Object.fromEntries(others.map((one) => [one, undefined]));
      store.setState({ ...closed, [name]: subject });
    },
    close: (name) => store.setState({ [name]: undefined }),
  };
}

export const { Provider: PanelsProvider, use: usePanels } = handedDown<Panels>("panels");
export const useOpenPanels = readsOf(usePanels);
