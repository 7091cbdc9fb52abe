/**
 * What the parts of the composer share. Each idea (the email, the selection, reading …) is one thing that is made
 * when the composer opens and stays the same thing. What changes in it stands in its store and is read by name, so
 * that a component is drawn again only when what it reads changes.
 */
import { type Context, createContext, useContext } from "react";
import { type StoreApi, useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";

/** A store as its readers see it: only the idea itself writes. */
export type Readable<State> = Pick<StoreApi<State>, "getState" | "getInitialState" | "subscribe">;

/** Something that never changes, handed down: gives where it comes from, and the hook for it. */
export function handedDown<T>(what: string): { Provider: Context<T | null>; use: () => T } {
  const Provider = createContext<T | null>(null);
  // biome-ignore lint/correctness/noComponentHookFactories: made once, where the module is loaded
  function useHandedDown(): T {
    const found = useContext(Provider);
    if (!found) throw new Error(`There is no ${what} outside of the composer`);
    return found;
  }
  return { Provider, use: useHandedDown };
}

/** Reads a store: some of its fields by their names, or what a function makes of it. */
export interface Reads<State> {
  <Key extends keyof State>(...keys: readonly Key[]): Pick<State, Key>;
  <Value>(select: (state: State) => Value): Value;
}

/** The hook that reads the store of an idea, found by the idea's own hook. */
export function readsOf<State>(useIdea: () => { readonly store: Readable<State> }): Reads<State> {
  // biome-ignore lint/correctness/noComponentHookFactories: made once, where the module is loaded
  function useReads(...asked: readonly unknown[]): unknown {
    const { store } = useIdea();
    const [select] = asked;
    const pick = useShallow((state: State) =>
      Object.fromEntries((asked as (keyof State)[]).map((key) => [key, state[key]])),
    );
    return useStore(
      store,
      (typeof select === "function" ? select : pick) as (state: State) => unknown,
    );
  }
  return useReads as Reads<State>;
}
