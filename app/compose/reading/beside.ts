/** What stands beside the sheets follows them, but for a moment of writing: a key must not wait for panels. */
import { createStore } from "zustand";
import type { Readable } from "../shared.ts";

/** After the last key the panels follow, ms. */
const REST = 400;
/** They follow what is put down once the sheets have been painted with it: two frames, ms. */
const PAINTED = 34;
/** They follow somebody who never rests, now and then, ms. */
const MOST = 2_000;

export interface Beside<State> {
  readonly store: Readable<State>;
  /** Somebody writes on a sheet: nothing follows until they rest. */
  wait(): void;
  /** Something is put down: the sheets show it first. */
  paintFirst(): void;
  /** They have turned to something else: all follows at once. */
  follow(): void;
}

export function createBeside<State>(of: Readable<State>): Beside<State> {
  const store = createStore<State>(() => of.getState());
  let since = 0;
  let timer: ReturnType<typeof setTimeout> | null = null;
  const follow = () => {
    if (timer !== null) clearTimeout(timer);
    timer = null;
    store.setState(of.getState(), true);
  };
  const due = () => {
    const never = performance.now() - since >= MOST;
    follow();
    // Who has not rested goes on: what is typed right after this is not followed at once.
    if (never) wait();
  };
  const wait = () => {
    const now = performance.now();
    if (timer === null) since = now;
    else clearTimeout(timer);
    timer = setTimeout(due, Math.max(0, Math.min(REST, since + MOST - now)));
  };
  const paintFirst = () => {
    if (timer !== null) return;
    since = performance.now();
    timer = setTimeout(follow, PAINTED);
  };
  of.subscribe((state) => {
    if (timer === null) store.setState(state, true);
  });
  return { store, follow, wait, paintFirst };
}
