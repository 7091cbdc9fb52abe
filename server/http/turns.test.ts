import { EventEmitter } from "node:events";
import type { Request, Response } from "express";
import { expect, it, vi } from "vitest";
import { inTurn } from "./turns.ts";

/** Requests by number: those worked on, and how each ends. */
function flood(most: number) {
  const turn = inTurn(most, 500);
  const begun: number[] = [];
  const responses: EventEmitter[] = [];
  return {
    begun,
    ask() {
      const n = responses.push(new EventEmitter());
      void turn({} as Request, responses[n - 1] as unknown as Response, () => begun.push(n));
    },
    end: (n: number) => responses[n - 1]!.emit("close"),
  };
}

it("works on so many at once, and on the others in the order they came", () => {
  const { begun, ask, end } = flood(2);
  for (let i = 0; i < 5; i++) ask();
  expect(begun).toEqual([1, 2]);
  end(2);
  expect(begun).toEqual([1, 2, 3]);
  end(1);
  end(3);
  expect(begun).toEqual([1, 2, 3, 4, 5]);
  end(4);
  end(5);
  // Nobody waits: the next begins at once, and no more than before.
  for (let i = 0; i < 3; i++) ask();
  expect(begun).toEqual([1, 2, 3, 4, 5, 6, 7]);
});

it("passes over who has hung up while waiting, and gives their turn to nobody twice", () => {
  const { begun, ask, end } = flood(1);
  for (let i = 0; i < 4; i++) ask();
  end(2);
  expect(begun).toEqual([1]);
  end(1);
  expect(begun).toEqual([1, 3]);
  end(3);
  expect(begun).toEqual([1, 3, 4]);
  end(4);
  ask();
  ask();
  expect(begun).toEqual([1, 3, 4, 5]);
});

it("takes a turn from who is on a slow line, once", () => {
  vi.useFakeTimers();
  const { begun, ask, end } = flood(1);
  for (let i = 0; i < 4; i++) ask();
  vi.advanceTimersByTime(499);
  expect(begun).toEqual([1]);
  vi.advanceTimersByTime(1);
  expect(begun).toEqual([1, 2]);
  // The slow one ends at last, which is nobody's turn any more.
  end(1);
  expect(begun).toEqual([1, 2]);
  end(2);
  expect(begun).toEqual([1, 2, 3]);
  vi.useRealTimers();
});
