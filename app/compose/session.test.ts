import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, type Edit, type Envelope, find, type StoredEdit } from "#core/document/index.ts";
import { doc, type TextJson } from "#core/text/index.ts";
import { createSession, type Session } from "./session.ts";
import type { EditsAnswer } from "./wire.ts";

const start = createDocument([
  createBand(
    () => "band",
    [createColumn(() => "column", [createBlock("text", () => "a", { words: doc("Hi") })])],
  ),
]);
const can = { undo: true, redo: false };
const setSize = (value: number): Edit => ({
  type: "set",
  node: "a",
  path: ["type", "size"],
  value,
});
const typed = (text: string, at = 1) => [
  { stepType: "replace", from: at, to: at, slice: { content: [{ type: "text", text }] } } as never,
];

/** A server that stores what it gets; `answer` may refuse or be away. */
let stored = { seq: 0, doc: start };
let answer: ((envelopes: Envelope[]) => EditsAnswer | null) | null = null;
let posts = 0;
let push: (edits: StoredEdit[]) => void = () => {};
const said: string[] = [];
let session: Session;

function accept(envelopes: readonly Envelope[]): EditsAnswer {
  const edits = envelopes.map((envelope) => {
    stored = { seq: stored.seq + 1, doc: apply(stored.doc, envelope.edit) };
    const { id, tab, edit } = envelope;
    return { id, seq: stored.seq, tab, person: "ada", at: "", edit };
  });
  return { edits, problem: null, message: null, can, stored: null };
}
const foreign = (edit: Edit): StoredEdit => {
  const [one] = accept([{ id: `other-${stored.seq}`, tab: "other", base: 0, edit }]).edits;
  return one!;
};

beforeEach(() => {
  vi.useFakeTimers();
  stored = { seq: 0, doc: start };
  answer = null;
  posts = 0;
  said.length = 0;
  vi.stubGlobal("fetch", async (_address: string, init?: RequestInit) => {
    if (!init?.body) return Response.json([]);
    posts++;
    const { envelopes } = JSON.parse(String(init.body)) as { envelopes: Envelope[] };
    const made = (answer ?? accept)(envelopes);
    if (!made) throw new TypeError("no connection");
    return Response.json(made, { status: made.problem ? 409 : 200 });
  });
  class Source {
    onmessage: ((event: { data: string }) => void) | null = null;
    constructor() {
      push = (edits) => this.onmessage?.({ data: JSON.stringify(edits) });
    }
    close() {}
  }
  vi.stubGlobal("EventSource", Source);
  session = createSession({ campaign: "x", seq: 0, doc: start, can, trouble: null }, (text) =>
    said.push(text),
  );
  session.follow();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
const settle = () => vi.advanceTimersByTimeAsync(0);
const size = () =>
  (find(session.state().doc, "a")!.node.props.type as { size: number | null }).size;
const words = () => JSON.stringify(find(session.state().doc, "a")!.node.props.words);

it("shows an edit at once and saves it", async () => {
  expect(session.edit(setSize(20))).toBe(true);
  expect(size()).toBe(20);
  expect(session.state().saving).toBe("saving");
  await settle();
  expect(session.state()).toMatchObject({ saving: "saved", can });
  expect(stored.seq).toBe(1);
  // The echo of one's own edit changes nothing.
  const before = session.state().doc;
  push([{ id: "x", seq: 1, tab: "t", person: "ada", at: "", edit: setSize(20) }]);
  expect(session.state().doc).toBe(before);
});

it("refuses what does not fit, with words and without sending", async () => {
  expect(session.edit({ type: "remove", node: "gone" })).toBe(false);
  expect(session.edit(setSize(999))).toBe(false);
  await settle();
  expect(posts).toBe(0);
  expect(said).toHaveLength(2);
});

it("keeps edits while there is no connection, and sends them later", async () => {
  answer = () => null;
  session.edit(setSize(20));
  await settle();
  expect(session.state().saving).toBe("waiting");
  session.edit(setSize(22));
  answer = null;
  await vi.advanceTimersByTimeAsync(2_100);
  expect(session.state().saving).toBe("saved");
  expect(find(stored.doc, "a")!.node.props.type).toMatchObject({ size: 22 });
});

it("follows other tabs, with its own edits on top", async () => {
  push([foreign(setSize(30))]);
  expect(size()).toBe(30);
  expect(session.seq()).toBe(1);
});

it("goes back to the stored state when an edit is refused", async () => {
  answer = () => ({
    edits: [],
    problem: "refused",
    message: "No.",
    can,
    stored: { seq: 4, doc: start },
  });
  session.edit(setSize(20));
  await settle();
  expect(size()).toBeNull();
  expect(said).toEqual(["No."]);
  expect(session.seq()).toBe(4);
});

it("shows both versions when the server finds a text stale", async () => {
  const theirs = apply(start, {
    type: "text",
    node: "a",
    path: ["words"],
    steps: typed("Theirs. "),
  });
  answer = () => ({
    edits: [],
    problem: "stale",
    message: "Stale.",
    can,
    stored: { seq: 1, doc: theirs },
  });
  const mine = doc("Mine. Hi");
  session.write({ node: "a", path: ["words"], steps: typed("Mine. "), base: 0, mine });
  await settle();
  const { conflict } = session.state();
  expect(JSON.stringify(conflict?.mine)).toContain("Mine. Hi");
  expect(JSON.stringify(conflict?.theirs)).toContain("Theirs. Hi");
  expect(words()).toContain("Theirs. Hi");
  session.settleConflict();
  expect(session.state().conflict).toBeNull();
});

it("notices by itself that a text was written on stale ground", async () => {
  push([foreign({ type: "text", node: "a", path: ["words"], steps: typed("Theirs. ") })]);
  const mine: TextJson = doc("Mine. Hi");
  session.write({ node: "a", path: ["words"], steps: typed("Mine. "), base: 0, mine });
  await settle();
  expect(posts).toBe(0);
  expect(session.state().conflict).toMatchObject({ node: "a", mine });
  expect(words()).toContain("Theirs. Hi");
});

it("sends what is being typed before the page goes", async () => {
  session.beforeFlush(() => session.edit(setSize(24)));
  session.flush();
  await settle();
  expect(find(stored.doc, "a")!.node.props.type).toMatchObject({ size: 24 });
});

it("tells whether anything was still to be sent", async () => {
  expect(await session.finish()).toBe(false);
  session.edit(setSize(20));
  expect(await session.finish()).toBe(true);
  expect(stored.seq).toBe(1);
});
