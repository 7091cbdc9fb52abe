import { describe, expect, it } from "vitest";
import { LIMITS } from "../../limits.ts";
import { rulesOf, stylesOf } from "./styles.ts";

const el = (tag: string, attrs: Record<string, string> = {}) => ({ tag, attrs });
const styles = (sheet: string, one = el("p"), above = [el("body"), el("td", { class: "cell" })]) =>
  stylesOf(one, above, rulesOf(sheet));

describe("the rules of style elements", () => {
  it.each([
    ["p{color:red}", { color: "red" }],
    ["P { COLOR : red }", { color: "red" }],
    ["*{color:red}", { color: "red" }],
    ["td p{color:red}", { color: "red" }],
    ["td>p{color:red}", { color: "red" }],
    ["body p{color:red}", { color: "red" }],
    ["body > p{color:red}", {}],
    ["tr p{color:red}", {}],
    [".cell p, div{color:red}", { color: "red" }],
    ["td.cell p{color:red}", { color: "red" }],
    ["td.other p{color:red}", {}],
    ["p:hover{color:red}", {}],
    ["p[dir]{color:red}", {}],
    ["@media (max-width:600px){p{color:red}}", {}],
    ["<!-- p{color:red} -->", { color: "red" }],
    ["p{color:red", { color: "red" }],
    ["p{color:", {}],
    ["} p{color:red}", { color: "red" }],
    [".x{color:red}} p{color:red}", { color: "red" }],
    [".x{{}} .y{= ;} p{color:red} td{margin:0", { color: "red" }],
    ["@media print{.x{color:blue} p{color:blue} } p{color:red} .x{", { color: "red" }],
  ])("%s gives %j", (sheet, css) => expect(styles(sheet)).toEqual(css));

  it("ask for ids and all classes", () => {
    const one = el("p", { class: " a  b ", id: "x" });
    expect(styles(".a{color:red}", one)).toEqual({ color: "red" });
    expect(styles(".a.b{color:red}", one)).toEqual({ color: "red" });
    expect(styles(".a.c{color:red}", one)).toEqual({});
    expect(styles("#x{color:red}", one)).toEqual({ color: "red" });
    expect(styles("p#y{color:red}", one)).toEqual({});
  });

  it("give way: ids before classes before names, the later before the earlier, the element's own last", () => {
    const one = el("p", { class: "a", id: "x" });
    expect(styles("#x{color:red}.a{color:blue}p{color:green}", one).color).toBe("red");
    expect(styles(".a{color:blue}p{color:green}", one).color).toBe("blue");
    expect(styles("td p{color:blue}p{color:green}", one).color).toBe("blue");
    expect(styles("p{color:blue}p{color:green}", one).color).toBe("green");
    const own = el("p", { style: "color:black" });
    expect(styles("p{color:blue;margin:0}", own)).toEqual({ color: "black", margin: "0" });
  });

  it("reach over what stands between", () => {
    const above = [el("table", { id: "t" }), el("tr"), el("td"), el("div")];
    expect(styles("#t td p{color:red}", el("p"), above)).toEqual({ color: "red" });
    expect(styles("#t > tr > td p{color:red}", el("p"), above)).toEqual({ color: "red" });
    expect(styles("#t > td p{color:red}", el("p"), above)).toEqual({});
    expect(styles("td #t p{color:red}", el("p"), above)).toEqual({});
  });

  it("are read up to so many", () => {
    const many = ".x{margin:0}".repeat(LIMITS.foreignStyles - 1);
    expect(styles(`${many}p{color:red}`)).toEqual({ color: "red" });
    expect(styles(`${many}.x{margin:0}p{color:red}`)).toEqual({});
  });
});

describe("what a style attribute says", () => {
  const own = (style: string) => stylesOf(el("p", { style }), [], new Map());
  it.each([
    ["COLOR: red !important; margin:0", { color: "red", margin: "0" }],
    ["color", {}],
    [
      "background: #FFF url(a;b.png) no-repeat",
      {
        background: "#FFF url(a;b.png) no-repeat",
        "background-color": "#FFF",
        "background-image": "url(a;b.png)",
      },
    ],
    ["background:rgba(1,2,3,.5)", { "background-color": "rgba(1,2,3,.5)" }],
    ["background:white", { "background-color": "white" }],
    ["background:white none", { background: "white none" }],
    [
      "font: italic bold 14px/1.5 Georgia, serif",
      {
        "font-size": "14px",
        "line-height": "1.5",
        "font-family": "Georgia, serif",
        "font-weight": "bold",
        "font-style": "italic",
      },
    ],
    ["font: 600 1.2em Arial", { "font-size": "1.2em", "font-weight": "bold" }],
    ["font: 500 12pt Arial", { "font-size": "12pt", "font-family": "Arial" }],
  ])("%s", (style, css) => expect(own(style)).toMatchObject(css));
  it("says nothing of what a shorthand leaves out", () => {
    expect(own("font: 12px Arial")).toEqual({
      font: "12px Arial",
      "font-size": "12px",
      "font-family": "Arial",
    });
    expect(own("background: none")).toEqual({ background: "none", "background-color": "none" });
    expect(own("color: red;;")).toEqual({ color: "red" });
  });
  it("is empty where there is none", () => expect(stylesOf(el("p"), [], new Map())).toEqual({}));
});
