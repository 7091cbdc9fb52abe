import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, type Edit, type Envelope, find, type StoredEdit } from "#core/document/index.ts";
import { doc } from "#core/text/index.ts";
import { createSession, type Session } from "./session.ts";
import type { EditsAnswer, Presence } from "./wire.ts";

const start = createDocument([
  createBand(
    () => "band",
    [
      createColumn(
        () => "column",
        ["a", "b"].map((id) => createBlock("text", () => id, { words: doc("Hi") })),
      ),
    ],
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
/** Everything that was stored: a tab hears of it when it asks. */
let log: StoredEdit[] = [];
let stop = () => {};
/** The email as it was after each edit. */
let states = [start];
const kept = new Map<string, string>();
const said: string[] = [];
let session: Session;

function accept(envelopes: readonly Envelope[]): EditsAnswer {
  const edits = envelopes.map((envelope) => {
    stored = { seq: stored.seq + 1, doc: apply(stored.doc, envelope.edit) };
    const { id, tab, edit } = envelope;
    const made = { id, seq: stored.seq, tab, person: "ada", at: "", edit };
    log.push(made);
    return made;
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
  log = [];
  states = [start];
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
    if (pathname.endsWith("/history")) {
      const seq = Number(searchParams.get("at"));
      return Response.json({ seq, doc: states[seq] });
    }
    if (pathname.endsWith("/presence")) return new Response(null, { status: 204 });
    if (!init?.body) {
      return Response.json(log.filter((one) => one.seq > Number(searchParams.get("since"))));
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
  foreign(write(" Theirs.", 3));
  let refusals = 0;
  answer = (envelopes) => {
    if (envelopes[0]!.base >= 1) return accept(envelopes);
    refusals++;
    return { edits: [], problem: "stale", message: "Stale.", can, stored: null };
  };
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
  foreign(write(" Theirs.", 3));
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

it("brings several tabs’ unsent edits up to now, each from the state it was made on", async () => {
  // The first tab has had one edit stored and lost the line before its second; the other wrote later.
  const one: Envelope = { id: "of-tab-one", tab: "gone-one", base: 0, edit: write("Two. ", 6) };
  const first = foreign(write("One. "));
  foreign(write(" End.", 8));
  kept.set("septima.unsent.x.gone-one", JSON.stringify({ seq: 1, envelopes: [one] }));
  const two: Envelope = { id: "of-tab-two", tab: "gone-two", base: 2, edit: setSize(40) };
  kept.set("septima.unsent.x.gone-two", JSON.stringify({ seq: 2, envelopes: [two] }));
  kept.set("septima.unsent.x.broken", "{");
  states = [start, apply(start, first.edit), stored.doc];
  stop();
  session = createSession({ campaign: "x", ...stored, can, trouble: null }, (text) =>
    said.push(text),
  );
  stop = session.follow();
  await vi.advanceTimersByTimeAsync(20);
  expect(words()).toContain("One. Two. Hi End.");
  expect(size()).toBe(40);
  expect(find(stored.doc, "a")!.node.props.type).toMatchObject({ size: 40 });
  expect([...kept.keys()]).toEqual(["septima.unsent.x.broken"]);
});

it("gives up only the one edit that the server will not take", async () => {
  answer = () => null;
  session.edit(setSize(20));
  session.edit(write("No. "));
  session.edit(setSize(30));
  await settle();
  answer = (envelopes) =>
    envelopes.some(({ edit }) => edit.type === "text")
      ? { edits: [], problem: "refused", message: "Not this.", can, stored: null }
      : accept(envelopes);
  await vi.advanceTimersByTimeAsync(2_100);
  expect(said).toEqual(["Not this."]);
  expect(words()).not.toContain("No. ");
  expect(size()).toBe(30);
  expect(find(stored.doc, "a")!.node.props.type).toMatchObject({ size: 30 });
  expect(session.state().saving).toBe("saved");
});

it("shows one conflict after another, and goes on receiving meanwhile", async () => {
  answer = () => null;
  session.edit(replaceAll("Mine"));
  session.edit({ ...replaceAll("Mine too"), node: "b" } as Edit);
  await settle();
  push([
    foreign(replaceAll("Theirs")),
    foreign({ ...replaceAll("Theirs too"), node: "b" } as Edit),
    foreign(setSize(28)),
  ]);
  expect(size()).toBe(28);
  expect(session.state().conflict).toMatchObject({ node: "a" });
  session.settleConflict();
  expect(session.state().conflict).toMatchObject({ node: "b" });
  session.settleConflict();
  expect(session.state().conflict).toBeNull();
});

it("shows what it has when something is missing in between, and asks for the rest", async () => {
  const [first, , third] = [setSize(21), setSize(22), setSize(23)].map(foreign);
  push([first!, third!]);
  expect(size()).toBe(21);
  await settle();
  expect(size()).toBe(23);
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
