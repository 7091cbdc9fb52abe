import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createKeptComments, openAt } from "./kept.ts";

const comment = (id: number, node: string | null, resolved = false) => ({
  id,
  author: "Ines",
  at: "just now",
  words: "Larger?",
  node,
  place: null,
  resolved,
  replies: [],
});
let answers: () => Promise<Response>;
let asked: number;
let visibility: string;
beforeEach(() => {
  vi.useFakeTimers();
  asked = 0;
  visibility = "visible";
  vi.stubGlobal("fetch", () => {
    asked++;
    return answers();
  });
  vi.stubGlobal("document", {
    get visibilityState() {
      return visibility;
    },
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it("reads them when it begins and every minute, keeps what it knows without a line, and ends", async () => {
  const kept = createKeptComments("c1");
  answers = async () => Response.json([comment(1, "b"), comment(2, "b", true), comment(3, null)]);
  const end = kept.follow();
  await vi.advanceTimersByTimeAsync(0);
  expect(kept.store.getState().comments).toHaveLength(3);
  expect([openAt("b")(kept.store.getState()), openAt("x")(kept.store.getState())]).toEqual([1, 0]);
  answers = async () => {
    throw new TypeError("cut");
  };
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked).toBe(2);
  expect(kept.store.getState().comments).toHaveLength(3);
  // Nobody reads a page that is out of sight.
  visibility = "hidden";
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked).toBe(2);
  visibility = "visible";
  answers = async () => Response.json([]);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(kept.store.getState().comments).toEqual([]);
  end();
  await vi.advanceTimersByTimeAsync(300_000);
  expect(asked).toBe(3);
});

it("does not begin anew where it ended while an answer was on its way", async () => {
  const kept = createKeptComments("c1");
  let answer = (_: Response) => {};
  answers = () => new Promise((ok) => (answer = ok));
  const end = kept.follow();
  end();
  answer(Response.json([]));
  await vi.advanceTimersByTimeAsync(300_000);
  expect(asked).toBe(1);
  expect(openAt("b")({ comments: null })).toBe(0);
});
