import { expect, it } from "vitest";
import { apply, type Edit, find, type SimpleEdit } from "../document/index.ts";
import { STANDARD_THEME } from "../theme/theme.ts";
import { checkDocument, createBand, createBlock, createColumn, createDocument } from "./index.ts";
import {
  backToTheme,
  changedHere,
  fromTheme,
  makeThemes,
  newBlock,
  spread,
  startProps,
  startsWith,
  styleOf,
  withStyle,
} from "./style.ts";

const buttons = ["a", "b", "c"].map((id) => createBlock("button", () => id));
const start = createDocument([
  createBand(
    () => "band",
    [createColumn(() => "column", [...buttons, createBlock("text", () => "t")])],
  ),
]);
const all = (doc: typeof start, edits: readonly SimpleEdit[]) => {
  const after = edits.length ? apply(doc, { type: "group", edits: [...edits] }) : doc;
  checkDocument(after);
  return after;
};
const node = (doc: typeof start, id: string) => find(doc, id)!.node;
const fill = (id: string, value: string): Edit => ({
  type: "set",
  node: id,
  path: ["fill"],
  value,
});
const red = apply(start, fill("a", "#aa0000"));

it("tells what is from the theme and what was changed here, and takes it back", () => {
  expect(changedHere(start, node(start, "a"))).toEqual([]);
  expect(changedHere(red, node(red, "a"))).toEqual([["fill"]]);
  expect(fromTheme(red, node(red, "a"), ["corner"])).toBe(true);
  const back = all(red, backToTheme(red, node(red, "a"), [["fill"], ["corner"]]));
  expect(node(back, "a")).toEqual(node(start, "a"));
});

it("spreads one value to every other block of the type, and counts what it touches", () => {
  const edits = spread(red, node(red, "a"), [["fill"]]);
  expect(edits).toHaveLength(2);
  const after = all(red, edits.flat());
  expect(["a", "b", "c"].map((id) => node(after, id).props.fill)).toEqual(Array(3).fill("#aa0000"));
  expect(spread(after, node(after, "a"), [["fill"]])).toEqual([]);
});

it("makes a value the theme's: new blocks come with it, and those that had the old one follow", () => {
  const own = apply(red, fill("b", "#00aa00"));
  const { edits, followers } = makeThemes(own, node(own, "a"), [["fill"]]);
  expect(followers).toBe(1);
  const after = all(own, edits);
  expect(["a", "b", "c"].map((id) => node(after, id).props.fill)).toEqual([
    "#aa0000",
    "#00aa00",
    "#aa0000",
  ]);
  expect(newBlock(after, "button", () => "new").props.fill).toBe("#aa0000");
  expect(changedHere(after, node(after, "a"))).toEqual([]);
  expect(changedHere(after, node(after, "b"))).toEqual([["fill"]]);
});

it("copies a style to another kind as far as it has a place there", () => {
  const style = styleOf(
    node(apply(red, { type: "set", node: "a", path: ["box", "padding", "top"], value: 40 }), "a"),
  );
  const after = all(red, withStyle(node(red, "t"), style));
  expect(node(after, "t").props).toMatchObject({
    box: { padding: { top: 40 } },
    colour: "onButton",
  });
  expect(node(after, "t").props).not.toHaveProperty("fill");
  // What does not fit is left out: a copied style may come from anywhere.
  const foreign = { type: "button", values: { fill: "red", corner: 4_000, nobody: 1, size: 20 } };
  expect(withStyle(node(red, "b"), foreign)).toEqual([
    { type: "set", node: "b", path: ["size"], value: 20 },
  ]);
});

it("lets new blocks of every kind begin with the email's own spacing", () => {
  const after = all(start, [startsWith(start, "all", { "box.padding.top": 30, "type.size": 18 })]);
  const theme = after.root.props.theme as unknown as typeof STANDARD_THEME;
  expect(startProps(theme, "text")).toMatchObject({
    box: { padding: { top: 30 } },
    type: { size: 18 },
  });
  expect(startProps(theme, "spacer")).toMatchObject({ box: { padding: { top: 30 } } });
  // Nothing that does not exist or fit comes in by a theme.
  const odd = { ...STANDARD_THEME, starts: { text: { "box.padding.top": 9_999, "no.way": 1 } } };
  expect(startProps(odd, "text")).toEqual(startProps(STANDARD_THEME, "text"));
});
