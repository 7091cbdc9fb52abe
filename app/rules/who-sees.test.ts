import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createWhoSees, type WhoSees } from "./who-sees.ts";

const answer = (conditions: readonly string[], contact: number | null): WhoSees => ({
  conditions,
  contact,
  bits: contact === 2 ? "1" : "0",
  today: "2026-03-02",
  groups: [{ bits: "1", people: 7, sample: 1 }],
  problems: conditions.map(() => null),
  words: conditions.map(() => "lives in Larkmoor"),
});

/** What was asked, as long as the line holds. */
let asked: { conditions: string[]; contact: number | null; counts: boolean }[];
let line: boolean;
beforeEach(() => {
  asked = [];
  line = true;
  vi.useFakeTimers();
  vi.stubGlobal("fetch", async (_path: string, { body }: { body: string }) => {
    if (!line) throw new TypeError("no line");
    const { conditions, contact, counts } = JSON.parse(body);
    asked.push({ conditions, contact, counts });
    const whole = answer(conditions, contact);
    return Response.json(counts ? whole : { ...whole, groups: [], late: true });
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
const rested = () => vi.advanceTimersByTimeAsync(1_000);

it("counts again for other conditions, and not for another contact", async () => {
  const asker = createWhoSees("k1", answer(["a"], 1));
  asker.want(["a"], 1);
  await rested();
  expect(asked).toEqual([]);
  asker.want(["a"], 2);
  await rested();
  expect(asked).toEqual([{ conditions: ["a"], contact: 2, counts: false }]);
  expect(asker.store.getState()).toEqual(answer(["a"], 2));
  asker.want(["a", "b"], 2);
  await rested();
  expect(asked.at(-1)?.counts).toBe(true);
  expect(asker.store.getState()).toEqual(answer(["a", "b"], 2));
});

it("counts for another contact where nobody has counted yet", async () => {
  const asker = createWhoSees("k1", { ...answer(["a"], 1), groups: [], late: true });
  asker.want(["a"], 2);
  // What was counted for the contact before is of no use any more.
  asker.hear(answer(["a"], 1));
  await rested();
  expect(asked).toEqual([{ conditions: ["a"], contact: 2, counts: true }]);
  expect(asker.store.getState()).toEqual(answer(["a"], 2));
});

it("asks for the latest of several only, and again after the line was cut", async () => {
  const asker = createWhoSees("k1", answer(["a"], 1));
  asker.want(["a"], 2);
  asker.want(["a"], 3);
  await rested();
  expect(asked.map(({ contact }) => contact)).toEqual([3]);
  line = false;
  asker.want(["a"], 2);
  await rested();
  // Nothing is known to hold for this contact, and what was counted stands.
  expect(asker.store.getState()).toMatchObject({ contact: 2, bits: "", groups: [{ people: 7 }] });
  line = true;
  asker.want(["a"], 2);
  await rested();
  expect(asker.store.getState()).toEqual(answer(["a"], 2));
});

it("never counts where that is not wanted", async () => {
  const asker = createWhoSees("k1", null, false);
  asker.want(["a"], 2);
  await rested();
  asker.want(["b"], 2);
  await rested();
  expect(asked.map(({ counts }) => counts)).toEqual([false, false]);
  expect(asker.store.getState()).toMatchObject({ contact: 2, bits: "1", late: true });
});
