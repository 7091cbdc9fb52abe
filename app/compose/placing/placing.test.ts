import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply } from "#core/document/index.ts";
import { documentArbitrary } from "#core/testing/arbitrary-documents.ts";
import { phrase } from "#core/text/index.ts";
import { readingOrder } from "../doing/actions.ts";
import { putDown } from "../doing/put-down.ts";
import { counterpart } from "../sheets/scroll-together.ts";
import { edgeScroll } from "./edge-scroll.ts";
import type { Load } from "./load.ts";
import { type OrderRow, orderLanding } from "./order-landing.ts";
import { isBeside, spotsFor, whyNotBeside, wordsFor } from "./spots.ts";
import { beginWalk, sayWalk, spotOf, stepWalk, type Walk } from "./walk.ts";

const spacer = (id: string) => createBlock("spacer", () => id);
/** Items of a block have ids of their own. */
const ids = (first: string) => {
  let n = 0;
  return () => (n++ === 0 ? first : `${first}${n}`);
};
/** Band `walks`: a heading, a card with x in it; band `links`: a links row; band `foot`: a footer. */
const doc = createDocument([
  createBand(
    () => "walks",
    [
      createColumn(
        () => "c1",
        [
          createBlock("heading", () => "h", { words: phrase("Walks") }),
          createBlock("card", () => "card", {}, [spacer("x")]),
        ],
      ),
    ],
    { name: "Walks" },
  ),
  createBand(() => "links", [createColumn(() => "c2", [createBlock("linksRow", ids("row"))])]),
  createBand(() => "foot", [createColumn(() => "c3", [createBlock("footer", ids("z"))])]),
]);
const text: Load = { kind: "new", type: "text" };
const nodes = (...ids: string[]): Load => ({ kind: "nodes", ids });

describe("over the running order", () => {
  /** Every row is ten pixels high. */
  const rows: OrderRow[] = readingOrder(doc).map(({ id }, i) => ({
    id,
    top: i * 10,
    bottom: i * 10 + 10,
  }));
  const at = (id: string) => rows.find((row) => row.id === id)!.top;
  const land = (load: Load, y: number) => orderLanding(doc, load, y, rows)!;

  it("a block lands above or below the row, or into the band or card whose row it is", () => {
    expect(land(text, at("h") + 2)).toMatchObject({
      spot: { parent: "c1", after: null },
      words: "above “Walks”",
      line: { y: at("h") },
    });
    expect(land(text, at("h") + 8).spot).toEqual({ parent: "c1", after: "h" });
    expect(land(text, at("card") + 8).spot).toEqual({ parent: "card", after: null });
    expect(land(text, at("x") + 8).spot).toEqual({ parent: "card", after: "x" });
    expect(land(text, at("links") + 1).spot).toEqual({ parent: "email", after: "walks" });
    expect(land(text, at("links") + 8).spot).toEqual({ parent: "c2", after: null });
    expect(land(text, 900).spot).toEqual({ parent: "email", after: "foot" });
  });
  it("a card stays out of cards", () => {
    const card: Load = { kind: "new", type: "card" };
    expect(land(card, at("x") + 2).spot).toEqual({ parent: "c1", after: "card" });
    expect(land(card, at("card") + 8).spot).toEqual({ parent: "c1", after: "card" });
  });
  it("a band lands between bands, by the middle of what each holds", () => {
    expect(land(nodes("foot"), at("walks") + 2).spot).toEqual({ parent: "email", after: null });
    expect(land(nodes("foot"), at("x")).spot).toEqual({ parent: "email", after: "walks" });
    expect(land({ kind: "newBand", columns: 2 }, 900).words).toBe("below the band, full width");
  });
  it("an item lands among its own kind only", () => {
    const [first, second, third] = doc.root.children[1]!.children[0]!.children[0]!.children;
    const open = readingOrder(doc, first!.id).map(({ id }, i) => ({
      id,
      top: i * 10,
      bottom: i * 10 + 10,
    }));
    const y = open.find((row) => row.id === second!.id)!.top;
    expect(orderLanding(doc, nodes(third!.id), y + 2, open)!.spot).toEqual({
      parent: "row",
      after: first!.id,
    });
    expect(orderLanding(doc, nodes(first!.id), 900, open)!.spot).toMatchObject({ parent: "row" });
  });
});

describe("by keyboard", () => {
  const step = (walk: Walk, ...keys: string[]) =>
    keys.reduce((now, key) => stepWalk(doc, now, key)!, walk);
  it("begins after what is selected, and goes through every spot to both ends", () => {
    const walk = beginWalk(doc, text, "h");
    expect(sayWalk(doc, walk)).toBe("between “Walks” and the card, 3 of 13");
    expect(spotOf(doc, step(walk, "Home"))).toEqual({ parent: "email", after: null });
    expect(spotOf(doc, step(walk, "End", "ArrowDown"))).toEqual({ parent: "email", after: "foot" });
    expect(step(walk, "ArrowUp", "ArrowDown")).toEqual(walk);
    expect(stepWalk(doc, walk, "x")).toBeNull();
  });
  it("goes beside the block at hand and back", () => {
    const walk = beginWalk(doc, text, "z");
    const beside = step(walk, "ArrowLeft");
    expect(spotOf(doc, beside)).toEqual({ beside: "z", side: "left" });
    expect(sayWalk(doc, beside)).toBe("left of the footer, in a column of its own");
    expect(spotOf(doc, step(beside, "ArrowRight"))).toEqual({ parent: "c3", after: "z" });
    const band = beginWalk(doc, { kind: "newBand", columns: 1 }, "z");
    expect(isBeside(spotOf(doc, step(band, "ArrowLeft")))).toBe(false);
  });
  it("offers only spots where the load can be put down", () => {
    fc.assert(
      fc.property(documentArbitrary, fc.constantFrom("text", "card"), fc.nat(), (any, type, n) => {
        const load: Load = { kind: "new", type };
        const spots = spotsFor(any, load);
        const spot = spots[n % spots.length]!;
        expect(wordsFor(any, spot)).not.toBe("");
        apply(any, putDown(any, load, spot)!.edit);
      }),
    );
  });
});

describe("scrolling", () => {
  it("keeps the same band at the same height, and both ends together", () => {
    const wide = [0, 100, 300, 400];
    const narrow = [0, 200, 900, 1_000];
    expect(counterpart(0, wide, narrow)).toBe(0);
    expect(counterpart(200, wide, narrow)).toBe(550);
    expect(counterpart(400, wide, narrow)).toBe(1_000);
    expect(counterpart(counterpart(250, wide, narrow), narrow, wide)).toBeCloseTo(250);
    expect(counterpart(50, [0, 0, 100], [0, 0, 300])).toBe(150);
    expect(counterpart(70, wide, [0, 10])).toBe(70);
  });
  it("goes faster the nearer the pointer is to an edge, and stops at the ends", () => {
    const pane = {
      scrollTop: 100,
      getBoundingClientRect: () => ({ top: 0, bottom: 500 }),
    } as unknown as Element;
    const moved = (y: number) => {
      const before = pane.scrollTop;
      edgeScroll(pane, y);
      return pane.scrollTop - before;
    };
    expect(moved(250)).toBe(0);
    expect(moved(490)).toBeGreaterThan(moved(460));
    expect(moved(2)).toBeLessThan(moved(40));
    expect(edgeScroll(pane, 900)).toBe(false);
  });
});

it("says why nothing can stand beside a block", () => {
  const band = (columns: string[][], props = {}) =>
    createBand(
      ids("band"),
      columns.map((blocks) => createColumn(ids("column"), blocks.map(spacer))),
      props,
    );
  const why = (one: ReturnType<typeof band>, block: string) =>
    whyNotBeside(createDocument([one]), block);
  expect(why(band([["a"], ["b"], ["c"], ["d"]]), "a")).toBe("a band has at most 4 columns");
  const border = { width: 2, colour: "ink" };
  expect(why(band([["e", "f"]], { border }), "e")).toContain("stays whole");
  expect(why(band([["g", "h"]]), "g")).toBe(null);
});
