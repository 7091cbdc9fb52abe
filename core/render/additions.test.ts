/** What blocks can have beside what they need: sizes of their own, other pictures, more links, what follows by itself. */
import { describe, expect, it } from "vitest";
import {
  createBand,
  createBlock,
  createColumn,
  createDocument,
  nodeKind,
} from "../blocks/index.ts";
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import { runChecks } from "../checks/index.ts";
import type { DocNode } from "../document/index.ts";
import { createItem } from "../kinds/item.ts";
import { LIMITS } from "../limits.ts";
import { RULES } from "../testing/arbitrary-conditions.ts";
import {
  blockAlone,
  emailOf,
  ids,
  PICTURE,
  picture,
  rendered,
  SURROUNDINGS,
} from "../testing/rendered.ts";
import { doc, type Line, line, paragraph, phrase, tag } from "../text/index.ts";
import { STANDARD_THEME } from "../theme/theme.ts";
import { compileNode } from "./index.ts";

const to = { kind: "web", address: line("https://larkmoor.example/") } as const;
const hrefs = (html: string) => [...html.matchAll(/href="([^"#]+)"/g)].map(([, href]) => href);
const leading = (html: string) =>
  hrefs(html).filter((href) => href === "https://larkmoor.example/");
const shown = { picture: PICTURE, alt: line("A brook") };
const one = (...blocks: DocNode[]) => emailOf(blocks);
const [first, second] = RULES;

describe("sizes on narrow", () => {
  const rule = (html: string, cls: string) => html.includes(`.${cls}{`);
  it("stand in the style element for the words that have one, their lines in proportion", () => {
    const { html } = blockAlone("text", {
      type: { ...PLAIN_TYPE, size: 30, narrow: 20, lineHeight: 150 },
    });
    expect(html).toMatch(/class="[^"]*n20 l30[^"]*"/);
    expect([rule(html, "n20"), rule(html, "l30"), rule(html, "n21")]).toEqual([true, true, false]);
  });
  it("are those of empty room too", () => {
    const { html } = blockAlone("spacer", { height: 80, narrow: 16 });
    expect(html).toContain(".h16{height:16px!important");
    expect(html).toContain('height="80" class="h16"');
    expect(blockAlone("spacer", { height: 80 }).html).not.toContain('class="h');
  });
  it("leave no media query without rules in what is sent", () => {
    const theme = { ...STANDARD_THEME, dark: null };
    const { html } = rendered(createDocument([], { theme }));
    expect(html).not.toContain("@media");
  });
});

describe("another picture", () => {
  const [dark, narrow] = ["b", "c"].map((id) => id.repeat(64)) as [string, string];
  const around = {
    pictures: new Map([PICTURE, dark, narrow].map((id) => [id, picture(id)])),
  };
  const versions = { ...shown, dark: { picture: dark }, narrow: { picture: narrow } };
  it("is shown where programs are dark and where the window is narrow, the first everywhere else", () => {
    const { html } = rendered(one(createBlock("image", ids(), { ...versions, to })), around);
    const images = [...html.matchAll(/<img[^>]*>/g)].map(([tag]) => tag);
    expect(images.map((tag) => /\/([abc])\1+/.exec(tag)![1])).toEqual(["a", "b", "c"]);
    expect(images[0]).toMatch(/class="[^"]*dl"/);
    expect(images[1]).toMatch(/class="[^"]*dd" style="display:none/);
    expect(html).toContain('<div class="nb" style="display:none">');
    // One link around all of them.
    expect(leading(html)).toHaveLength(1);
  });
  it("is none where the email stays light", () => {
    const theme = { ...STANDARD_THEME, dark: null };
    const document = createDocument(
      [createBand(ids(), [createColumn(ids(), [createBlock("image", ids(), versions)])])],
      { theme },
    );
    expect(rendered(document, around).html).not.toContain(dark.slice(0, 22));
  });
});

describe("a button", () => {
  it("is outlined by a border of its own, and in the table-only engine by a cell’s", () => {
    const { html } = blockAlone("button", { look: "outline", to });
    expect(html).toMatch(/<a [^>]*border:2px solid #1f3d2e[^>]*>/);
    expect(html).toMatch(
      /<!--\[if mso\]><table[^>]*><tr><td align="center" style="border:2px solid #1f3d2e"><!\[endif\]-->/,
    );
    expect(html).not.toMatch(/<a [^>]*background-color/);
    const round = blockAlone("button", { look: "outline", wide: "full", corner: 20, to }).html;
    expect(round).toContain('filled="f" strokecolor="#1f3d2e"');
  });
  it("has a second one beside it, and both stand in the plain text", () => {
    const pair = { parts: { second: true }, second: line("See the map"), to, secondTo: to };
    for (const wide of ["words", "full"]) {
      const { html, text } = blockAlone("button", { ...pair, wide, corner: 0 });
      expect(leading(html)).toHaveLength(2);
      expect(text).toContain("See the map: https://larkmoor.example/");
    }
  });
  it("is told about where the second leads nowhere", () => {
    const { checks } = nodeKind("button")!;
    const node = createBlock("button", ids(), { to, parts: { second: true } });
    expect(checks!(node.props, node).map((found) => found.in)).toEqual([["secondTo"]]);
  });
});

describe("what leads to one place", () => {
  it("is all that a card holds and that is no link itself; its address stands in the text once", () => {
    const own = { kind: "web", address: line("https://larkmoor.example/own") } as const;
    const link = { type: "link", attrs: { to: own as never } };
    const inner = [
      createBlock("image", ids("i"), shown),
      createBlock("heading", ids("h"), { words: phrase("In a card") }),
      createBlock("text", ids("t"), {
        words: doc(paragraph("Plain words, "), {
          type: "paragraph",
          content: [{ type: "text", text: "and a link", marks: [link] }],
        }),
      }),
      createBlock("button", ids("b"), { to: own }),
    ];
    const card = createBlock("card", ids("c"), { to }, inner);
    const { html, text } = rendered(one(card));
    expect(leading(html)).toHaveLength(3);
    expect(hrefs(html).filter((href) => href?.endsWith("/own"))).toHaveLength(2);
    expect(text.match(/https:\/\/larkmoor\.example\/(?!own)/g)).toHaveLength(1);
    // The same when one block of it is made again alone.
    const alone = compileNode(one(card), inner[1]!.id, SURROUNDINGS)!;
    expect(alone.segments.some((part) => typeof part === "object" && part.slot === "link")).toBe(
      true,
    );
  });
  it("is a title, a caption, the words under a still, and an action", () => {
    expect(
      leading(blockAlone("pictureAndWords", { ...shown, to, linkTitle: true }).html),
    ).toHaveLength(2);
    expect(
      leading(blockAlone("captionedPicture", { ...shown, to, whole: true }).html),
    ).toHaveLength(2);
    const video = blockAlone("video", { ...shown, to });
    expect(leading(video.html)).toHaveLength(2);
    expect(video.html).toContain('alt="Play: A brook"');
    expect(blockAlone("video", { ...shown, to }, { email: { lang: "fr" } }).html).toContain(
      "Lire la vidéo",
    );
  });
  it("is a picture of a grid with its caption, or with its action", () => {
    const [kind] = nodeKind("pictureGrid")!.holds!;
    const grid = (parts: object) => {
      const items = [1, 2].map(() => createItem(kind!, ids("g"), { ...shown, to }));
      return rendered(one(createBlock("pictureGrid", ids(), { parts }, items)));
    };
    expect(leading(grid({ price: false, action: false }).html)).toHaveLength(4);
    const shop = grid({ price: true, action: true });
    expect(leading(shop.html)).toHaveLength(4);
    expect(shop.html).toContain("12.00");
    expect(shop.text).toContain("12.00\nSee it");
  });
});

describe("a table of contents", () => {
  const id = ids("k");
  const heading = (words: string, level: number, seen: object = {}) =>
    createBlock("heading", id, { words: phrase(words), level, ...seen });
  it("lists the titles down to its level, each a link to where it stands", () => {
    const document = one(
      createBlock("contents", id, { depth: 2 }),
      heading("The garden", 1),
      heading("In spring", 2),
      heading("Bulbs", 3),
      createBlock("pictureAndWords", id, { title: phrase("A walk"), level: 2 }),
      heading(" ", 2),
      heading("Small windows alone", 2, { show: "narrow" }),
    );
    const { html, text } = rendered(document);
    const places = [...html.matchAll(/href="#([^"]+)"/g)].map(([, place]) => place!);
    expect(places).toHaveLength(3);
    for (const place of places) expect(html).toContain(` id="${place}"`);
    expect(text).toMatch(/In this email\n- The garden\n- In spring\n- A walk\n/);
  });
  it("follows what stands in the email, also where its own block is as it was", () => {
    const list = createBlock("contents", id);
    const card = createBlock("card", id, {}, [list]);
    for (const words of ["Before", "Afterwards"]) {
      const { html } = rendered(one(card, heading(words, 1)));
      expect(html.match(new RegExp(words, "g"))!.length).toBe(2);
    }
  });
  it("lists a title for those alone who see it", () => {
    const document = createDocument([
      createBand(id, [createColumn(id, [createBlock("contents", id), heading("For all", 1)])]),
      createBand(id, [createColumn(id, [heading("For some", 2, { seenBy: second })])], {
        seenBy: first!,
      }),
    ]);
    const at = (bits: string) => rendered(document, { reader: { values: {}, token: "t", bits } });
    expect(at("11").html.match(/For some/g)).toHaveLength(2);
    for (const bits of ["10", "01", "00"]) {
      expect(at(bits).html).not.toContain("For some");
      expect(at(bits).text).not.toContain("For some");
    }
  });
});

describe("what has an end", () => {
  const until = "2026-12-24T17:00:00.000Z";
  const told = (document: ReturnType<typeof one>, today: string) =>
    runChecks(document, SURROUNDINGS, new Map(), {
      ...{ conditions: [], groups: [], problems: [] },
      today,
    }).filter(({ check }) => check === "ended");

  it("names it with its zone where the picture is not seen, and in the text", () => {
    const { html, text } = blockAlone("countdown", { until, zone: "Europe/Paris", to });
    expect(html).toMatch(/alt="Ends 24 December 2026 at 18:00 \(Europe\/Paris\)"/);
    expect(text).toContain("Ends 24 December 2026 at 18:00 (Europe/Paris)");
    // Light and dark, in one link.
    expect(html.match(/<img/g)).toHaveLength(2);
    expect(leading(html)).toHaveLength(1);
    const unknown = blockAlone("countdown", { until, zone: "Nowhere/At_all" });
    expect(unknown.html).toContain("17:00 (UTC)");
  });
  it("shows nothing to readers while nobody has said when, and stops the send", () => {
    const { html, text } = blockAlone("countdown");
    expect(html).not.toContain("Say what it counts to");
    expect(text.trim()).toBe("");
    const node = createBlock("countdown", ids());
    expect(nodeKind("countdown")!.checks!(node.props, node)[0]).toMatchObject({ severity: "stop" });
  });
  it("draws no more words afterwards than fit, however long a reader’s value is", () => {
    const after = line(tag("contact:name"));
    const reader = { values: { "contact:name": "\ud83c\udf31".repeat(300) }, token: "t" };
    const { html } = blockAlone("countdown", { until, after }, { reader });
    const [, recipe] = /\/made\/([^/]+)\//.exec(html)!;
    const [, words] = JSON.parse(Buffer.from(recipe!, "base64url").toString());
    expect(words.length).toBeLessThanOrEqual(LIMITS.drawnWords);
  });
  it("is told about once it is over", () => {
    const parts = { title: true, terms: true, until: true, action: false };
    for (const block of [
      createBlock("countdown", ids(), { until }),
      createBlock("coupon", ids(), { until: "2026-12-24", parts }),
    ]) {
      expect(told(one(block), "2026-12-24")).toEqual([]);
      expect(told(one(block), "2026-12-25")).toMatchObject([{ severity: "stop", in: ["until"] }]);
    }
  });
  it("is the last day of a coupon in the reader’s language", () => {
    const parts = { title: false, terms: false, until: true, action: false };
    const coupon = { until: "2026-12-24", parts };
    expect(blockAlone("coupon", coupon).html).toContain("Until 24 December 2026");
    expect(blockAlone("coupon", coupon, { email: { lang: "fr" } }).text).toContain(
      "Jusqu’au 24 décembre 2026",
    );
  });
});

describe("barcodes", () => {
  const problem = (barcode: string, code: string) => {
    const node = createBlock("coupon", ids(), { barcode, code: line(code) });
    return nodeKind("coupon")!.checks!(node.props, node).map(({ detail }) => detail);
  };
  it("are told about where a till could not read them", () => {
    expect(problem("ean13", "4006381333931")).toEqual([]);
    expect(problem("ean13", "400638133393")).toEqual([]);
    expect(problem("ean13", "4006381333932")).toEqual(["Its last figure would be 1."]);
    expect(problem("ean13", "GARDEN10")).toHaveLength(1);
    expect(problem("code128", "GARDEN10")).toEqual([]);
    expect(problem("code128", "ÉTÉ")).toHaveLength(1);
    expect(problem("code128", "x".repeat(21))).toHaveLength(1);
    expect(problem("none", "ÉTÉ")).toEqual([]);
  });
  it("are not told about where each reader, or some of them, have their own", () => {
    const own = (...content: unknown[]) => {
      const code = { type: "line", content } as unknown as Line;
      const node = createBlock("coupon", ids(), { barcode: "code128", code });
      return nodeKind("coupon")!.checks!(node.props, node);
    };
    const who = { type: "who", attrs: { seenBy: first, chain: null } };
    expect(own({ type: "text", text: "ÉTÉ" })).toHaveLength(1);
    expect(own({ type: "text", text: "ÉTÉ", marks: [who] })).toEqual([]);
    expect(own(...line(tag("contact:code")).content!)).toEqual([]);
  });
});

describe("the outline", () => {
  const skips = (...levels: number[]) => {
    const id = ids("o");
    const headings = levels.map((level) =>
      createBlock("heading", id, { level, words: phrase(`L${level}`) }),
    );
    return runChecks(one(...headings), SURROUNDINGS, new Map())
      .filter(({ check }) => check === "outline")
      .map(({ message }) => message);
  };
  it("is told about where a heading skips a level", () => {
    expect(skips(1, 2, 3, 2, 3)).toEqual([]);
    expect(skips(1, 3)).toEqual(["“L3” skips a level"]);
    expect(skips(2, 3)).toEqual(["“L2” skips a level"]);
  });
});

describe("the rest", () => {
  it("a table names its rows, and says what it shows", () => {
    const { html, text } = blockAlone(
      "table",
      { rowHeader: true, caption: line("Walks"), parts: { caption: true } },
      { children: nodeKind("table")!.start!(ids("c")) },
    );
    expect(html.match(/<th scope="row"/g)).toHaveLength(2);
    expect(html).toMatch(/<caption[^>]*><span>Walks<\/span><\/caption>/);
    expect(text).toMatch(/^Walks\n\n/);
  });
  it("a picture behind a band keeps its focal point in sight", () => {
    const band = (focus?: object) =>
      rendered(
        createDocument([
          createBand(ids(), [createColumn(ids())], {
            picture: PICTURE,
            ...(focus && { focus }),
          } as never),
        ]),
      ).html;
    expect(band()).toContain("background-position:center");
    expect(band({ x: 0, y: 100 })).toContain("background-position:0% 100%");
  });
  it("HTML of one’s own is told about where it is wider than a telephone", () => {
    const found = (source: string) => {
      const node = createBlock("html", ids(), { source });
      return nodeKind("html")!.checks!(node.props, node).map(({ check }) => check);
    };
    expect(found('<table width="600"><tr><td>x</td></tr></table>')).toEqual(["html-width"]);
    expect(found('<div style="min-width: 400px">x</div>')).toEqual(["html-width"]);
    expect(found('<div style="max-width:600px">x</div><table width="100%"></table>')).toEqual([]);
    expect(found('<img src="https://a.example/x.png" width="1200" alt="x">')).toEqual([]);
  });
  it("a footer says to whom it was sent", () => {
    const { text } = blockAlone("footer", { parts: { sentTo: true } });
    expect(text).toContain("This was sent to ");
  });
});
