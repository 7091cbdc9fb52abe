/** Blocks that hold items or other blocks, and what their settings do to both versions of the email. */
import { describe, expect, it } from "vitest";
import type { DocNode } from "../document/index.ts";
import { createItem } from "../kinds/item.ts";
import { LIMITS } from "../limits.ts";
import { wrapText } from "../markup/index.ts";
import { blockAlone, emailOf, ids, PICTURE, picture, rendered } from "../testing/rendered.ts";
import { doc, line, paragraph, tag } from "../text/index.ts";
import { blockKind, checkDocument, createBlock, itemKind, labelOf } from "./index.ts";
import { newRow, TABLE_KINDS } from "./table-items.ts";

const item = (type: string, props: object, newId = ids(type)) =>
  createItem(itemKind(type)!, newId, props);
const web = (address: string) => ({ kind: "web", address: line(address) });
const plain = (type: string, props: object = {}, options: Parameters<typeof blockAlone>[2] = {}) =>
  wrapText(blockAlone(type, props, options).text).trim();

describe("a table", () => {
  const rows = (newId: () => string) => [
    item("table.column", { share: 1 }, newId),
    item("table.column", { share: 1, align: "end" }, newId),
    newRow(newId, ["What", "Price"]),
    newRow(newId, ["A walk", "12.00"]),
  ];
  it("is one of data: named columns, no role of layout, widths on every cell", () => {
    const { html } = blockAlone("table", {}, { children: rows(ids()) });
    expect(html.match(/<th width="272" align="(left|right)"[^>]* valign="top"|<th /g)).toHaveLength(
      2,
    );
    expect(html).toContain('scope="col"');
    expect(html.match(/<t[hd][^>]*width="272"/g)).toHaveLength(4);
    expect(html).toMatch(
      /<table border="0" cellpadding="0" cellspacing="0" width="100%" style="[^"]*border-collapse/,
    );
  });
  it("is lined up in plain text", () => {
    expect(plain("table", {}, { children: rows(ids()) })).toBe(
      "What    Price\n------  -----\nA walk  12.00",
    );
  });
  it("becomes pairs on narrow, the name of the column hidden elsewhere", () => {
    const { html } = blockAlone("table", { onNarrow: "pairs" }, { children: rows(ids()) });
    expect(html).toContain('<span class="sl" style="display:none;font-weight:700">Price: </span>');
    expect(html).toMatch(/<tr class="sx">/);
  });
  it("names the column also where its name is a tag that has nothing to fall back on", () => {
    const newId = ids();
    const named = rows(newId).with(2, newRow(newId, ["What", ""]));
    const head = named[2]!.children[1]!;
    const first = doc(paragraph(tag("contact:first", " ")));
    const tagged = { ...head, props: { ...head.props, words: first as never } };
    named[2] = { ...named[2]!, children: [named[2]!.children[0]!, tagged] };
    const { html } = blockAlone("table", { onNarrow: "pairs" }, { children: named });
    expect(html.match(/class="sl"/g)).toHaveLength(2);
    const bare = blockAlone(
      "table",
      { onNarrow: "pairs" },
      { children: rows(newId).with(2, newRow(newId, ["What", ""])) },
    );
    expect(bare.html.match(/class="sl"/g)).toHaveLength(1);
  });
  it("holds pictures, and shows a missing cell as an empty one", () => {
    const newId = ids();
    const short: DocNode = {
      ...newRow(newId, []),
      children: [
        item("table.row.cell", { holds: "picture", picture: PICTURE, alt: line("A view") }, newId),
      ],
    };
    const children = [...rows(newId), short];
    const { html, text } = blockAlone("table", {}, { children });
    expect(html).toMatch(/<img [^>]*width="256"[^>]*alt="A view"/);
    expect(html.match(/<t[hd][^>]* width="272"/g)).toHaveLength(6);
    expect(text).toContain("[A view]");
  });
  it("asks of a cell for an image what is asked of every image, and of one with text nothing", () => {
    const { checks } = itemKind("table.row.cell")!;
    const told = (props: object) =>
      checks!({ ...item("table.row.cell", props).props }, {} as DocNode).map(({ check }) => check);
    expect(told({ holds: "picture" })).toEqual(["no-picture"]);
    expect(told({ holds: "picture", picture: PICTURE })).toEqual(["alt-text"]);
    expect(told({ holds: "picture", picture: PICTURE, alt: line("A view") })).toEqual([]);
    expect(told({ holds: "words", picture: PICTURE })).toEqual([]);
  });
  it("has at least a row, and not more cells than columns can be", () => {
    const table = createBlock("table", ids(), {}, [item("table.column", {})]);
    expect(() => checkDocument(emailOf([table]))).toThrow("Table: at least 1 row.");
    const many = Array.from({ length: LIMITS.tableColumns + 1 }, (_, i) =>
      item("table.column", {}, ids(`c${i}`)),
    );
    const wide = createBlock("table", ids(), {}, [...many, newRow(ids("w"), ["x"])]);
    expect(() => checkDocument(emailOf([wide]))).toThrow("at most 10 columns");
  });
});

describe("a picture grid", () => {
  const pictures = (count: number) =>
    Array.from({ length: count }, (_, i) =>
      item(
        "pictureGrid.picture",
        { picture: PICTURE, alt: line(`View ${i}`), caption: line(`Caption ${i}`) },
        ids(`p${i}-`),
      ),
    );
  it("cuts all pictures to one shape, so that their rows are even", () => {
    const { html } = blockAlone(
      "pictureGrid",
      { perRow: 3, gap: 10, shape: 100 },
      { children: pictures(5) },
    );
    const sizes = [...html.matchAll(/<img src="([^"]*)" width="(\d+)" height="(\d+)"/g)];
    expect(sizes).toHaveLength(5);
    for (const [, src, width, height] of sizes) {
      expect(src).toContain("/made/");
      expect(width).toBe(height);
    }
    // Three pictures and two gaps fill the row: 175 + 10 + 175 + 10 + 174.
    expect(html).toContain('<td width="10"');
    expect(sizes.slice(0, 3).reduce((sum, one) => sum + Number(one[2]), 0)).toBe(544 - 20);
  });
  it("leaves pictures as they are where no shape is chosen, and stacks them if wanted", () => {
    const children = pictures(2);
    const { html } = blockAlone("pictureGrid", { shape: null, onNarrow: "stack" }, { children });
    expect(html).not.toContain("/made/");
    expect(html.match(/class="cl" style="display:inline-block/g)).toHaveLength(2);
  });
  it("says captions and alt texts in plain text", () => {
    expect(plain("pictureGrid", {}, { children: pictures(2) })).toBe(
      "[View 0]\nCaption 0\n\n[View 1]\nCaption 1",
    );
    expect(plain("pictureGrid", { captions: false }, { children: pictures(2) })).toBe(
      "[View 0]\n\n[View 1]",
    );
  });
});

describe("rows of links and signs", () => {
  it("show their links in the order of their nodes, high enough for a thumb", () => {
    const children = ["One", "Two"].map((label, i) =>
      item("linksRow.link", { label: line(label), to: web(`https://x.example/${i}`) }, ids(label)),
    );
    const { html, text } = blockAlone("linksRow", { between: "dot" }, { children });
    expect([...html.matchAll(/<a href="([^"]*)"/g)].map((m) => m[1])).toEqual([
      "https://x.example/0",
      "https://x.example/1",
    ]);
    expect(html).toContain("padding:12px 8px;line-height:20px");
    expect(html.match(/aria-hidden="true">·</g)).toHaveLength(1);
    expect(text).toBe("One: https://x.example/0\nTwo: https://x.example/1");
  });
  it("have signs made by the server, or pictures of one's own, with words to read aloud", () => {
    const children = [
      item("socialLinks.link", {
        sign: "film",
        label: line("Our films"),
        to: web("https://x.example"),
      }),
      item(
        "socialLinks.link",
        { picture: PICTURE, label: line("Ours"), to: web("https://y.example") },
        ids("o"),
      ),
    ];
    const { html } = blockAlone("socialLinks", {}, { children });
    expect(html).toMatch(
      /<img src="https:\/\/mail\.example\.org\/made\/[^"]*" width="32" height="32" alt="Our films"/,
    );
    expect(html).toContain(
      `/pictures/${PICTURE.slice(0, 22)}-80.png" width="32" height="32" alt="Ours"`,
    );
    const worded = blockAlone("socialLinks", { words: true }, { children });
    expect(worded.html).toContain(">Our films</span>");
    expect(worded.html).toMatch(/alt=""/);
  });
  it("share the version for others, by address or in a message", () => {
    const { html, text } = blockAlone("shareRow", {}, { reader: { values: {}, token: "abc" } });
    expect(html).toContain('href="https://mail.example.org/s/abc"');
    expect(html).toContain(
      'href="mailto:?subject=You%20might%20like%20this&amp;body=https%3A%2F%2Fmail.example.org%2Fs%2Fabc"',
    );
    expect(text).toContain("Share the web version: https://mail.example.org/s/abc");
  });
});

describe("a card", () => {
  it("gives the blocks in it the width inside its border", () => {
    const image = createBlock("image", ids("i"), { picture: PICTURE, alt: line("x") });
    const { html, text } = blockAlone(
      "card",
      { inner: { top: 0, right: 20, bottom: 0, left: 20 } },
      { children: [image] },
    );
    // 600 less 28 on either side, 1 px of border and 20 inside, and the image's own 28.
    expect(html).toContain(`width="${600 - 56 - 2 - 40 - 56}"`);
    expect(text).toBe("[x]");
  });
  it("holds no card", () => {
    const card = createBlock("card", ids("c"), {}, [createBlock("card", ids("d"))]);
    expect(() => checkDocument(emailOf([card]))).toThrow("cannot stand in");
  });
});

describe("a masthead", () => {
  const links = [
    item("masthead.link", { label: line("Visit"), to: web("https://x.example/visit") }),
  ];
  it("shows a name that is no heading, so that the first heading can be the email's own", () => {
    const { html } = blockAlone(
      "masthead",
      { name: line("LARKMOOR"), to: web("https://x.example") },
      { children: links },
    );
    expect(html).toContain("LARKMOOR</span></a>");
    expect(html).not.toMatch(/<h\d/);
    expect(html).not.toContain("/visit");
  });
  it("shows its logo, links and web version where they are on", () => {
    const props = {
      picture: PICTURE,
      alt: line("Larkmoor"),
      size: 120,
      layout: "sides",
      parts: { logo: true, links: true, webVersion: true },
    };
    const { html, text } = blockAlone("masthead", props, { children: links });
    expect(html).toContain('width="120" height="60" alt="Larkmoor"');
    expect(html).toContain("https://x.example/visit");
    expect(html).toContain("https://mail.example.org/w/t");
    expect(text).toBe(
      "Larkmoor\nVisit: https://x.example/visit\nRead this on the web: https://mail.example.org/w/t",
    );
  });
});

describe("a sign-off", () => {
  it("stands beside a round picture, or without one", () => {
    const props = {
      picture: PICTURE,
      alt: line("Ines"),
      name: line("Ines"),
      parts: { picture: true, greeting: false, role: false },
    };
    const { html, text } = blockAlone("signOff", props, { children: [] });
    expect(html).toContain('width="80" height="80" alt="Ines"');
    expect(html).not.toContain("With warm regards");
    expect(text).toBe("Ines\n[Ines]");
  });
});

describe("pictures that the server makes", () => {
  const recipeIn = (html: string) => {
    const [, recipe] = /\/made\/([^/"]+)\//.exec(html)!;
    return JSON.parse(Buffer.from(recipe!, "base64url").toString()) as unknown[];
  };
  it("are ordered by a recipe in their address", () => {
    const { html, text } = blockAlone("qrCode", { content: line("https://x.example/é") });
    // Its kind, its words, and its settings by their names: the ground, the ink.
    expect(recipeIn(html)).toEqual(["qr", "https://x.example/é", "#ffffff", "#000000"]);
    expect(text).toBe("Show this at the gate: https://x.example/é");
  });
  it("are each reader's own where a tag stands in them, and signed", () => {
    const options = {
      reader: { values: { "contact:name": "Zoë" }, token: "t" },
      sign: (recipe: string) => `seal${recipe.length}`,
    };
    const { html } = blockAlone(
      "qrCode",
      { content: line("member ", tag("contact:name")) },
      options,
    );
    expect(recipeIn(html)[1]).toBe("member Zoë");
    expect(html).toMatch(/\/made\/[^/]+\/seal\d+\.png/);
  });
  it("put a play mark on a still, unless it has one", () => {
    const props = { picture: PICTURE, alt: line("The film"), to: web("https://x.example/film") };
    expect(recipeIn(blockAlone("video", props).html)).toEqual(["still", "png", "#ffffff", PICTURE]);
    const bare = blockAlone("video", { ...props, mark: false });
    expect(bare.html).not.toContain("/made/");
    expect(bare.text).toBe("[The film]\nSee the film, two minutes\nhttps://x.example/film");
  });
});

describe("a captioned picture", () => {
  const base = { picture: PICTURE, alt: line("The brook"), caption: doc("After the rain.") };
  it("has its caption under it, or over its foot as the ground of a cell", () => {
    expect(blockAlone("captionedPicture", base).html).toMatch(/<img[^>]*alt="The brook"/);
    const { html } = blockAlone("captionedPicture", { ...base, place: "over" });
    expect(html).not.toContain("<img");
    expect(html).toContain('role="figure" aria-label="The brook"');
    expect(html).toContain(
      `background="https://mail.example.org/pictures/${PICTURE.slice(0, 22)}.png"`,
    );
    expect(html).toMatch(/<v:rect[^>]*width:544px;height:272px/);
    // As large as its place takes, and no larger; one that is flat is drawn wider than its cell.
    const wide = (height: number) => {
      const pictures = new Map([[PICTURE, picture(PICTURE, { width: 1_600, height })]]);
      return blockAlone("captionedPicture", { ...base, place: "over" }, { pictures }).html;
    };
    expect(wide(800)).toContain(`/${PICTURE.slice(0, 22)}-1120.png"`);
    expect(wide(300)).toContain(`/${PICTURE.slice(0, 22)}-1280.png"`);
  });
});

it("a block's checks are those of its items too", () => {
  const kinds = ["linksRow.link", "socialLinks.link", "shareRow.way"];
  for (const type of kinds) {
    const kind = itemKind(type)!;
    expect(kind.checks!({ ...kind.create(), label: line() }, {} as DocNode).length).toBe(1);
  }
  expect(labelOf({ id: "x", type: "table.row.cell", props: {}, children: [] })).toBe("Cell");
  expect(blockKind("table.row")).toBeNull();
  expect(TABLE_KINDS.cell.name!(TABLE_KINDS.cell.create())).toBe("–");
});

describe("the box of a block", () => {
  it("has a border and corners, which take from its width", () => {
    const { box } = createBlock("image", ids()).props as { box: object };
    const framed = { ...box, border: { width: 4, colour: "#112233" }, corner: 8 };
    const { html } = blockAlone("image", { box: framed, picture: PICTURE, alt: line("x") });
    expect(html).toContain("border:4px solid #112233;border-radius:8px");
    expect(html).toContain(`width="${600 - 56 - 8}"`);
  });
  it("runs from right to left where it or the email does, sides and alignment mirrored", () => {
    const { box } = createBlock("text", ids()).props as { box: object };
    const padding = { top: 1, right: 2, bottom: 3, left: 4 };
    const own = blockAlone("text", { box: { ...box, padding, dir: "rtl" } });
    expect(own.html).toMatch(/<td align="right" dir="rtl" style="padding:1px 4px 3px 2px"/);
    const all = blockAlone(
      "text",
      { box: { ...box, padding } },
      { email: { dir: "rtl", lang: "ar" } },
    );
    expect(all.html).toMatch(/<html lang="ar" dir="rtl"/);
    expect(all.html).toMatch(/<td align="right" style="padding:1px 4px 3px 2px"/);
    const columns = blockAlone(
      "pictureAndWords",
      { picture: PICTURE, alt: line("x") },
      { email: { dir: "rtl" } },
    );
    expect(columns.html).toContain('width="544" dir="rtl" style="width:544px"><tr>');
  });
});

describe("plain text written by hand", () => {
  it("stands in for what is made, with tags and the addresses of the email", () => {
    const source = `Dear {{ contact.name | default: "you" }},\nleave: {{ campaign.unsubscribe }}`;
    const block = createBlock("text", ids(), { plain: { source, of: "x" } });
    const { text } = rendered(emailOf([block]), { reader: { values: {}, token: "t" } });
    expect(text.trim()).toBe("Dear you,\nleave: https://mail.example.org/u/t");
  });
  it("lists addresses at the end where they are numbered, each once", () => {
    const to = web("https://x.example/a");
    const blocks = [0, 1].map((i) =>
      createBlock("button", ids(`b${i}`), { label: line(`Go ${i}`), to }),
    );
    const { text } = rendered(emailOf(blocks, { textLinks: "numbered" }));
    expect(text).toBe("Go 0 [1]\n\nGo 1 [1]\n\n[1] https://x.example/a\n");
  });
});
