import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, type Edit } from "#core/document/index.ts";
import { picture as known, SURROUNDINGS } from "#core/testing/rendered.ts";
import { line, phrase } from "#core/text/index.ts";
import { bandsSeen, diff, pictured } from "./diff.ts";

const doc = createDocument([
  createBand(
    () => "band",
    [
      createColumn(() => "one", [createBlock("text", () => "a"), createBlock("spacer", () => "b")]),
      createColumn(() => "two"),
    ],
  ),
  createBand(() => "last", [createColumn(() => "three", [createBlock("spacer", () => "c")])]),
]);
const changes = (edit: Edit) => diff(doc, apply(doc, edit));
const spacer = createBlock("spacer", () => "new");

describe("what a change touches", () => {
  it("is one element for a block", () => {
    expect(changes({ type: "set", node: "a", path: ["size"], value: 20 })).toEqual([
      { kind: "replace", id: "a" },
    ]);
  });
  it("is the order of a column where a block comes or goes", () => {
    expect(changes({ type: "insert", parent: "one", after: "a", node: spacer })).toEqual([
      { kind: "children", id: "one", order: ["a", "new", "b"] },
    ]);
    expect(changes({ type: "move", node: "b", parent: "one", after: null })).toEqual([
      { kind: "children", id: "one", order: ["b", "a"] },
    ]);
  });
  it("is the band where a column fills or empties, or its own properties change", () => {
    const band = [{ kind: "replace", id: "band" }];
    expect(changes({ type: "insert", parent: "two", after: null, node: spacer })).toEqual(band);
    expect(changes({ type: "set", node: "band", path: ["background"], value: "tint" })).toEqual(
      band,
    );
    expect(changes({ type: "set", node: "one", path: ["share"], value: 2 })).toEqual(band);
    const column = createColumn(() => "four");
    expect(changes({ type: "insert", parent: "band", after: "two", node: column })).toEqual(band);
  });
  it("is one block of a card, and the card where its blocks come, go or move", () => {
    const inner = ["x", "y"].map((id) => createBlock("spacer", () => id));
    const card = createBlock("card", () => "card", {}, inner);
    const start = createDocument([createBand(() => "band", [createColumn(() => "one", [card])])]);
    const of = (edit: Edit) => diff(start, apply(start, edit));
    expect(of({ type: "set", node: "x", path: ["height"], value: 9 })).toEqual([
      { kind: "replace", id: "x" },
    ]);
    const whole = [{ kind: "replace", id: "card" }];
    expect(of({ type: "move", node: "y", parent: "card", after: null })).toEqual(whole);
    expect(of({ type: "remove", node: "y" })).toEqual(whole);
    expect(of({ type: "set", node: "card", path: ["corner"], value: 1 })).toEqual(whole);
  });
  it("is what lists the titles too, where a title is written, goes, or changes its level", () => {
    const heading = createBlock("heading", () => "h", { words: phrase("One") });
    const list = createBlock("card", () => "card", {}, [createBlock("contents", () => "list")]);
    const start = createDocument([
      createBand(() => "band", [createColumn(() => "one", [list, heading])]),
    ]);
    const of = (edit: Edit) => diff(start, apply(start, edit));
    const both = [
      { kind: "replace", id: "h" },
      { kind: "replace", id: "list" },
    ];
    expect(of({ type: "set", node: "h", path: ["words"], value: phrase("Two") as never })).toEqual(
      both,
    );
    expect(of({ type: "set", node: "h", path: ["level"], value: 3 })).toEqual(both);
    expect(of({ type: "set", node: "h", path: ["colour"], value: "ink" })).toEqual([both[0]]);
    expect(of({ type: "remove", node: "h" })).toEqual([
      { kind: "children", id: "one", order: ["card"] },
      both[1],
    ]);
  });
  it("is the order of the email where bands move", () => {
    expect(changes({ type: "move", node: "last", parent: "email", after: null })).toEqual([
      { kind: "children", id: "email", order: ["last", "band"] },
    ]);
  });
  it("is nothing for the envelope, and everything for width and theme", () => {
    const subject = line("News") as never;
    expect(
      changes({ type: "set", node: "email", path: ["envelope", "subject"], value: subject }),
    ).toEqual([]);
    expect(changes({ type: "set", node: "email", path: ["width"], value: 640 })).toBeNull();
    expect(
      changes({ type: "set", node: "email", path: ["theme", "colours", "ink"], value: "#000000" }),
    ).toBeNull();
    expect(diff(doc, doc)).toEqual([]);
  });

  it("is the band, or the card, where blocks for some come, go or change who sees them", () => {
    const some = { seenBy: { all: [] } } as never;
    const inner = ["x", "y"].map((id) => createBlock("spacer", () => id));
    const card = createBlock("card", () => "card", {}, inner);
    const start = apply(
      createDocument([
        createBand(() => "band", [createColumn(() => "one", [card, spacer])]),
        createBand(() => "last", [createColumn(() => "two", [createBlock("text", () => "t")])]),
      ]),
      { type: "set", node: "y", path: ["seenBy"], value: some },
    );
    const of = (edit: Edit) => diff(start, apply(start, edit));
    expect(of({ type: "set", node: "y", path: ["seenBy"], value: null })).toEqual([
      { kind: "replace", id: "card" },
    ]);
    expect(of({ type: "set", node: "new", path: ["seenBy"], value: some })).toEqual([
      { kind: "replace", id: "band" },
    ]);
    expect(of({ type: "set", node: "last", path: ["seenBy"], value: some })).toBeNull();
  });
  it("is the bands whose conditions another reader answers otherwise", () => {
    const keysIn = ({ id }: { id: string }) => (id === "band" ? ["p", "q"] : ["r"]);
    const held = (p: string, r: string) => new Map(Object.entries({ p, q: "0", r }));
    expect(bandsSeen(doc, keysIn, held("0", "0"), held("0", "0"))).toEqual([]);
    expect(bandsSeen(doc, keysIn, held("0", "0"), held("1", "0"))).toEqual([
      { kind: "replace", id: "band" },
    ]);
    const forSome = apply(doc, {
      type: "set",
      node: "band",
      path: ["seenBy"],
      value: { all: [] } as never,
    });
    expect(bandsSeen(forSome, keysIn, held("0", "0"), held("0", "1"))).toBeNull();
  });
  it("is what shows the pictures that have become known, and everything for other surroundings", () => {
    const [A, B, C, D] = ["a", "b", "c", "d"].map((letter) => letter.repeat(64)) as [
      string,
      string,
      string,
      string,
    ];
    const image = (id: string, picture: string) =>
      createBlock("image", () => id, { picture } as never);
    const shown = createDocument([
      createBand(
        () => "band",
        [
          createColumn(
            () => "one",
            [
              image("x", A),
              image("y", B),
              createBlock("card", () => "card", {}, [image("inner", C)]),
            ],
          ),
        ],
      ),
      createBand(() => "behind", [createColumn(() => "two", [image("z", A)])], { picture: D }),
    ]);
    const around = (...ids: string[]) => ({
      ...SURROUNDINGS,
      pictures: new Map(ids.map((id) => [id, FOUND.get(id)!])),
    });
    const FOUND = new Map([A, B, C, D].map((id) => [id, known(id)]));
    const came = (before: readonly string[], ...after: string[]) =>
      pictured(shown, around(...before), around(...after))?.map(({ id }) => id);
    expect(came([A], A, B)).toEqual(["y"]);
    expect(came([A, B], A, B, C)).toEqual(["card"]);
    expect(came([], A)).toEqual(["x", "z"]);
    expect(came([A], A, D)).toEqual(["behind"]);
    expect(came([A], A, "e".repeat(64))).toEqual([]);
    expect(came([A], A)).toEqual([]);
    const other = { ...around(A), publicAddress: "https://elsewhere.example.org" };
    expect(pictured(shown, around(A), other)).toBeNull();
  });
});
