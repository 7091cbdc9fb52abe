import { beforeEach, expect, it, vi } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { Composer } from "../context.ts";
import { handleKey } from "./keys.ts";

const doc = createDocument([
  createBand(
    () => "band",
    [
      createColumn(
        () => "column",
        ["text", "spacer"].map((type) => createBlock(type, () => type)),
      ),
    ],
  ),
]);
const composer = {
  doc,
  selected: "text" as string | null,
  get chosen() {
    return this.selected ? [this.selected] : [];
  },
  placing: { key: () => false },
  select: vi.fn(),
  write: vi.fn(),
  run: vi.fn(),
  openList: vi.fn(),
  session: { undo: vi.fn(), redo: vi.fn() },
};
beforeEach(() => {
  vi.clearAllMocks();
  vi.stubGlobal("document", { title: "Septima" });
  composer.selected = "text";
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
  return handleKey(event, composer as unknown as Composer);
}

it("walks the running order with the arrows and stops at its ends", () => {
  press("ArrowDown");
  expect(composer.select).toHaveBeenCalledWith("spacer", "one");
  press("ArrowUp");
  expect(composer.select).toHaveBeenLastCalledWith("band", "one");
  composer.selected = "spacer";
  press("ArrowDown");
  expect(composer.select).toHaveBeenCalledTimes(2);
  composer.selected = null;
  press("ArrowDown");
  expect(composer.select).toHaveBeenLastCalledWith("band", "one");
});

it("moves, copies and takes out what is selected", () => {
  press("ArrowDown", { altKey: true });
  expect(composer.run.mock.calls[0]![0].edit).toMatchObject({
    type: "move",
    node: "text",
    after: "spacer",
  });
  press("d", { ctrlKey: true });
  expect(composer.run.mock.calls[1]![0].edit).toMatchObject({ type: "insert", after: "text" });
  press("Delete");
  expect(composer.run.mock.calls[2]![0].edit).toEqual({ type: "remove", node: "text" });
});

it("writes with Enter where there is a text, and goes up with Escape", () => {
  expect(press("Enter")).toBe(true);
  expect(composer.write).toHaveBeenCalledWith("text");
  composer.selected = "spacer";
  expect(press("Enter")).toBe(false);
  press("Escape");
  expect(composer.select).toHaveBeenCalledWith("column");
});

it("undoes and redoes from anywhere", () => {
  composer.selected = null;
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
  expect(composer.run).not.toHaveBeenCalled();
});

it("the list of blocks opens from anywhere, and arrows lead into what a block holds and out again", () => {
  for (const on of ["[role=tree]", "textarea", "body"]) press("Enter", { on, ctrlKey: true });
  expect(composer.openList).toHaveBeenCalledTimes(3);
  const row = createBlock(
    "linksRow",
    (
      (n) => () =>
        `l${++n}`
    )(0),
  );
  const held = {
    ...composer,
    doc: createDocument([createBand(() => "b", [createColumn(() => "c", [row])])]),
  };
  const at = (selected: string, key: string) => {
    const target = { closest: () => ({}), ownerDocument: { title: "Septima" } };
    const tree = { ...target, closest: (s: string) => (s === "[role=tree]" ? {} : null) };
    const event = { key, target: tree, preventDefault: vi.fn() } as unknown as KeyboardEvent;
    handleKey(event, { ...held, selected } as unknown as Composer);
    return composer.select.mock.lastCall?.[0] as string;
  };
  expect(at(row.id, "ArrowRight")).toBe(row.children[0]!.id);
  expect(at(row.children[0]!.id, "ArrowLeft")).toBe(row.id);
  expect(at(row.id, "ArrowLeft")).toBe("b");
});
