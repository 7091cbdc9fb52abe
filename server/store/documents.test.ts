import { afterAll, beforeAll, beforeEach, expect, it } from "vitest";
import { type Edit, type Envelope, find } from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { smallNewsletter } from "../testing/newsletter.ts";
import {
  appendEdits,
  createDocumentRow,
  editsSince,
  loadDocument,
  StaleEditError,
} from "./documents.ts";
import { step, undoState } from "./undo.ts";

let database: Database;
let id: string;
const now = new Date("2026-03-02T10:00:00Z");
beforeAll(async () => {
  database = await openTestDatabase();
});
afterAll(() => database.close());
beforeEach(async () => {
  id = await createDocumentRow(database.sql, smallNewsletter(), now);
});

let n = 0;
const envelope = (edit: Edit, base = 0, tab = "tab-1"): Envelope => ({
  id: `envelope-${++n}`,
  tab,
  base,
  edit,
});
const append = (envelopes: Envelope[], member = "ada") =>
  database.tx((sql) => appendEdits(sql, id, envelopes, { member, at: now }));
const undo = (what: "undo" | "redo" = "undo", member = "ada") =>
  database.tx((sql) => step(sql, id, what, { member, tab: "tab-1", at: now }));
const body = async () => canonical((await loadDocument(database.sql, id))!.doc);

const current = async () => (await loadDocument(database.sql, id))!.doc;
const setSize = (value: number): Edit => ({
  type: "set",
  node: "n1",
  path: ["type", "size"],
  value,
});
const typed = (text: string): Edit => ({
  type: "text",
  node: "n1",
  path: ["words"],
  steps: [
    { stepType: "replace", from: 1, to: 1, slice: { content: [{ type: "text", text }] } } as never,
  ],
});

it("stores edits with numbers in order, and one sent twice only once", async () => {
  const first = envelope(setSize(20));
  const [one] = await append([first]);
  expect(one).toMatchObject({ seq: 1, person: "ada", tab: "tab-1" });
  const [again, two] = await append([first, envelope(typed("Oh. "), 1)]);
  expect([again!.seq, two!.seq]).toEqual([1, 2]);
  const stored = (await loadDocument(database.sql, id))!;
  expect(stored.seq).toBe(2);
  expect(find(stored.doc, "n1")!.node.props.type).toMatchObject({ size: 20 });
  expect(await editsSince(database.sql, id, 1)).toHaveLength(1);
});

it("stores an envelope once that stands in a request twice", async () => {
  const twice = envelope(setSize(20));
  expect((await append([twice, twice])).map((edit) => edit.seq)).toEqual([1, 1]);
  expect((await loadDocument(database.sql, id))!.seq).toBe(1);
});

it("refuses all of a request when one edit does not fit", async () => {
  const before = await body();
  const bad = [envelope(setSize(20)), envelope({ type: "remove", node: "nobody" })];
  await expect(append(bad)).rejects.toThrow("no longer in the email");
  await expect(append([envelope(setSize(999))])).rejects.toThrow("Text:");
  expect(await body()).toBe(before);
  expect(await editsSince(database.sql, id, 0)).toEqual([]);
});

it("refuses an edit of a text that another tab has changed since", async () => {
  await append([envelope(typed("One. "), 0, "tab-1")]);
  await expect(append([envelope(typed("Two. "), 0, "tab-2")])).rejects.toThrow(StaleEditError);
  // Other places, the same tab, and a state that knows of it are all fine.
  await append([envelope(setSize(18), 0, "tab-2")]);
  await append([envelope(typed("Three. "), 0, "tab-1")]);
  await append([envelope(typed("Four. "), 3, "tab-2")]);
});

it("takes back and does again, step by step, to the byte", async () => {
  const states = [await body()];
  for (const edit of [setSize(20), typed("Hello "), { type: "remove", node: "n2" } as Edit]) {
    await append([envelope(edit, 99)]);
    states.push(await body());
  }
  for (let i = 2; i >= 0; i--) {
    expect(await undo()).not.toEqual([]);
    expect(await body()).toBe(states[i]);
  }
  expect(await undo()).toEqual([]);
  expect(await undoState(database.sql, id, "ada")).toEqual({ undo: false, redo: true });
  for (let i = 1; i <= 3; i++) {
    expect(await undo("redo")).not.toEqual([]);
    expect(await body()).toBe(states[i]);
  }
  expect(await undo("redo")).toEqual([]);
  // And back once more: redone edits can be taken back too.
  expect(await undo()).not.toEqual([]);
  expect(await body()).toBe(states[2]);
});

it("closes the way forward when something new is done", async () => {
  await append([envelope(setSize(20))]);
  await undo();
  await append([envelope(setSize(22), 2)]);
  expect(await undoState(database.sql, id, "ada")).toEqual({ undo: true, redo: false });
  expect(await undo("redo")).toEqual([]);
});

it("takes back only one's own, moved over what others did", async () => {
  await append([envelope(typed("Ada. "), 0)], "ada");
  await append([envelope(typed("Bo. "), 1, "tab-2")], "bo");
  await undo("undo", "ada");
  const words = await body();
  expect(words).toContain("Bo. ");
  expect(words).not.toContain("Ada. ");
});

it("says so when what was changed is gone", async () => {
  await append([envelope(typed("Ada. "), 0)], "ada");
  await append([envelope({ type: "remove", node: "n1" }, 1, "tab-2")], "bo");
  await expect(undo("undo", "ada")).rejects.toThrow("gone");
});

/** Writes a document as another version of the application would have left it. */
const leave = (change: (doc: Record<string, unknown>) => unknown) =>
  database.sql`update documents set body = ${JSON.stringify(
    change(JSON.parse(canonical(smallNewsletter() as never)) as Record<string, unknown>),
  )} where id = ${id}`;

it("of a newer version or damaged is opened to be looked at, and nothing is written over", async () => {
  await leave((doc) => ({ ...doc, schemaVersion: 99 }));
  const before = await database.sql`select body from documents where id = ${id}`;
  const { doc, trouble } = (await loadDocument(database.sql, id))!;
  expect(trouble).toMatchObject({ state: "newer", lost: [] });
  expect(find(doc, "n1")).not.toBeNull();
  await expect(append([envelope(setSize(20))])).rejects.toThrow("newer Septima");
  await expect(undo()).rejects.toThrow("newer Septima");
  await leave((whole) => ({ ...whole, root: 7 }));
  await expect(append([envelope(setSize(20))])).rejects.toThrow("damaged");
  await leave((doc2) => ({ ...doc2, schemaVersion: 99 }));
  expect(await database.sql`select body from documents where id = ${id}`).toEqual(before);
});

it("takes back an edit that was made in an older version of the model", async () => {
  await append([envelope(setSize(20))]);
  // As version 1 wrote it down: the size stood at the top of the text.
  const edit = { type: "set", node: "n1", path: ["size"], value: 20 };
  await database.sql`update edits set schema_version = 1, edit = ${JSON.stringify(edit)},
    inverse = ${JSON.stringify({ ...edit, value: 18 })} where document_id = ${id}`;
  await undo();
  expect(find(await current(), "n1")!.node.props.type).toMatchObject({ size: 18 });
});

it("reads what it has just written without reading it anew, and a state that was rolled back as it is", async () => {
  await append([envelope(setSize(20))]);
  const { doc } = (await loadDocument(database.sql, id))!;
  expect((await loadDocument(database.sql, id))!.doc).toBe(doc);
  await append([envelope(typed("Oh. "), 1)]);
  const after = (await loadDocument(database.sql, id))!.doc;
  // Only what was changed is another object: everything else has been checked already.
  expect(find(after, "n2")!.node).toBe(find(doc, "n2")!.node);
  expect(find(after, "n1")!.node).not.toBe(find(doc, "n1")!.node);
  const bad = [envelope(setSize(30), 2), envelope({ type: "remove", node: "nobody" }, 2)];
  await expect(append(bad)).rejects.toThrow("no longer in the email");
  expect((await loadDocument(database.sql, id))!.doc).toBe(after);
});
