import { afterAll, beforeAll, beforeEach, expect, it } from "vitest";
import {
  type Change,
  type Edit,
  type EmailDocument,
  find,
  nextStep,
  takeBack,
} from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { smallNewsletter } from "../testing/newsletter.ts";
import {
  appendEdits,
  createDocumentRow,
  earlierEdits,
  editsSince,
  loadDocument,
  lock,
  StaleEditError,
  undoState,
} from "./documents.ts";
import { stateAt } from "./history.ts";

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
/** A change with the state it was made on and its tab. */
interface Made {
  readonly base: number;
  readonly tab: string;
  readonly change: Change;
}
const envelope = (edit: Edit, base = 0, tab = "tab-1"): Made => {
  const change = `envelope-${++n}`;
  return { base, tab, change: { id: change, edit, does: "do", step: change, of: null } };
};
const append = async (made: Made[], member = "ada") => {
  const [{ base, tab }] = made as [Made];
  const changes = made.map(({ change }) => change) as never[];
  const done = await database.tx((sql) =>
    appendEdits(sql, id, { tab, base, changes }, { member, at: now }),
  );
  return done.edits;
};
/** Takes back as a browser does: from what it knows, as an edit like any other. Nothing where there is nothing. */
const undo = async (does: "undo" | "redo" = "undo", member = "ada") => {
  const known = await earlierEdits(database.sql, id, member);
  const states: EmailDocument[] = [];
  for (const { seq } of known) states.push(await stateAt(database.sql, id, seq));
  const entries = known.map((one, i) => ({
    ...one,
    own: one.person === member,
    after: states[i]!,
  }));
  const of = nextStep(
    entries.filter(({ own }) => own),
    does,
  );
  const { seq } = (await loadDocument(database.sql, id))!;
  if (of === null) {
    // A document that can only be looked at is refused even where there is nothing to take back.
    await database.tx((sql) => lock(sql, id));
    return [];
  }
  const start = await stateAt(database.sql, id, known[0]!.seq - 1);
  const { change } = envelope(
    takeBack(() => start, entries, of),
    seq,
  );
  return append([{ base: seq, tab: "tab-1", change: { ...change, does, of } }], member);
};
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
  const [again, two] = await append([first, envelope(typed("Oh. "))]);
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

it("joins what others wrote since in the same text, and refuses what cannot be joined", async () => {
  await append([envelope(typed("One. "), 0, "tab-1")]);
  await append([envelope(typed("Two. "), 0, "tab-2")], "bo");
  expect(await body()).toContain("One. Two. Dear");
  const over: Edit = {
    type: "text",
    node: "n1",
    path: ["words"],
    steps: [{ stepType: "replace", from: 1, to: 6 } as never],
  };
  await append([envelope(over, 2, "tab-1")]);
  const inside: Edit = {
    ...over,
    steps: [{ ...(over.steps[0] as object), from: 3, to: 4 } as never],
  };
  const before = await body();
  await expect(append([envelope(inside, 2, "tab-2")])).rejects.toThrow(StaleEditError);
  expect(await body()).toBe(before);
  // Other places, the same tab, and a state that knows of it are all fine.
  await append([envelope(setSize(18), 0, "tab-2")]);
  await append([envelope(typed("Three. "), 3, "tab-1")]);
  await append([envelope(typed("Four. "), 5, "tab-2")]);
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

it("takes a step back once, whichever of two tabs comes first", async () => {
  await append([envelope(setSize(20))]);
  await append([envelope(typed("Hi "), 1)]);
  const { edit, step } = (await editsSince(database.sql, id, 0))[0]!;
  const undone = (tab: string, base: number) => {
    const { change } = envelope({ ...edit, value: 18 } as Edit);
    return { base, tab, change: { ...change, does: "undo" as const, of: step } };
  };
  expect(await append([undone("tab-1", 2)])).toHaveLength(1);
  // The other tab did not know of it; and one that does sends it all the same.
  expect(await append([undone("tab-2", 2)])).toEqual([]);
  expect(await append([undone("tab-2", 3)])).toEqual([]);
  expect((await loadDocument(database.sql, id))!.seq).toBe(3);
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
