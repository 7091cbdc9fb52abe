import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createStore } from "zustand";
import { createDocument } from "#core/blocks/index.ts";
import { createFindings } from "./findings.ts";
import type { Inspection } from "./inspect.ts";

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
  const findings = createFindings(session as never, { store: reading } as never, "");
  const end = findings.begin();
  return {
    findings,
    end,
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
  worker!.onmessage!({ data: { n: 1, ...inspection(8) } });
  expect(shown()).toBeNull();
  worker!.onmessage!({ data: { n: 2, ...inspection(9) } });
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
  made[1]!.onmessage!({ data: { n: made[1]!.asked[0]!.n, ...inspection(5) } });
  expect(shown()).toMatchObject(inspection(5));
});

it("inspects again when who sees what changes later", () => {
  const { findings, count, rest } = parts();
  findings.hear(inspection(7));
  count();
  rest();
  expect(made[0]!.asked).toHaveLength(1);
});
