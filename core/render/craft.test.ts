/** What a close reading of the HTML asks for, block by block. */
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { TABLE_KINDS } from "../blocks/table-items.ts";
import { createItem } from "../kinds/item.ts";
import { blockAlone, ids, PICTURE, rendered } from "../testing/rendered.ts";
import { doc, line, type TextJson, tag } from "../text/index.ts";
import { STANDARD_THEME } from "../theme/theme.ts";
import { colourPairs, compile } from "./index.ts";

const web = { kind: "web", address: line("https://larkmoor.example/") } as const;
const styles = (html: string) => html.match(/<style>[\s\S]*?<\/style>/g)!;
/** The conditional comments of the table-only engine. */
const tableOnly = (html: string) =>
  html.match(/<!--\[if mso\]>[\s\S]*?<!\[endif\]-->/g)!.join("\n");

/** A table of one cell that shows a picture. */
const tableOf = () => {
  const id = ids("t");
  const shown = { holds: "picture" as const, picture: PICTURE, alt: line("x") };
  const cell = createItem(TABLE_KINDS.cell, id, shown);
  const row = { ...createItem(TABLE_KINDS.row, id), children: [cell] };
  return [createItem(TABLE_KINDS.column, id), row];
};

describe("the page around the bands", () => {
  const { html } = blockAlone("text");

  it("lets words break in the cell of a band, so that no word makes the page wider", () => {
    expect(html).toMatch(/<(?:td|table)[^>]*word-break:break-word/);
  });
  it("gives the table-only engine its font on cells alone", () => {
    const fonts = tableOnly(html).match(/[^{}]*\{font-family/g);
    expect(fonts!.map((one) => one.replace(/^[\s\S]*>/, "").trim())).toEqual([
      "table,td{font-family",
    ]);
  });
  it("has no selector by attribute in its first style element", () => {
    const [first, second] = styles(html);
    expect(first).not.toContain("[");
    expect(second).toContain("a[x-apple-data-detectors]");
    expect(second).toContain("[data-ogsc]");
  });
  it("hides the preview text by what no common ruleset takes for a trick", () => {
    const hidden = /<div class="ph" style="([^"]*)"/.exec(html)![1];
    expect(hidden).toBe("display:none;max-height:0;overflow:hidden;mso-hide:all");
  });
});

describe("the table-only engine", () => {
  it("has its ghost tables sized by style too, for 120 dots to the inch", () => {
    const columns = [1, 2].map(() => createColumn(ids(), [createBlock("text", ids())]));
    const ghosts = tableOnly(rendered(createDocument([createBand(ids(), columns)])).html);
    for (const [, tag, width] of ghosts.matchAll(/<(table|td)[^>]* width="(\d+)"/g)) {
      expect(ghosts).toMatch(
        new RegExp(`<${tag}[^>]* width="${width}"[^>]*style="width:${width}px"`),
      );
    }
  });
  it("fills a rectangle with a picture that covers it, its words where they are meant to stand", () => {
    const over = blockAlone("captionedPicture", {
      picture: PICTURE,
      place: "over",
      caption: doc("x"),
    });
    const rect = /<v:rect[^>]*>/.exec(over.html)![0];
    expect(rect).toContain("v-text-anchor:bottom");
    expect(over.html).toContain('<v:fill type="frame" aspect="atleast"');
  });
  it("shows the label of a rounded button once, and as one thing to click", () => {
    const { html } = blockAlone("button", {
      label: line("Visit"),
      to: web,
      wide: "full",
      corner: 9,
    });
    const own = html.slice(html.indexOf("<!--[if !mso]><!-->"), html.indexOf("<!--<![endif]-->"));
    expect(own).toContain("Visit");
    expect(own).not.toContain("[if mso]");
    expect(html).toMatch(/<v:roundrect xmlns:w="[^"]+"[^>]*><w:anchorlock\/>/);
  });
  it.each([12, 20, 28])("pads a button with words of %i px as far as all others do", (size) => {
    const { html } = blockAlone("button", { to: web, size });
    const [first] = [...html.matchAll(/mso-font-width:(\d+)%/g)].map((found) => Number(found[1]));
    // An em space of that size, stretched.
    expect(Math.abs((first! / 100) * size - 20)).toBeLessThan(0.2);
  });
});

describe("padding", () => {
  it.each([
    ["coupon", {}],
    ["footer", {}],
    ["quote", {}],
    ["video", { picture: PICTURE }],
    ["qrCode", {}],
    ["pictureAndWords", { picture: PICTURE }],
  ])("stands on cells and links alone: %s", (type, props) => {
    const { html } = blockAlone(type, props);
    const body = html.slice(html.indexOf("<body"));
    for (const [tag, name] of body.matchAll(/<([a-z0-9]+)[^>]*[;"]padding:[^>]*>/g)) {
      expect(["td", "th", "a", "body"], tag).toContain(name);
    }
  });
});

describe("a code", () => {
  const href = (content: TextJson) =>
    /<a href="([^"]*)"/.exec(
      blockAlone("qrCode", { content, parts: { caption: false } }).html,
    )?.[1];

  it("is a link where it says an address, with tags behind its host", () => {
    expect(href(line("https://larkmoor.example/gate"))).toBe("https://larkmoor.example/gate");
    expect(href(line("https://larkmoor.example/?m=", tag("contact:number")))).toContain("?m=");
  });
  it.each([
    ["a number", line("4711")],
    ["nothing", line()],
    ["a tag that may be anything", line(tag("contact:site"))],
    ["a host that a reader's value would make", line("https://", tag("contact:site"))],
    ["a script", line("javascript:alert(1)")],
    ["words behind an address", line("https://larkmoor.example/ now")],
  ])("leads nowhere for %s", (_name, content) => expect(href(content)).toBeUndefined());
});

describe("pictures", () => {
  it("in HTML of one's own keep the sizes that are said, and get those that are not", () => {
    const of = (style: string) =>
      /<img[^>]*style="([^"]*)"/.exec(
        blockAlone("html", {
          source: `<img src="https://a.example/a.png" alt="" style="${style}">`,
        }).html,
      )![1];
    expect(of("")).toBe("max-width:100%;height:auto");
    expect(of("line-height:0")).toBe("line-height:0;max-width:100%;height:auto");
    expect(of("max-width:200px;height:50px;")).toBe("max-width:200px;height:50px");
    expect(of("max-height:50px")).toBe("max-height:50px;max-width:100%;height:auto");
  });
  const linked = { picture: PICTURE, to: web };
  it("write their address into the plain text whatever their alt text says", () => {
    const silent = blockAlone("image", { ...linked, alt: line() });
    expect(silent.text).toContain("https://larkmoor.example/");
    const decorative = blockAlone("image", { ...linked, alt: line("x"), decorative: true });
    expect(decorative.text).toContain("https://larkmoor.example/");
  });
  it("in cells of a table are not cut to a line", () => {
    const { html } = blockAlone("table", {}, { children: tableOf() });
    const cell = html.slice(0, html.lastIndexOf(`/pictures/${PICTURE.slice(0, 22)}`));
    const open = cell.slice(cell.lastIndexOf("<td"));
    expect(open).not.toContain("line-height");
  });
  it("have alt texts in the ink of their cell, which the check of contrasts reads", () => {
    const image = createBlock("image", ids(), { picture: PICTURE, alt: line("A leaf") });
    const band = createBand(ids("b"), [createColumn(ids("c"), [image])], { background: "accent" });
    const email = compile(createDocument([band]), {
      brand: { name: "Larkmoor", postalAddress: "" },
      publicAddress: "",
      pictures: new Map([
        [
          PICTURE,
          { id: PICTURE, file: `${PICTURE}.png`, width: 8, height: 4, name: "", alpha: false },
        ],
      ]),
    });
    const pair = colourPairs(email.html).find(({ words }) => words === "A leaf");
    expect(pair).toMatchObject({
      ink: STANDARD_THEME.colours.onAccent,
      ground: STANDARD_THEME.colours.accent,
      inkRole: "onAccent",
    });
  });
});
