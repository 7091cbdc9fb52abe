import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, type Edit, type Envelope, find, type StoredEdit } from "#core/document/index.ts";
import { doc } from "#core/text/index.ts";
import { createSession, type Session } from "./session.ts";
import type { EditsAnswer, Presence } from "./wire.ts";

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
let tell: (people: Presence[]) => void = () => {};
/** Edits a tab hears of only when it asks. */
let missed: StoredEdit[] = [];
let stop = () => {};
const kept = new Map<string, string>();
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
  missed = [];
  kept.clear();
  vi.stubGlobal("localStorage", {
    get length() {
      return kept.size;
    },
    key: (i: number) => [...kept.keys()][i] ?? null,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
    removeItem: (key: string) => kept.delete(key),
  });
  vi.stubGlobal("fetch", async (address: string, init?: RequestInit) => {
    const { pathname, searchParams } = new URL(address, "http://x");
    if (pathname.endsWith("/history")) return Response.json({ seq: 0, doc: start });
    if (pathname.endsWith("/presence")) return new Response(null, { status: 204 });
    if (!init?.body) {
      return Response.json(missed.filter((one) => one.seq > Number(searchParams.get("since"))));
    }
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
    addEventListener(_kind: string, listener: (event: { data: string }) => void) {
      tell = (people) => listener({ data: JSON.stringify(people) });
    }
    close() {}
  }
  vi.stubGlobal("EventSource", Source);
  session = createSession({ campaign: "x", seq: 0, doc: start, can, trouble: null }, (text) =>
    said.push(text),
  );
  stop = session.follow();
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
});

const write = (text: string, at = 1): Edit => ({
  type: "text",
  node: "a",
  path: ["words"],
  steps: typed(text, at),
});
const replaceAll = (text: string): Edit => ({
  type: "text",
  node: "a",
  path: ["words"],
  steps: [
    { stepType: "replace", from: 1, to: 3, slice: { content: [{ type: "text", text }] } } as never,
  ],
});

it("merges what somebody else wrote in another place of the same text", async () => {
  answer = () => null;
  session.edit(write("Mine. "));
  await settle();
  push([foreign(write(" Theirs.", 3))]);
  expect(words()).toContain("Mine. Hi Theirs.");
  answer = null;
  await vi.advanceTimersByTimeAsync(2_100);
  expect(JSON.stringify(find(stored.doc, "a")!.node.props.words)).toContain("Mine. Hi Theirs.");
  expect(session.state()).toMatchObject({ conflict: null, saving: "saved" });
});

it("merges and sends again when the server was ahead", async () => {
  const theirs = foreign(write(" Theirs.", 3));
  let refusals = 0;
  answer = (envelopes) => {
    if (envelopes[0]!.base >= 1) return accept(envelopes);
    refusals++;
    return { edits: [], problem: "stale", message: "Stale.", can, stored: null };
  };
  missed = [theirs];
  session.edit(write("Mine. "));
  await settle();
  expect(refusals).toBe(1);
  expect(JSON.stringify(find(stored.doc, "a")!.node.props.words)).toContain("Mine. Hi Theirs.");
  expect(said).toEqual([]);
});

it("shows both versions where the same words were replaced", async () => {
  answer = () => null;
  session.edit(replaceAll("Mine"));
  await settle();
  push([foreign(replaceAll("Theirs"))]);
  const { conflict } = session.state();
  expect(JSON.stringify(conflict?.mine)).toContain("Mine");
  expect(JSON.stringify(conflict?.theirs)).toContain("Theirs");
  expect(words()).toContain("Theirs");
  session.settleConflict();
  expect(session.state().conflict).toBeNull();
});

it("merges words that were typed but not yet sent", async () => {
  let typing: string | null = "Mine. ";
  session.beforeFlush(() => {
    if (typing) session.edit(write(typing));
    typing = null;
  });
  push([foreign(write(" Theirs.", 3))]);
  await settle();
  expect(words()).toContain("Mine. Hi Theirs.");
  expect(JSON.stringify(find(stored.doc, "a")!.node.props.words)).toContain("Mine. Hi Theirs.");
});

it("keeps what could not be sent for the tab that comes next", async () => {
  answer = () => null;
  session.edit(write("Before the tab was closed. "));
  await settle();
  expect([...kept.keys()]).toHaveLength(1);
  stop();
  // Meanwhile somebody else goes on; the next tab opens the newer state.
  const theirs = foreign(write(" Theirs.", 3));
  missed = [theirs];
  answer = null;
  const { seq, doc: opened } = stored;
  session = createSession({ campaign: "x", seq, doc: opened, can, trouble: null }, (text) =>
    said.push(text),
  );
  stop = session.follow();
  await settle();
  await vi.advanceTimersByTimeAsync(10);
  expect(words()).toContain("Before the tab was closed. Hi Theirs.");
  expect(JSON.stringify(find(stored.doc, "a")!.node.props.words)).toContain("closed. Hi Theirs.");
  expect([...kept.keys()]).toEqual([]);
});

it("says who else is there, and where", async () => {
  tell([
    { tab: "other", name: "Ben", at: "a" },
    { tab: "another", name: "Ada", at: null },
  ]);
  expect(session.state().others.map((one) => one.name)).toEqual(["Ben", "Ada"]);
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
