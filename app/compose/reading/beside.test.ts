import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createStore } from "zustand";
import { createBeside } from "./beside.ts";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

function parts() {
  const own = createStore<{ doc: number }>(() => ({ doc: 0 }));
  const beside = createBeside(own);
  const drawn = vi.fn();
  beside.store.subscribe(drawn);
  return { own, beside, drawn, shown: () => beside.store.getState().doc };
}

it("follows at once what is not written", () => {
  const { own, shown } = parts();
  own.setState({ doc: 1 });
  expect(shown()).toBe(1);
});

it("follows once when the hands rest, and not for each key", () => {
  const { own, beside, drawn, shown } = parts();
  for (let doc = 1; doc <= 5; doc++) {
    beside.wait();
    own.setState({ doc });
    vi.advanceTimersByTime(150);
  }
  expect(shown()).toBe(0);
  vi.advanceTimersByTime(400);
  expect(shown()).toBe(5);
  expect(drawn).toHaveBeenCalledOnce();
});

it("follows somebody who never rests every two seconds", () => {
  const { own, beside, drawn } = parts();
  for (let doc = 1; doc <= 60; doc++) {
    beside.wait();
    own.setState({ doc });
    vi.advanceTimersByTime(100);
  }
  expect(drawn).toHaveBeenCalledTimes(3);
});

it("follows them no more often where each edit comes a while after its first key", () => {
  const { own, beside, drawn } = parts();
  for (let doc = 1; doc <= 40; doc++) {
    beside.wait();
    vi.advanceTimersByTime(150);
    own.setState({ doc });
  }
  expect(drawn).toHaveBeenCalledTimes(3);
});

it("follows when they turn to something else, and goes on following", () => {
  const { own, beside, shown } = parts();
  beside.wait();
  own.setState({ doc: 1 });
  beside.follow();
  expect(shown()).toBe(1);
  own.setState({ doc: 2 });
  expect(shown()).toBe(2);
});

it("follows what is put down once the sheets are painted, and nothing of it while somebody writes", () => {
  const { own, beside, drawn, shown } = parts();
  beside.paintFirst();
  own.setState({ doc: 1 });
  expect(shown()).toBe(0);
  vi.advanceTimersByTime(34);
  expect(shown()).toBe(1);
  beside.wait();
  own.setState({ doc: 2 });
  beside.paintFirst();
  vi.advanceTimersByTime(100);
  expect(shown()).toBe(1);
  expect(drawn).toHaveBeenCalledOnce();
});
