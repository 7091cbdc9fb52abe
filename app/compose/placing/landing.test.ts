import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { phrase } from "#core/text/index.ts";
import type { Box } from "../sheets/view.ts";
import { landingAt } from "./landing.ts";

const doc = createDocument([
  createBand(
    () => "walks",
    [
      createColumn(
        () => "left",
        [
          createBlock("heading", () => "h", { words: phrase("Brook walk") }),
          createBlock("button", () => "b"),
        ],
      ),
      createColumn(() => "right"),
    ],
    { name: "Two walks" },
  ),
  createBand(() => "foot", [createColumn(() => "f", [createBlock("footer", () => "z")])]),
]);
const BOXES: Record<string, Box> = {
  walks: { x: 0, y: 0, width: 600, height: 200 },
  left: { x: 0, y: 0, width: 300, height: 200 },
  right: { x: 300, y: 0, width: 300, height: 1 },
  h: { x: 0, y: 0, width: 300, height: 100 },
  b: { x: 0, y: 100, width: 300, height: 100 },
  foot: { x: 0, y: 200, width: 600, height: 20 },
  f: { x: 0, y: 200, width: 600, height: 20 },
  z: { x: 0, y: 200, width: 600, height: 20 },
};
const land = (
  x: number,
  y: number,
  load: Parameters<typeof landingAt>[1] = { kind: "new", type: "text" },
) => landingAt(doc, load, { x, y }, (id) => BOXES[id] ?? null);

it("lands between blocks and says so in words", () => {
  expect(land(50, 90)).toEqual({
    spot: { parent: "left", after: "h" },
    words: "between “Brook walk” and the button",
    line: { x: 0, y: 100, width: 300 },
  });
  expect(land(50, 20)).toMatchObject({
    spot: { parent: "left", after: null },
    words: "above “Brook walk”",
  });
  expect(land(50, 180)).toMatchObject({
    spot: { parent: "left", after: "b" },
    words: "below the button",
  });
});

it("lands in an empty column", () => {
  expect(land(500, 100)).toMatchObject({
    spot: { parent: "right", after: null },
    words: "into the empty column",
  });
});

it("lands between bands near their edges, full width", () => {
  expect(land(50, 197)).toEqual({
    spot: { parent: "email", after: "walks" },
    words: "between “Two walks” and the band, full width",
    line: { x: 0, y: 200, width: 600 },
  });
  expect(land(50, 3)).toMatchObject({ spot: { parent: "email", after: null } });
  expect(land(50, 900)).toMatchObject({ spot: { parent: "email", after: "foot" } });
});

it("reaches the inside of a low band, and takes bands only between bands", () => {
  expect(land(50, 208)).toMatchObject({ spot: { parent: "f", after: null } });
  expect(land(50, 90, { kind: "newBand", columns: 2 })).toMatchObject({
    spot: { parent: "email", after: null },
  });
});

it("lands in an email with nothing in it", () => {
  const empty = landingAt(
    createDocument(),
    { kind: "new", type: "text" },
    { x: 1, y: 1 },
    () => null,
  );
  expect(empty).toMatchObject({ spot: { parent: "email", after: null }, words: "into the email" });
});
