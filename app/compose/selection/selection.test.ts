import { beforeEach, expect, it, vi } from "vitest";
import { createStore } from "zustand";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { createSelection, type Selection } from "./selection.ts";

const withBlocks = (...ids: string[]): EmailDocument =>
  createDocument([
    createBand(
      () => "band",
      [
        createColumn(
          () => "column",
          ids.map((id) => createBlock("text", () => id)),
        ),
      ],
    ),
  ]);
const showing = createStore<{ doc: EmailDocument; fixed: string | null }>(() => ({
  doc: withBlocks("a", "b", "c"),
  fixed: null,
}));
let selection: Selection;
const state = () => selection.store.getState();
beforeEach(() => {
  showing.setState({ doc: withBlocks("a", "b", "c"), fixed: null });
  selection = createSelection(showing, "envelope");
});

it("selects one, several, and a range", () => {
  expect(state()).toMatchObject({ selected: "envelope", chosen: [] });
  selection.select("a");
  selection.select("c", "range");
  expect(state()).toMatchObject({ selected: "c", chosen: ["a", "b", "c"], anchor: "a" });
  selection.select("b", "toggle");
  expect(state().chosen).toEqual(["a", "c"]);
  selection.select(["b", "c"]);
  expect(state()).toMatchObject({ selected: "b", chosen: ["b", "c"] });
});

it("lets go of what somebody else has taken out, and keeps the rest", () => {
  selection.select(["a", "b"]);
  showing.setState({ doc: withBlocks("b", "c") });
  expect(state()).toMatchObject({ selected: "b", chosen: ["b"] });
  showing.setState({ doc: withBlocks("c") });
  expect(state()).toMatchObject({ selected: null, chosen: [] });
});

it("ends writing when something else is selected, and begins none where nothing can be changed", () => {
  selection.select("a");
  selection.write("a", "narrow");
  expect(state().writing).toEqual({ node: "a", on: "narrow" });
  selection.select("a");
  expect(state().writing).not.toBeNull();
  selection.select("b");
  expect(state().writing).toBeNull();
  showing.setState({ fixed: "It is being sent." });
  selection.write("b");
  expect(state().writing).toBeNull();
});

it("is told once that the pointer is over something", () => {
  const heard = vi.fn();
  selection.store.subscribe(heard);
  for (const id of ["a", "a", "a", null, null]) selection.hover(id);
  expect(heard).toHaveBeenCalledTimes(2);
});
