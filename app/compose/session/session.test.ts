import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import {
  apply,
  type Change,
  type Edit,
  type Envelope,
  find,
  invert,
  type StoredEdit,
} from "#core/document/index.ts";
import { doc } from "#core/text/index.ts";
import type { EditsAnswer, Presence } from "../wire.ts";
import { createSession, type Session } from "./session.ts";

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
const opened = () => ({ campaign: "x", person: "ada", holds: false, can, trouble: null });
const setSize = (value: number): Edit => ({
  type: "set",
  node: "a",
  path: ["type", "size"],
  value,
});
const typed = (text: string, at = 1) => [
  { stepType: "replace", from: at, to: at, slice: { content: [{ type: "text", text }] } } as never,
];

/** A server that stores what it gets; `answer` may refuse, be away, or know no session. */
let stored = { seq: 0, doc: start };
let answer: ((envelope: Envelope) => EditsAnswer | null | "signedOut") | null = null;
/** What was done before, as the server keeps it. */
let mine: unknown[] = [];
let posts = 0;
/** Whether the server knows who asks for what was stored. */
let known = true;
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

const change = (edit: Edit, id: string): Change => ({
  id,
  edit,
  does: "do",
  step: id,
  of: null,
});

function accept({ tab, changes }: Pick<Envelope, "tab" | "changes">): EditsAnswer {
  const edits = changes.map((one) => {
    const before = log.find(({ id }) => id === one.id);
    if (before) return before;
    stored = { seq: stored.seq + 1, doc: apply(stored.doc, one.edit) };
    const made = { ...one, seq: stored.seq, tab, person: "ada", at: "" };
    log.push(made);
    return made;
  });
  return { edits, seq: stored.seq, problem: null, message: null };
}
const foreign = (edit: Edit): StoredEdit => {
  const [one] = accept({ tab: "other", changes: [change(edit, `other-${stored.seq}`)] }).edits;
  return { ...one!, person: "bo" };
};
const refuse = (problem: EditsAnswer["problem"], message: string): EditsAnswer => ({
  edits: [],
  seq: 0,
  problem,
  message,
});

beforeEach(() => {
  vi.useFakeTimers();
  stored = { seq: 0, doc: start };
  answer = null;
  posts = 0;
  known = true;
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
    if (pathname.endsWith("/history") && searchParams.has("mine")) return Response.json(mine);
    if (pathname.endsWith("/history")) {
      const seq = Number(searchParams.get("at"));
      return Response.json({ seq, doc: states[seq] });
    }
    if (pathname.endsWith("/presence")) return new Response(null, { status: 204 });
    if (!init?.body) {
      if (!known) return new Response("Sign in first.", { status: 401 });
      return Response.json(log.filter((one) => one.seq > Number(searchParams.get("since"))));
    }
    posts++;
    const made = (answer ?? accept)(JSON.parse(String(init.body)) as Envelope);
    if (!made) throw new TypeError("no connection");
    if (made === "signedOut") return new Response("Sign in first.", { status: 401 });
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
  session = createSession({ ...opened(), seq: 0, doc: start }, (text) => said.push(text));
  stop = session.follow();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
const settle = () => vi.advanceTimersByTimeAsync(0);
/** Until typing that is gathered has left. */
const gathered = () => vi.advanceTimersByTimeAsync(700);
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
  push([{ ...change(setSize(20), "x"), seq: 1, tab: "t", person: "ada", at: "" }]);
  expect(session.state().doc).toBe(before);
});

it("says that it is saved when the hands rest, not with every request", async () => {
  const write = (text: string) => {
    session.typing();
    session.edit({ type: "text", node: "a", path: ["words"], steps: typed(text) });
  };
  const seen = new Set<string>();
  const unhear = session.store.subscribe(({ saving }) => seen.add(saving));
  for (let i = 0; i < 12; i++) {
    write("a");
    await vi.advanceTimersByTimeAsync(200);
  }
  expect(posts).toBeGreaterThan(1);
  expect([...seen]).toEqual(["saving"]);
  await gathered();
  unhear();
  expect(session.state()).toMatchObject({ saving: "saved" });
  // What was written after the last request has left too.
  expect(stored.doc).toEqual(session.state().doc);
});

it("does not tell who is signed out that all is saved, though that was still to be said", async () => {
  while (posts === 0) {
    session.typing();
    session.edit({ type: "text", node: "a", path: ["words"], steps: typed("a") });
    await vi.advanceTimersByTimeAsync(200);
  }
  expect(session.state().saving).toBe("saving");
  known = false;
  const [, second] = [setSize(21), setSize(22)].map(foreign);
  push([second!]);
  await settle();
  expect(session.state().saving).toBe("signedOut");
  await gathered();
  expect(session.state().saving).toBe("signedOut");
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
  answer = () => refuse("refused", "No.");
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
  expect(session.state()).toMatchObject({ clashes: [], saving: "saved" });
});

it("merges and sends again when the server was ahead", async () => {
  foreign(write(" Theirs.", 3));
  let refusals = 0;
  answer = (envelope) => {
    if (envelope.base >= 1) return accept(envelope);
    refusals++;
    return refuse("stale", "Stale.");
  };
  session.edit(write("Mine. "));
  await gathered();
  expect(refusals).toBe(1);
  expect(JSON.stringify(find(stored.doc, "a")!.node.props.words)).toContain("Mine. Hi Theirs.");
  expect(said).toEqual([]);
});

it("shows both versions where the same words were replaced", async () => {
  answer = () => null;
  session.edit(replaceAll("Mine"));
  await settle();
  push([foreign(replaceAll("Theirs"))]);
  const [conflict] = session.state().clashes;
  expect(JSON.stringify(conflict?.mine)).toContain("Mine");
  expect(JSON.stringify(conflict?.theirs)).toContain("Theirs");
  expect(words()).toContain("Theirs");
  session.settle(conflict!.id, "theirs");
  expect(session.state().clashes).toEqual([]);
});

it("gathers what is typed in one go into one edit, until it may have left", async () => {
  session.edit(write("Two "));
  session.edit(write("words", 5));
  expect(posts).toBe(0);
  session.flush();
  // The page stayed after all: what was handed over may be stored as it was.
  session.edit(write(" more", 10));
  await gathered();
  const texts = log.map(({ edit }) => (edit.type === "text" ? edit.steps.length : 0));
  expect(texts).toEqual([2, 1]);
  expect(words()).toContain("Two words more");
  expect(JSON.stringify(find(stored.doc, "a")!.node.props.words)).toContain("Two words more");
  session.undo();
  await settle();
  expect(words()).not.toContain("Two");
});

it("what is done beside typing leaves at once, and the typing before it", async () => {
  session.edit(write("Typed. "));
  session.edit(setSize(20));
  await settle();
  expect(log.map(({ edit }) => edit.type)).toEqual(["text", "set"]);
});

it("merges words that were typed but not yet sent", async () => {
  let typing: string | null = "Mine. ";
  session.beforeFlush(() => {
    if (typing) session.edit(write(typing));
    typing = null;
  });
  push([foreign(write(" Theirs.", 3))]);
  await gathered();
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
  const { seq, doc: now } = stored;
  session = createSession({ ...opened(), seq, doc: now }, (text) => said.push(text));
  stop = session.follow();
  await settle();
  await vi.advanceTimersByTimeAsync(10);
  expect(words()).toContain("Before the tab was closed. Hi Theirs.");
  expect(JSON.stringify(find(stored.doc, "a")!.node.props.words)).toContain("closed. Hi Theirs.");
  expect([...kept.keys()]).toEqual([]);
});

it("brings several tabs’ unsent edits up to now, each from the state it was made on", async () => {
  // The first tab has had one edit stored and lost the line before its second; the other wrote later.
  const one = change(write("Two. ", 6), "of-tab-one");
  const first = foreign(write("One. "));
  foreign(write(" End.", 8));
  kept.set("septima.unsent.x.gone-one", JSON.stringify({ seq: 1, changes: [one] }));
  // As a version before this one wrote it down.
  const two = { id: "of-tab-two", tab: "gone-two", base: 2, edit: setSize(40) };
  kept.set("septima.unsent.x.gone-two", JSON.stringify({ seq: 2, envelopes: [two] }));
  kept.set("septima.unsent.x.broken", "{");
  states = [start, apply(start, first.edit), stored.doc];
  stop();
  session = createSession({ ...opened(), ...stored }, (text) => said.push(text));
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
  answer = (envelope) =>
    envelope.changes.some(({ edit }) => edit.type === "text")
      ? refuse("refused", "Not this.")
      : accept(envelope);
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
  expect(session.state().clashes).toMatchObject([{ node: "a" }, { node: "b" }]);
  const settleFirst = () => session.settle(session.state().clashes[0]!.id, "theirs");
  settleFirst();
  expect(session.state().clashes).toMatchObject([{ node: "b" }]);
  settleFirst();
  expect(session.state().clashes).toEqual([]);
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

describe("another page begins to be read", () => {
  it("is told that it was read in time when all was stored before", async () => {
    session.edit(setSize(20));
    await session.finish();
    expect(stored.seq).toBe(1);
    expect(await session.readElsewhere()()).toBe(false);
  });

  it("is told that it was read too early when words were on their way, though they have arrived since", async () => {
    session.beforeFlush(() => {
      if (size() !== 20) session.edit(setSize(20));
    });
    const early = session.readElsewhere();
    await settle();
    expect(stored.seq).toBe(1);
    expect(await early()).toBe(true);
  });

  it("is told the same of what was written while it was read", async () => {
    const early = session.readElsewhere();
    session.edit(setSize(20));
    await session.finish();
    expect(await early()).toBe(true);
  });

  it("waits for the line before it is told", async () => {
    answer = () => null;
    session.edit(setSize(20));
    const early = session.readElsewhere();
    let told: boolean | null = null;
    const asked = early().then((one) => {
      told = one;
    });
    await vi.advanceTimersByTimeAsync(4_000);
    expect(told).toBeNull();
    answer = null;
    await vi.advanceTimersByTimeAsync(4_000);
    await asked;
    expect(told).toBe(true);
  });
});

it("takes back at once and without the line, and what is typed next is typed on that", async () => {
  answer = () => null;
  session.edit(write("good", 3));
  await vi.advanceTimersByTimeAsync(4_000);
  session.edit(write("!", 7));
  expect(words()).toContain("Higood!");
  session.undo();
  expect(words()).toContain('"Higood"');
  expect(session.state().can.redo).toBe(true);
  session.edit(write("bye", 7));
  expect(words()).toContain("Higoodbye");
  expect(session.state().can.redo).toBe(false);
  answer = null;
  await vi.advanceTimersByTimeAsync(2_100);
  expect(JSON.stringify(find(stored.doc, "a")!.node.props.words)).toContain("Higoodbye");
  expect(log.map(({ does }) => does)).toEqual(["do", "do", "undo", "do"]);
  expect(log[2]!.of).toBe(log[1]!.step);
});

it("takes words typed in one go back together, and does them again together", async () => {
  for (const [i, letter] of ["a", "b", "c"].entries()) session.edit(write(letter, 3 + i));
  await vi.advanceTimersByTimeAsync(10_000);
  session.edit(write("d", 6));
  session.undo();
  expect(words()).toContain("Hiabc");
  session.undo();
  expect(words()).toContain('"Hi"');
  expect(session.state().can).toEqual({ undo: false, redo: true });
  session.redo();
  expect(words()).toContain("Hiabc");
  session.redo();
  expect(words()).toContain("Hiabcd");
  await settle();
  expect(session.state()).toMatchObject({ saving: "saved", can: { undo: true, redo: false } });
});

it("passes over a step of which nothing is left, and says so once", async () => {
  session.edit(setSize(20));
  session.edit(write("Mine. "));
  await settle();
  push([foreign({ type: "set", node: "a", path: ["words"], value: doc("Theirs") as never })]);
  session.undo();
  expect(said).toHaveLength(1);
  expect(said[0]).toContain("changed since");
  session.undo();
  expect(size()).toBeNull();
  expect(words()).toContain("Theirs");
});

it("offers the words of a block back that somebody deleted, with their place, over a reload too", async () => {
  answer = () => null;
  session.edit(write("Never sent. "));
  push([foreign({ type: "remove", node: "a" })]);
  expect(find(session.state().doc, "a")).toBeNull();
  expect(session.state().clashes).toMatchObject([
    { lost: { parent: "column", node: { id: "a" } } },
  ]);
  stop();
  answer = null;
  session = createSession({ ...opened(), ...stored }, (text) => said.push(text));
  stop = session.follow();
  await settle();
  session.settle(session.state().clashes[0]!.id, "mine");
  expect(words()).toContain("Never sent. Hi");
  await settle();
  expect(JSON.stringify(stored.doc)).toContain("Never sent. Hi");
  expect([...kept.keys()]).toEqual([]);
});

it("keeps everything when the session has ended, and goes on after signing in", async () => {
  answer = () => "signedOut";
  session.edit(setSize(20));
  await settle();
  expect(session.state().saving).toBe("signedOut");
  session.edit(setSize(22));
  session.undo();
  expect(size()).toBe(20);
  expect([...kept.keys()]).toHaveLength(1);
  answer = null;
  session.signedIn();
  await settle();
  await settle();
  expect(session.state().saving).toBe("saved");
  expect(log).toHaveLength(3);
  expect(find(stored.doc, "a")!.node.props.type).toMatchObject({ size: 20 });
});

it("leaves an undo out that another tab of the person has made, and ends on what is stored", async () => {
  session.edit(setSize(20));
  await settle();
  answer = () => null;
  session.undo();
  const step = log[0]!.step;
  const other = { ...change({ ...setSize(0), value: null } as Edit, "other-undo"), of: step };
  const made = {
    ...other,
    does: "undo" as const,
    step: other.id,
    seq: 2,
    tab: "two",
    person: "ada",
    holds: false,
    at: "",
  };
  stored = { seq: 2, doc: apply(stored.doc, made.edit) };
  log.push(made);
  answer = null;
  push([made]);
  await vi.advanceTimersByTimeAsync(2_100);
  expect(log).toHaveLength(2);
  expect(session.state()).toMatchObject({ saving: "saved", can: { undo: false, redo: true } });
  expect(session.state().doc.root).toEqual(stored.doc.root);
});

it("refuses a change that is too large where it is made", () => {
  // By its bytes: that is what the server counts.
  for (const long of ["x".repeat(1_100_000), "é".repeat(600_000)]) {
    said.length = 0;
    expect(session.edit(write(long))).toBe(false);
    expect(said[0]).toContain("too large");
  }
});

it("takes back what was done before it was opened, from the steps the server keeps", async () => {
  stop();
  // Ada wrote twice and Bo once, in an earlier session.
  const before = [write("Ada. "), setSize(20), write("Bo. ", 8)];
  const people = ["ada", "ada", "bo"];
  let doc2 = start;
  const earlier = before.map((edit, i) => {
    const inverse = invert(doc2, edit);
    doc2 = apply(doc2, edit);
    const made = {
      ...change(edit, `before-${i}`),
      seq: i + 1,
      tab: "t",
      person: people[i]!,
      at: "",
    };
    return { ...made, inverse };
  });
  stored = { seq: 3, doc: doc2 };
  mine = earlier;
  session = createSession({ ...opened(), ...stored }, (text) => said.push(text));
  stop = session.follow();
  await settle();
  expect(session.state().can).toEqual({ undo: true, redo: false });
  session.undo();
  expect(size()).toBeNull();
  session.undo();
  expect(words()).toContain("Bo. ");
  expect(words()).not.toContain("Ada.");
  expect(session.state().can).toEqual({ undo: false, redo: true });
  session.redo();
  expect(words()).toContain("Ada. ");
  mine = [];
});

it("says that the sending has begun, and keeps what was on its way for a campaign of its own", async () => {
  answer = () => refuse("fixed", "It is being sent.");
  session.edit(setSize(20));
  session.edit(write("Late. "));
  await gathered();
  expect(session.state().saving).toBe("fixed");
  expect(session.left()).toHaveLength(2);
  expect([...kept.keys()]).toHaveLength(1);
  const before = posts;
  await vi.advanceTimersByTimeAsync(60_000);
  expect(posts).toBe(before);
  session.letGo();
  expect(session.state().saving).toBe("saved");
  expect(session.state().doc.root).toEqual(stored.doc.root);
  expect([...kept.keys()]).toEqual([]);
});
