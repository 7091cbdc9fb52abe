import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createStore } from "zustand";
import { createDocument } from "#core/blocks/index.ts";
import { createFindings } from "./findings.ts";
import type { Inspection } from "./inspect.ts";
import type { Spelled } from "./spelled.ts";

const made: FakeWorker[] = [];
class FakeWorker {
  asked: { n: number; doc: unknown }[] = [];
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onerror: (() => void) | null = null;
  terminated = false;
  constructor() {
    made.push(this);
  }
  postMessage(message: { n: number; doc: unknown }) {
    this.asked.push(message);
  }
  terminate() {
    this.terminated = true;
  }
}
beforeEach(() => {
  made.length = 0;
  vi.stubGlobal("Worker", FakeWorker);
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const inspection = (bytes: number): Inspection => ({ findings: [], contrasts: {}, bytes });

function parts() {
  const doc = createDocument([]);
  const email = createStore(() => ({ doc }));
  const reading = createStore<object>(() => ({ surroundings: {}, fields: [], whoSees: null }));
  const session = { state: email.getState, store: email };
  const learned: unknown[] = [];
  let answers = (): Promise<boolean> => Promise.resolve(true);
  const spelled: Spelled = {
    known: () => new Map(),
    learn(unknown) {
      learned.push(unknown);
      return answers();
    },
    accept: (word) => void learned.push(word),
  };
  const findings = createFindings(session as never, { store: reading } as never, "", spelled);
  const end = findings.begin();
  return {
    findings,
    end,
    learned,
    answer: (given: () => Promise<boolean>) => {
      answers = given;
    },
    edit: () => email.setState({ doc: createDocument([]) }),
    count: () => reading.setState({ whoSees: {} }),
    shown: () => findings.store.getState().inspection,
    rest: () => vi.advanceTimersByTime(400),
  };
}

it("shows what the server found of the email as it was loaded, and loads nothing for it", () => {
  const { findings, count, shown, rest } = parts();
  count();
  findings.hear(inspection(7));
  rest();
  expect(shown()).toEqual(inspection(7));
  expect(made).toEqual([]);
});

it("inspects here what has changed since, and takes nothing older for it", () => {
  const { findings, edit, shown, rest, end } = parts();
  edit();
  rest();
  findings.hear(inspection(7));
  expect(shown()).toBeNull();
  edit();
  rest();
  const [worker] = made;
  expect(worker!.asked.map(({ n }) => n)).toEqual([1, 2]);
  worker!.onmessage!({ data: { n: 1, unknown: [], ...inspection(8) } });
  expect(shown()).toBeNull();
  worker!.onmessage!({ data: { n: 2, unknown: [], ...inspection(9) } });
  expect(shown()).toMatchObject(inspection(9));
  end();
  expect(worker!.terminated).toBe(true);
});

it("inspects by itself where the server could not tell", () => {
  const { findings, rest } = parts();
  findings.hear(null);
  rest();
  expect(made).toHaveLength(1);
  expect(made[0]!.asked).toHaveLength(1);
});

it("tries again with the next change where its script could not be loaded", () => {
  const { edit, shown, rest } = parts();
  edit();
  rest();
  made[0]!.onerror!();
  expect(made[0]!.terminated).toBe(true);
  edit();
  rest();
  expect(made).toHaveLength(2);
  made[1]!.onmessage!({ data: { n: made[1]!.asked[0]!.n, unknown: [], ...inspection(5) } });
  expect(shown()).toMatchObject(inspection(5));
});

it("inspects again when who sees what changes later", () => {
  const { findings, count, rest } = parts();
  findings.hear(inspection(7));
  count();
  rest();
  expect(made[0]!.asked).toHaveLength(1);
});

const UNKNOWN = [["en", ["gaate"]]];

it("has unknown words looked up before it tells anything, once for each state", async () => {
  const { edit, shown, rest, learned } = parts();
  edit();
  rest();
  const [worker] = made;
  const tell = (n: number, bytes: number) =>
    worker!.onmessage!({ data: { n, unknown: UNKNOWN, ...inspection(bytes) } });
  tell(1, 4);
  await vi.advanceTimersByTimeAsync(0);
  expect(learned).toEqual([UNKNOWN]);
  expect(shown()).toBeNull();
  expect(worker!.asked.map(({ n }) => n)).toEqual([1, 1]);
  // What stays unknown now is told without.
  tell(1, 5);
  await vi.advanceTimersByTimeAsync(0);
  expect(learned).toHaveLength(1);
  expect(shown()).toMatchObject(inspection(5));
});

it("tells what it found without spelling where there is no line, and nothing once it is over", async () => {
  const { edit, shown, rest, answer, end } = parts();
  answer(() => Promise.resolve(false));
  edit();
  rest();
  const [worker] = made;
  worker!.onmessage!({ data: { n: 1, unknown: UNKNOWN, ...inspection(4) } });
  await vi.advanceTimersByTimeAsync(0);
  expect(shown()).toMatchObject(inspection(4));
  let late = (_: boolean) => {};
  answer(() => new Promise((ok) => (late = ok)));
  edit();
  rest();
  worker!.onmessage!({ data: { n: 2, unknown: UNKNOWN, ...inspection(6) } });
  end();
  late(true);
  await vi.advanceTimersByTimeAsync(1_000);
  expect(made).toHaveLength(1);
  expect(shown()).toMatchObject(inspection(4));
});

it("takes a word as right once the server has kept it", async () => {
  const { findings, learned, rest } = parts();
  vi.stubGlobal("fetch", async () => Response.json({ message: "No." }, { status: 409 }));
  expect(await findings.accept("gaate")).toBe("No.");
  expect(learned).toEqual([]);
  vi.stubGlobal("fetch", async () => Response.json({}));
  expect(await findings.accept("gaate")).toBeNull();
  expect(learned).toEqual(["gaate"]);
  rest();
  expect(made[0]!.asked).toHaveLength(1);
});
