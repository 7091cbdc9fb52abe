import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { newChoice } from "#core/items/index.ts";
import { anItem } from "#core/testing/items.ts";
import { createChosenItems } from "./chosen.ts";

const email = (count: number) => {
  let n = 0;
  const id = () => `n${++n}`;
  const shelf = createBlock("shelf", id, { choice: newChoice({ count }) });
  return createDocument([createBand(id, [createColumn(id, [shelf])])]);
};
const answer = (title: string) => ({
  lists: [["n1", [{ item: anItem({ title }), why: "" }]]],
  pictures: [],
  words: [],
  spread: null,
});
const NOTHING = { lists: [], pictures: [], words: [], spread: null };

/** What was asked, each to be answered when the test says so. */
let asked: { answer(body: unknown): void; cut(): void; signal: AbortSignal }[];
let chosen: ReturnType<typeof createChosenItems>;
let stop: () => void;
beforeEach(() => {
  vi.useFakeTimers();
  asked = [];
  const fetch = (_: string, { signal }: { signal: AbortSignal }) =>
    new Promise<Response>((ok, fail) => {
      signal.addEventListener("abort", () => fail(new Error("let go")));
      const answer = (body: unknown) => ok(Response.json(body));
      asked.push({ answer, cut: () => fail(new TypeError("cut")), signal });
    });
  vi.stubGlobal("fetch", fetch);
  vi.stubGlobal("document", { visibilityState: "visible" });
  const start = { doc: email(3), contact: null, answer: NOTHING };
  chosen = createChosenItems("c1", start, () => {});
  stop = chosen.follow();
});
afterEach(() => {
  stop();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const shown = () =>
  chosen.store
    .getState()
    .live.get("n1")
    ?.items.map(({ title }) => title);

it("waits for an answer that takes long, and asks again after it", async () => {
  await vi.advanceTimersByTimeAsync(200_000);
  expect(asked).toHaveLength(1);
  asked[0]!.answer(answer("Pea"));
  await vi.advanceTimersByTimeAsync(0);
  expect(shown()).toEqual(["Pea"]);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(asked).toHaveLength(2);
});

it("lets go of what is no longer wanted, and asks once for what is", async () => {
  await vi.advanceTimersByTimeAsync(60_000);
  chosen.want(email(2), null);
  chosen.want(email(1), null);
  await vi.advanceTimersByTimeAsync(1_000);
  expect(asked).toHaveLength(2);
  expect(asked[0]!.signal.aborted).toBe(true);
  asked[1]!.answer(answer("Bean"));
  await vi.advanceTimersByTimeAsync(0);
  expect(shown()).toEqual(["Bean"]);
  // The same in another object is not asked for again.
  chosen.want(email(1), null);
  await vi.advanceTimersByTimeAsync(1_000);
  expect(asked).toHaveLength(2);
});

it("tries again where there was no line, and keeps what it shows", async () => {
  await vi.advanceTimersByTimeAsync(60_000);
  asked[0]!.answer(answer("Pea"));
  await vi.advanceTimersByTimeAsync(60_000);
  asked[1]!.cut();
  await vi.advanceTimersByTimeAsync(0);
  expect(shown()).toEqual(["Pea"]);
  expect(chosen.store.getState().away).toBe(true);
  await vi.advanceTimersByTimeAsync(5_000);
  asked[2]!.answer(answer("Bean"));
  await vi.advanceTimersByTimeAsync(0);
  expect(shown()).toEqual(["Bean"]);
  expect(chosen.store.getState().away).toBe(false);
});
