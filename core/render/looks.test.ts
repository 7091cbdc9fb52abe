/** What a theme and the typography of a text do to the HTML. */
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import { darkRules, dress } from "../kinds/dress.ts";
import { blockAlone, ids, PICTURE, rendered } from "../testing/rendered.ts";
import { doc, line, paragraph, phrase, type TextJson } from "../text/index.ts";
import { FONTS, fontStack, resolveColour, STANDARD_THEME, webFontSchema } from "../theme/theme.ts";

const marked = (text: string, ...marks: TextJson["marks"] & object): TextJson => ({
  type: "text",
  text,
  marks,
});
const inText = (...content: TextJson[]) =>
  blockAlone("text", { words: doc({ type: "paragraph", content }) }).html;

describe("words", () => {
  it("are raised and lowered without moving their lines apart", () => {
    const html = inText(marked("2", { type: "superscript" }), marked("3", { type: "subscript" }));
    expect(html).toContain('<sup style="font-size:70%;line-height:1">2</sup>');
    expect(html).toContain('<sub style="font-size:70%;line-height:1">3</sub>');
  });
  it("have colours of the theme, which go dark with it, or fixed ones, which do not", () => {
    const html = inText(
      marked("a", { type: "colour", attrs: { to: "accent" } }),
      marked("b", { type: "ground", attrs: { to: "#ffee00" } }),
    );
    expect(html).toContain('<span class="i5" style="color:#1f3d2e">a</span>');
    expect(html).toContain('<span style="background-color:#ffee00">b</span>');
  });
  it("are set in, once for each time", () => {
    const inner = { type: "indented", content: [paragraph("deep")] };
    const { html, text } = blockAlone("text", {
      words: doc({ type: "indented", content: [inner] }),
    });
    expect(html).toContain(
      '<div style="margin:0 0 0 24px"><div style="margin:0 0 0 24px"><p style="margin:0">deep</p></div></div>',
    );
    expect(text).toBe("deep");
  });
  it("break a line without a new paragraph", () => {
    const html = inText(
      { type: "text", text: "one" },
      { type: "hard_break" },
      { type: "text", text: "two" },
    );
    expect(html).toContain('<p style="margin:0">one<br>two</p>');
  });
  it("take what is set about their type, and the theme's where nothing is", () => {
    const type = { font: "mono" as const, size: 20, lineHeight: 200, spacing: 15, capitals: true };
    const { html } = blockAlone("text", { type });
    expect(html).toContain(
      `font-family:${FONTS.mono.stack};font-size:20px;line-height:40px;letter-spacing:1.5px;text-transform:uppercase`,
    );
    const plain = blockAlone("text", { type: PLAIN_TYPE }).html;
    expect(plain).toContain(
      '<div class="i3" style="font-size:16px;line-height:24px;color:#26302b">',
    );
  });
  it("have links in their own colour, underlined or not", () => {
    const to = { kind: "web", address: line("https://x.example") };
    const words = doc({
      type: "paragraph",
      content: [marked("go", { type: "link", attrs: { to: to as never } })],
    });
    const { html } = blockAlone("text", { words, linkColour: "#aa0000", linkUnderline: false });
    expect(html).toContain(
      '<a href="https://x.example" style="text-decoration:none;color:#aa0000"><span style="color:#aa0000">go</span></a>',
    );
  });
  it("stand in headings of three levels", () => {
    for (const level of [1, 2, 3]) {
      const { html, text } = blockAlone("heading", { level, words: phrase("Title") });
      expect(html).toMatch(new RegExp(`<h${level} [^>]*>Title</h${level}>`));
      expect(text).toBe(level === 1 ? "Title\n\u001c=" : "Title\n\u001c-");
    }
  });
});

describe("the theme's running font", () => {
  it("stands around the bands, where programs keep one element or the other, not on any in them", () => {
    const id = ids();
    const blocks = ["text", "button", "footer"].map((type) => createBlock(type, id));
    const { html } = rendered(createDocument([createBand(id, [createColumn(id, blocks)])]));
    const body = html.slice(html.indexOf("<body")).replace(/<!--[\s\S]*?-->/g, "");
    const has = body.match(/<[a-z][^>]*font-family:[^>]*>/g)!;
    expect(has).toHaveLength(2);
    expect(has[0]).toMatch(/^<body /);
    expect(has[1]).toMatch(/^<div [^>]*role="article"/);
  });
  it("can be one from the web, in a style element of its own, its fallback named for the table-only engine", () => {
    const webFonts = {
      heading: { family: "Garden Display", address: "https://fonts.example/garden.woff2" },
      body: null,
    };
    const theme = { ...STANDARD_THEME, webFonts };
    const { html } = blockAlone("heading", {}, { email: { theme } });
    const [first, byAttribute, second] = html.match(/<style>[\s\S]*?<\/style>/g)!;
    expect(`${first}${byAttribute}`).not.toContain("url(");
    expect(second).toContain(
      "@media screen{\n@font-face{font-family:'Garden Display';src:url('https://fonts.example/garden.woff2') format('woff2')}",
    );
    expect(html).toContain("@font-face{font-family:'Garden Display';mso-font-alt:'Georgia'}");
    expect(html).toContain("font-family:'Garden Display',Georgia,'Times New Roman',serif");
    expect(fontStack("body", theme)).toBe(FONTS.bookSerif.stack);
  });
  it.each([
    "http://fonts.example/a.woff2",
    "https://fonts.example/a.ttf",
    "https://fonts.example/a.woff2');}",
    "javascript:x.woff2",
  ])("takes no font file at %s", (address) => {
    expect(webFontSchema.safeParse({ family: "A", address }).success).toBe(false);
  });
});

describe("dark", () => {
  it("is offered to programs that ask for it, by rules that know elements by their roles", () => {
    const { html } = blockAlone("button");
    expect(html).toContain('<meta name="color-scheme" content="light dark">');
    expect(html).toContain(".i11{color:#12211a!important}");
    expect(html).toContain("[data-ogsb] .g10{background-color:#a5cbb3!important}");
    expect(html).toMatch(/<td align="center" class="g10" bgcolor="#1f3d2e"/);
    const [style] = /<style>[\s\S]*?<\/style>/.exec(html)!;
    expect(style.length).toBeLessThan(8_000);
  });
  it("gives a heading the role of its level, unless it has a colour of its own", () => {
    const colours = { ...STANDARD_THEME.colours, heading2: "#224466", heading3: "#446622" };
    const email = { theme: { ...STANDARD_THEME, colours } };
    const of = (level: number, more: object = {}) =>
      /<h\d[^>]*color:(#[0-9a-f]{6})/.exec(
        blockAlone("heading", { level, ...more }, { email }).html,
      )?.[1];
    expect([1, 2, 3].map((level) => of(level))).toEqual([
      ...[colours.accent, "#224466", "#446622"],
    ]);
    expect(of(2, { colour: "ink" })).toBe(colours.ink);
  });
  it("leaves no trace where the theme has no dark roles", () => {
    const { html } = blockAlone(
      "button",
      {},
      { email: { theme: { ...STANDARD_THEME, dark: null } } },
    );
    expect(html).toContain('<meta name="color-scheme" content="light">');
    expect(html).not.toMatch(/prefers-color-scheme|class="[gib]\d/);
    expect(darkRules({ ...STANDARD_THEME, dark: null })).toEqual([]);
  });
  it("is kept from words on a picture, which stays as light as it is", () => {
    const id = ids();
    const band = createBand(id, [createColumn(id, [createBlock("text", id)])], {
      picture: PICTURE,
    });
    const { html } = rendered(createDocument([band]));
    expect(html).toContain('<div style="font-size:16px;line-height:24px;color:#26302b">');
    expect(html).toContain(
      `background-image:url('https://mail.example.org/pictures/${PICTURE.slice(0, 22)}.png')`,
    );
    expect(html).toContain('<v:fill type="frame"');
  });
  it("takes an unknown role for the colour of words", () => {
    expect(resolveColour("nothing", STANDARD_THEME)).toBe(STANDARD_THEME.colours.ink);
    expect(dress(STANDARD_THEME, {}).segments).toEqual([]);
  });
});

describe("a band", () => {
  const band = (props: object) => {
    const id = ids();
    const column = createColumn(id, [createBlock("text", id)]);
    return rendered(createDocument([createBand(id, [column], props)])).html;
  };
  const room = { top: 1, right: 2, bottom: 3, left: 4 };
  it("has a border, corners, and spacing inside and outside", () => {
    const html = band({
      outer: room,
      padding: { ...room, top: 9 },
      border: { width: 2, colour: "#123456" },
      corner: 8,
    });
    expect(html).toContain('<td align="center" style="padding:1px 2px 3px 4px">');
    expect(html).toContain("border:2px solid #123456;border-radius:8px;padding:9px 2px 3px 4px");
    expect(html).toContain('width="594"');
  });
  it("reaches from edge to edge where that is wanted, its words as wide as the email", () => {
    const html = band({ fullWidth: true, background: "#abcdef", picture: PICTURE });
    expect(html).toMatch(/<td align="center" background="[^"]*" bgcolor="#abcdef"/);
    expect(html).toContain("mso-width-percent:1000");
    expect(html.indexOf('bgcolor="#abcdef"')).toBeLessThan(html.indexOf("max-width:600px"));
  });
  it("is as high as it is told to be, for the table-only engine too", () => {
    const html = band({ picture: PICTURE, minHeight: 240 });
    expect(html).toContain('height="240"');
    expect(html).toContain("width:600px;height:240px");
    expect(band({ picture: PICTURE })).toContain("mso-fit-shape-to-text:true");
  });
});
