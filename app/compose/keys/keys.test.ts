import { beforeEach, expect, it, vi } from "vitest";
import { createStore } from "zustand";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { createSelection } from "../selection/selection.ts";
import { createKeys, nameOfKey } from "./keys.ts";
import { KEYS } from "./list.ts";

const numbered = (letter: string) => {
  let n = 0;
  return () => `${letter}${++n}`;
};
const doc = createDocument([
  createBand(
    () => "band",
    [
      createColumn(
        () => "column",
        [
          createBlock("text", () => "text"),
          createBlock("spacer", () => "spacer"),
          createBlock("linksRow", numbered("l")),
        ],
      ),
    ],
  ),
]);

function setUp() {
  const reading = { store: createStore(() => ({ doc, fixed: null })) };
  const parts = {
    reading: reading as never,
    selection: createSelection(reading.store, "text"),
    commands: { run: vi.fn() },
    session: { undo: vi.fn(), redo: vi.fn() },
    panels: { open: vi.fn() },
    messages: { announce: vi.fn() },
    placing: { key: vi.fn(() => false) } as never,
  };
  return { ...parts, keys: createKeys(parts), state: parts.selection.store.getState };
}
let composer: ReturnType<typeof setUp>;
const page = { title: "Septima", querySelector: vi.fn<() => object | null>(() => null) };
beforeEach(() => {
  page.querySelector.mockReturnValue(null);
  vi.stubGlobal("document", page);
  composer = setUp();
});

/** A key press on a thing that is (by its selectors) one of these. */
function press(key: string, options: { on?: string; [modifier: string]: unknown } = {}) {
  const { on = "[role=tree]", ...rest } = options;
  const target = {
    closest: (selectors: string) =>
      selectors.split(", ").some((selector) => on.split(" ").includes(selector)) ? {} : null,
    ownerDocument: { title: "Septima" },
  };
  const event = { key, target, preventDefault: vi.fn(), ...rest } as unknown as KeyboardEvent;
  return composer.keys.press(event);
}
const selected = () => composer.state().selected;

it("walks the running order with the arrows and stops at its ends", () => {
  press("ArrowDown");
  expect(selected()).toBe("spacer");
  for (let i = 0; i < 9; i++) press("ArrowUp");
  expect(selected()).toBe("envelope");
  composer.selection.select(null);
  press("ArrowDown");
  expect(selected()).toBe("band");
  press("ArrowDown");
  press("ArrowDown", { shiftKey: true });
  expect(composer.state().chosen).toEqual(["text", "spacer"]);
});

it("moves, copies and takes out what is selected", () => {
  const edits = () => composer.commands.run.mock.calls.map(([doing]) => doing.edit);
  press("ArrowDown", { altKey: true });
  press("d", { ctrlKey: true });
  press("Delete");
  expect(edits()).toMatchObject([
    { type: "move", node: "text", after: "spacer" },
    { type: "insert", after: "text" },
    { type: "remove", node: "text" },
  ]);
});

it("writes with Enter where there is a text, and goes up with Escape", () => {
  expect(press("Enter")).toBe(true);
  expect(composer.state().writing).toEqual({ node: "text", on: null });
  composer.selection.select("spacer");
  expect(press("Enter")).toBe(false);
  press("Escape");
  expect(selected()).toBe("column");
});

it("undoes and redoes from anywhere", () => {
  composer.selection.select(null);
  press("z", { ctrlKey: true });
  press("Z", { ctrlKey: true, shiftKey: true });
  press("y", { metaKey: true });
  expect(composer.session.undo).toHaveBeenCalledTimes(1);
  expect(composer.session.redo).toHaveBeenCalledTimes(2);
});

it("leaves keys to fields, dialogs and buttons", () => {
  for (const on of ["input", "[contenteditable=true]", "[role=dialog]", "[role=menu]"]) {
    expect(press("Delete", { on })).toBe(false);
    expect(press("z", { on, ctrlKey: true })).toBe(false);
  }
  expect(press("Enter", { on: "button" })).toBe(false);
  // Arrows scroll the page where they lead through no list.
  expect(press("ArrowDown", { on: "main" })).toBe(false);
  expect(composer.commands.run).not.toHaveBeenCalled();
});

it("does nothing behind a dialog, wherever the focus is", () => {
  page.querySelector.mockReturnValue({});
  expect(press("Delete", { on: "body" })).toBe(false);
  expect(press("Enter", { on: "body", ctrlKey: true })).toBe(false);
  expect(composer.commands.run).not.toHaveBeenCalled();
  expect(composer.panels.open).not.toHaveBeenCalled();
});

it("the list of blocks opens from anywhere, find and replace from texts too", () => {
  for (const on of ["[role=tree]", "textarea", "body"]) press("Enter", { on, ctrlKey: true });
  expect(composer.panels.open.mock.calls).toEqual(Array(3).fill(["blocks", true]));
  const event = { key: "f", metaKey: true } as KeyboardEvent;
  expect(composer.keys.alsoInTexts(event)).toBe(true);
  expect(composer.keys.alsoInTexts({ ...event, key: "d" } as KeyboardEvent)).toBe(false);
});

it("arrows lead into what a block holds and out again", () => {
  const row = doc.root.children[0]!.children[0]!.children[2]!;
  composer.selection.select(row.id);
  press("ArrowRight");
  expect(selected()).toBe(row.children[0]!.id);
  press("ArrowLeft");
  expect(selected()).toBe(row.id);
  press("ArrowLeft");
  expect(selected()).toBe("band");
});

it("names a key once, with what is held down in one order", () => {
  const event = { key: "G", shiftKey: true, metaKey: true } as KeyboardEvent;
  expect(nameOfKey(event)).toBe("Mod+Shift+g");
  const names = KEYS.flatMap(({ keys, where }) => keys.split(", ").map((key) => `${key} ${where}`));
  expect(new Set(names).size).toBe(names.length);
});
