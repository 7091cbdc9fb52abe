import { afterAll, beforeAll, beforeEach, expect, it } from "vitest";
import { type Edit, find, nextStep, stepOf, type Typed, takeBack } from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { smallNewsletter } from "../testing/newsletter.ts";
import { appendEdits, createDocumentRow, earlierEdits, loadDocument } from "./documents.ts";
import { listSteps, stateAt } from "./history.ts";
import { countMoments, dropMoment, keepMoment, listMoments } from "./moments.ts";

let database: Database;
let id: string;
const begin = new Date("2026-03-02T10:00:00Z").getTime();
beforeAll(async () => {
  database = await openTestDatabase();
});
afterAll(() => database.close());
beforeEach(async () => {
  last = new Map();
  id = await createDocumentRow(database.sql, smallNewsletter(), new Date(begin));
});

let n = 0;
/** What was typed last in each tab. */
let last = new Map<string, Typed | null>();
const store = (when: Date, base: number, tab: string, change: object) =>
  database.tx((sql) =>
    appendEdits(sql, id, { tab, base, changes: [change as never] }, { member: "ada", at: when }),
  );
/** An edit of Ada's so many seconds after the beginning. */
const at = async (seconds: number, edit: Edit, tab = "tab-1") => {
  const { seq } = (await loadDocument(database.sql, id))!;
  const when = new Date(begin + seconds * 1_000);
  const change = `edit-${++n}-of-many`;
  const { step, typed } = stepOf(edit, change, last.get(tab) ?? null, when.getTime());
  last.set(tab, typed);
  await store(when, seq, tab, { id: change, edit, does: "do", step, of: null });
};
const typed = (text: string, node = "n1"): Edit => ({
  type: "text",
  node,
  path: ["words"],
  steps: [
    { stepType: "replace", from: 1, to: 1, slice: { content: [{ type: "text", text }] } } as never,
  ],
});
const setSize = (value: number): Edit => ({
  type: "set",
  node: "n1",
  path: ["type", "size"],
  value,
});
/** Takes the last step back as a browser does; gives how many edits that undid. */
const undo = async (does: "undo" | "redo" = "undo") => {
  const known = await earlierEdits(database.sql, id, "ada");
  const entries = [];
  for (const one of known) {
    entries.push({ ...one, own: true, after: await stateAt(database.sql, id, one.seq) });
  }
  const of = nextStep(entries, does)!;
  const start = await stateAt(database.sql, id, known[0]!.seq - 1);
  const change = `edit-${++n}-of-many`;
  const edit = takeBack(() => start, entries, of);
  const { seq } = (await loadDocument(database.sql, id))!;
  const made = { id: change, edit, does, step: change, of };
  await store(new Date(begin + 60_000), seq, "tab-1", made);
  return edit.type === "group" ? edit.edits : [edit];
};
const body = async () => canonical((await loadDocument(database.sql, id))!.doc);

it("takes words typed in one go back together, and does them again together", async () => {
  const before = await body();
  await at(0, typed("c"));
  await at(1, typed("b"));
  await at(2, typed("a"));
  const written = await body();
  expect(await listSteps(database.sql, id)).toMatchObject([{ seq: 3, edits: 3, undone: false }]);
  expect(await undo()).toHaveLength(3);
  expect(await body()).toBe(before);
  expect(await undo("redo")).toHaveLength(3);
  expect(await body()).toBe(written);
});

it("begins a new step after a rest, in another tab, and for anything else", async () => {
  await at(0, typed("a"));
  await at(10, typed("b"));
  await at(11, typed("c"), "tab-2");
  await at(11.5, setSize(20), "tab-2");
  await at(12, typed("d"), "tab-2");
  for (let second = 13; second < 13 + LIMITS.stepLength / 1_000 + 4; second += 2) {
    await at(second, typed("e"), "tab-2");
  }
  const steps = await listSteps(database.sql, id);
  expect(steps.map((one) => one.edits).reverse()).toEqual([1, 1, 1, 1, 11, 2]);
});

it("says in words what was done, and that it was taken back", async () => {
  await at(0, setSize(20));
  await at(5, { type: "remove", node: "n1" });
  await undo();
  const steps = await listSteps(database.sql, id);
  expect(steps.map(({ words, undone }) => [words, undone])).toEqual([
    ["Took back: Took out the text", false],
    ["Took out the text", true],
    ["Changed “Type” of the text", false],
  ]);
  expect(steps[0]!.at).toBe(new Date(begin + 60_000).toISOString());
});

it("gives the email as it was after any edit", async () => {
  const states = [await body()];
  for (const edit of [setSize(20), typed("Oh. "), { type: "remove", node: "n1" } as const]) {
    await at(states.length * 5, edit);
    states.push(await body());
  }
  await undo();
  for (const [seq, state] of states.entries()) {
    expect(canonical(await stateAt(database.sql, id, seq))).toBe(state);
  }
  await expect(stateAt(database.sql, id, 9)).rejects.toThrow("no such state");
  const root = (await stateAt(database.sql, id, 1)).root;
  await at(90, { type: "restore", root });
  expect(await body()).toBe(states[1]);
  await undo();
  expect(find((await loadDocument(database.sql, id))!.doc, "n1")).not.toBeNull();
});

it("keeps moments by name, and by itself before a big step", async () => {
  const keep = (name: string, automatic = false) =>
    keepMoment(database.sql, {
      documentId: id,
      seq: 0,
      name,
      automatic,
      member: "ada",
      at: new Date(begin),
    });
  await keep("Before the meeting");
  await at(0, { type: "restore", root: (await loadDocument(database.sql, id))!.doc.root });
  const moments = await listMoments(database.sql, id);
  expect(moments.map((one) => [one.name, one.automatic])).toContainEqual([
    "Before the meeting",
    false,
  ]);
  expect(moments.find((one) => one.automatic)?.name).toContain("Before “Went back");
  for (let i = 0; i < LIMITS.automaticMoments + 5; i++) await keep(`auto ${i}`, true);
  const kept = await listMoments(database.sql, id);
  expect(kept.filter((one) => one.automatic)).toHaveLength(LIMITS.automaticMoments);
  expect(await countMoments(database.sql, id)).toBe(1);
  await dropMoment(database.sql, id, kept.find((one) => !one.automatic)!.id);
  expect(await countMoments(database.sql, id)).toBe(0);
});
