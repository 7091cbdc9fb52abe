import { describe, expect, it } from "vitest";
import { hexIn, isHidden, type Look, lookIn, paddingOf, pxIn, START, widthOf } from "./look.ts";
import type { El } from "./tree.ts";

const el = (tag: string, css: Record<string, string> = {}, attrs: Record<string, string> = {}) =>
  ({ tag, css, attrs, children: [] }) as unknown as El;
const look = (tag: string, css = {}, attrs = {}, of: Look = START) =>
  lookIn(el(tag, css, attrs), of);

it.each([
  ["#1F3D2E", "#1f3d2e"],
  ["1f3d2e", "#1f3d2e"],
  [" #abc ", "#aabbcc"],
  ["rgb(255, 0, 0)", "#ff0000"],
  ["rgba(255,0,0,0.1)", "#ff0000"],
  ["rgba(255,0,0,0.09)", null],
  ["white", "#ffffff"],
  ["transparent", null],
  ["url(x)", null],
  ["12345", null],
  ["", null],
  [undefined, null],
])("the colour %s is %s", (written, hex) => {
  expect(hexIn(written)).toBe(hex);
  // Once more, as it was kept.
  expect(hexIn(written)).toBe(hex);
});

it.each([
  ["12px", 12],
  [" 12 ", 12],
  ["12pt", 16],
  ["1.5em", 30],
  ["2rem", 32],
  ["50%", 10],
  ["-4px", -4],
  ["0", 0],
  ["1.2.3px", null],
  ["auto", null],
  ["", null],
  [undefined, null],
])("the length %s is %s px, of 20", (written, px) => expect(pxIn(written, 20)).toBe(px));

it("knows per cent and em of 16 where nobody says of what", () => {
  expect([pxIn("2em"), pxIn("50%")]).toEqual([32, 8]);
});

describe("a width", () => {
  it("is the least of those that are said, and those of nothing are none", () => {
    expect(widthOf(el("td", { width: "300px", "max-width": "280px" }, { width: "290" }), 600)).toBe(
      280,
    );
    expect(widthOf(el("td", { width: "50%" }), 600)).toBe(300);
    expect(widthOf(el("td", { width: "0" }, { width: "-1" }), 600)).toBeNull();
    expect(widthOf(el("td"), 600)).toBeNull();
  });
  it("of a picture is its own", () => {
    expect(widthOf(el("img", { "max-width": "100px" }, { width: "240" }), 600)).toBe(240);
  });
});

describe("a look", () => {
  it("is taken over where nothing is said", () => {
    expect(look("div")).toEqual(START);
    const of: Look = {
      ground: "#112233",
      ink: "#eeeeee",
      size: 20,
      family: "Georgia",
      align: "right",
      dir: "rtl",
      width: 300,
    };
    expect(look("span", {}, {}, of)).toEqual(of);
  });
  it("says its own size: by style, by the font element, by a heading, or smaller", () => {
    const sizes = [
      look("h1").size,
      look("h6").size,
      look("h1", { "font-size": "20px" }).size,
      look("font", {}, { size: "1" }).size,
      look("font", {}, { size: "7" }).size,
      look("font", {}, { size: "8" }).size,
      look("small", {}, {}, { ...START, size: 20 }).size,
      look("span", { "font-size": "150%" }, {}, { ...START, size: 20 }).size,
      look("span", { "font-size": "0" }).size,
    ];
    expect(sizes).toEqual([32, 10.7, 20, 10, 48, 16, 16.599999999999998, 30, 16]);
  });
  it("says its colours by style before attributes", () => {
    expect(look("td", { "background-color": "#aaaaaa" }, { bgcolor: "#bbbbbb" }).ground).toBe(
      "#aaaaaa",
    );
    expect(look("td", {}, { bgcolor: "bbbbbb" }).ground).toBe("#bbbbbb");
    expect(look("font", {}, { color: "red" }).ink).toBe("#ff0000");
    expect(look("font", { color: "#00f" }, { color: "red" }).ink).toBe("#0000ff");
    expect(look("body", {}, { text: "#333333" }).ink).toBe("#333333");
    expect(look("p", {}, { text: "#333333" }).ink).toBe("#000000");
  });
  it("stands where it says, and a table that is aligned has nothing of that within", () => {
    const aligns = (...pairs: [string, object, object][]) =>
      pairs.map(([tag, css, attrs]) => look(tag, css, attrs, { ...START, align: "right" }).align);
    expect(
      aligns(
        ["center", {}, {}],
        ["td", {}, { align: "middle" }],
        ["p", { "text-align": "start" }, { align: "center" }],
        ["h2", {}, { align: " LEFT " }],
        ["span", {}, { align: "left" }],
        ["table", {}, { align: "center" }],
        ["table", { "text-align": "center" }, {}],
        ["td", { "text-align": "justify" }, {}],
      ),
    ).toEqual(["center", "center", "left", "left", "right", null, "center", "right"]);
  });
  it("runs from right to left where that is said, and back", () => {
    const back = { ...START, dir: "rtl" as const };
    expect(look("div", {}, { dir: "rtl" }).dir).toBe("rtl");
    expect(look("div", { direction: "rtl" }).dir).toBe("rtl");
    expect(look("div", {}, { dir: "ltr" }, back).dir).toBe("ltr");
    expect(look("div", { direction: "ltr" }, {}, back).dir).toBe("ltr");
    expect(look("div", {}, { dir: "auto" }, back).dir).toBe("rtl");
  });
  it("is never wider than what it stands in", () => {
    expect(look("td", { width: "50%" }).width).toBe(300);
    expect(look("td", { width: "700px" }).width).toBe(600);
  });
  it("is worked out anew where the same element stands in another", () => {
    const one = el("div");
    expect(lookIn(one, START)).toBe(lookIn(one, START));
    expect(lookIn(one, { ...START, size: 20 }).size).toBe(20);
  });
});

it.each([
  [{}, 4, [4, 4, 4, 4]],
  [{ padding: "8px" }, 4, [8, 8, 8, 8]],
  [{ padding: "8px 16px" }, 0, [8, 16, 8, 16]],
  [{ padding: "1px 2px 3px" }, 0, [1, 2, 3, 2]],
  [{ padding: "1px 2px 3px 4px" }, 0, [1, 2, 3, 4]],
  [{ padding: "1px auto", "padding-left": "9px" }, 0, [1, 0, 1, 9]],
  [{ "padding-top": "5px" }, 2, [5, 2, 2, 2]],
])("the padding %j of a cell with %s is %j", (css, cell, padding) => {
  expect(paddingOf(el("td", css as Record<string, string>), cell)).toEqual(padding);
});

it.each([
  [{ display: "none" }, {}, true],
  [{ visibility: "hidden" }, {}, true],
  [{ opacity: "0" }, {}, true],
  [{ opacity: "0.5" }, {}, false],
  [{}, { hidden: "" }, true],
  [{ "max-height": "0", overflow: "hidden" }, {}, true],
  [{ "max-height": "0px", overflow: "hidden" }, {}, true],
  [{ "max-height": "0" }, {}, false],
  [{ "max-height": "10px", overflow: "hidden" }, {}, false],
  [{}, {}, false],
])("what says %j and %j is hidden: %s", (css, attrs, hidden) => {
  const one = el("div", css as Record<string, string>, attrs as Record<string, string>);
  expect(isHidden(one)).toBe(hidden);
});
