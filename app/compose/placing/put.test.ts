import type { DragEndEvent, DragStartEvent } from "@dnd-kit/core";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createStore } from "zustand";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Messages } from "../messages/messages.ts";
import type { ReadingState } from "../reading/reading.ts";
import type { SelectionState } from "../selection/selection.ts";
import type { Views } from "../sheets/views.ts";
import type { Load } from "./load.ts";
import { createPlacing } from "./placing.ts";

const email = (...blocks: string[]): EmailDocument =>
  createDocument([
    createBand(
      () => "band",
      [
        createColumn(
          () => "column",
          blocks.map((id) => createBlock("spacer", () => id)),
        ),
      ],
    ),
  ]);

function placing(doc: EmailDocument) {
  const reading = createStore(() => ({ doc }) as ReadingState);
  const put = vi.fn();
  const said: string[] = [];
  const view = { boxOf: () => null };
  const made = createPlacing({
    reading: { store: reading },
    selection: { store: createStore(() => ({ selected: "a" }) as SelectionState) },
    views: { get: () => view, answering: () => "wide" } as unknown as Views,
    commands: { put, addFiles: vi.fn() },
    messages: {
      say: (words) => said.push(words),
      announce: () => {},
    } as Partial<Messages> as Messages,
  });
  return { made, put, said, set: (next: EmailDocument) => reading.setState({ doc: next }) };
}
const block: Load = { kind: "nodes", ids: ["a"] };
const start = (load: Load) =>
  ({ active: { data: { current: { load } } } }) as never as DragStartEvent;
const enter = () =>
  ({ key: "Enter", preventDefault() {}, stopPropagation() {} }) as unknown as KeyboardEvent;

beforeEach(() => vi.stubGlobal("requestAnimationFrame", () => 0));
afterEach(() => vi.unstubAllGlobals());

it("says that what is dropped has been deleted meanwhile, wherever it is dropped", () => {
  const { made, put, said, set } = placing(email("a", "b"));
  made.handlers.onDragStart(start(block));
  set(email("b"));
  made.handlers.onDragEnd({} as DragEndEvent);
  expect(said).toEqual(["Somebody has deleted this meanwhile."]);
  expect(put).not.toHaveBeenCalled();
  expect(made.store.getState().load).toBeNull();
});

it("says nothing of what is dropped beside the sheets, or is not in the email yet", () => {
  const { made, put, said } = placing(email("b"));
  for (const load of [
    { kind: "nodes", ids: ["b"] },
    { kind: "new", type: "text" },
  ] as const) {
    made.handlers.onDragStart(start(load));
    made.handlers.onDragEnd({} as DragEndEvent);
  }
  expect(said).toEqual([]);
  expect(put).not.toHaveBeenCalled();
});

it("puts down where the keys have chosen, and says so where it is gone", () => {
  const { made, put, said, set } = placing(email("a", "b"));
  made.begin(block);
  made.key(enter());
  expect(put).toHaveBeenCalledTimes(1);
  expect(put.mock.calls[0]![0]).toEqual(block);
  made.begin(block);
  set(email("b"));
  made.key(enter());
  expect(put).toHaveBeenCalledTimes(1);
  expect(said).toEqual(["Somebody has deleted this meanwhile."]);
});
