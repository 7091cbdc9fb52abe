/** Checks at the edges: what is just enough, and what is just not. */
import { describe, expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import { sniffEncoding } from "../import/sniff.ts";
import { isText, stateOf } from "../languages/index.ts";
import { RULES } from "../testing/arbitrary-conditions.ts";
import { blockAlone, emailOf, ids, rendered, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line, paragraph, tag, textSchema } from "../text/index.ts";
import { contrast, STANDARD_THEME } from "../theme/theme.ts";
import { runChecks } from "./index.ts";

const found = (blocks: Parameters<typeof emailOf>[0], check: string, email = {}) =>
  runChecks(emailOf(blocks, email), SURROUNDINGS, new Map()).filter((one) => one.check === check);

describe("the way out", () => {
  const newId = ids("u");
  const footer = (props = {}) => createBlock("footer", newId, props);
  it("is missing at a width, or for some, in words of its own", () => {
    const said = (...blocks: Parameters<typeof emailOf>[0]) =>
      found(blocks, "unsubscribe").map(({ message }) => message);
    expect(said(footer({ show: "wide" }))).toEqual([
      "The unsubscribe link shows at one width only",
    ]);
    expect(said(footer({ seenBy: RULES[0] }))).toEqual(["Not everybody gets an unsubscribe link"]);
    // Between the two, everybody has one.
    expect(said(footer({ show: "wide" }), footer({ show: "narrow" }))).toEqual([]);
  });

  it("is there for all where the last of some alternatives is for everybody else", () => {
    const one = footer({ seenBy: RULES[0], chain: "way" });
    const other = footer({ seenBy: null, chain: "way" });
    expect(found([one, other], "unsubscribe")).toEqual([]);
    expect(found([one, footer({ seenBy: RULES[1], chain: "way" })], "unsubscribe")).toHaveLength(1);
  });
});

it("takes a contrast that is just what is wanted, and none below it", () => {
  const theme = { ...STANDARD_THEME, dark: null };
  const words = (colour: string) =>
    createBlock("text", ids("w"), { words: doc("Words"), colour, linkColour: colour });
  const of = (colour: string) => contrast(colour, theme.colours.sheet);
  // The palest grey that may be read, and the next one.
  const greys = Array.from(
    { length: 256 },
    (_, n) => `#${n.toString(16).padStart(2, "0").repeat(3)}`,
  );
  const last = greys.findLast((grey) => of(grey) >= 4.5)!;
  const next = greys[greys.indexOf(last) + 1]!;
  expect(found([words(last)], "contrast", { theme })).toEqual([]);
  expect(found([words(next)], "contrast", { theme })).toHaveLength(1);
});

it("knows UTF-16 by its mark, whichever byte comes first, and by its zeros", () => {
  const of = (...list: number[]) => sniffEncoding(Uint8Array.from(list));
  expect(of(0xff, 0xfe, 0xe9, 0x01)).toBe("utf-16le");
  expect(of(0xfe, 0xff, 0x01, 0xe9)).toBe("utf-16be");
  expect(of(0x61, 0, 0x62, 0)).toBe("utf-16le");
  expect(of(0, 0x61, 0, 0x62)).toBe("utf-16be");
  // Half a mark is none.
  expect(of(0xff, 0x61)).toBe("windows-1252");
  expect(of(0xfe, 0x61)).toBe("windows-1252");
});

it("asks for translations of words alone", () => {
  for (const [kind, words] of [
    ["doc", true],
    ["line", true],
    ["link", false],
    ["picture", false],
    ["plain", false],
  ] as const) {
    expect([kind, isText({ kind } as never)]).toEqual([kind, words]);
  }
  const node = createBlock("heading", ids("t"), {});
  const of = (kind: string) =>
    stateOf({ node, kind, path: ["words"], source: line("Hello") } as never, "fr");
  expect([of("phrase"), of("plain"), of("link")]).toEqual(["missing", "done", "done"]);
});

it("draws words in a colour, and on a ground, with what names it", () => {
  const spec = (name: string) =>
    textSchema.marks[name]!.spec.toDOM!(
      textSchema.marks[name]!.create({ to: "#aa3300" }),
      true,
    ) as unknown as [string, Record<string, string>, number];
  const [element, attributes, hole] = spec("colour");
  expect([element, attributes["data-colour"], hole]).toEqual(["span", "#aa3300", 0]);
  expect(attributes.style).toContain("#aa3300");
  expect(spec("ground")[0]).toBe("span");
});

it("keeps pictures that are made for readers apart by what they say", () => {
  const code = (words: string) =>
    createBlock("qrCode", ids(words), { content: line(words, tag("contact:number", "0")) });
  const { html } = rendered(emailOf([code("first-"), code("second-")]), {
    reader: { values: { "contact:number": "7" }, token: "t" },
  });
  const said = [...html.matchAll(/\/made\/([^/]+)\//g)].map(([, recipe]) =>
    Buffer.from(recipe!, "base64url").toString(),
  );
  expect(said).toHaveLength(2);
  expect(said[0]).toContain("first-7");
  expect(said[1]).toContain("second-7");
});

it("frames a coupon in dashes of its colour, and says nothing beside its links in a masthead", () => {
  const { html } = blockAlone("coupon", { colour: "#123456" });
  expect(html).toContain("border:2px dashed #123456");
  expect(html).toMatch(/<td[^>]*style="[^"]*padding:18px 20px/);
  const own = blockAlone("masthead", {
    ...{ name: line("Larkmoor"), webVersion: line("On the web") },
    parts: { logo: false, name: true, links: false, webVersion: true },
  });
  expect(own.text.replace(/\s+/g, " ")).not.toContain("Stryker");
  const words = own.html
    .slice(own.html.indexOf('role="article"'))
    .replace(/<!--[\s\S]*?-->/g, "")
    .replace(/<[^>]*>/g, " ")
    .replace(/^[^>]*>/, "")
    .replace(/\s+/g, " ")
    .trim();
  expect(words).toContain("Larkmoor");
  expect(words.replace("Larkmoor", "").replace("On the web", "").trim()).toBe("");
});

it("asks for no code of a reader's own what a fixed one must be", () => {
  const all = (code: ReturnType<typeof line>) =>
    runChecks(
      emailOf([createBlock("coupon", ids("b"), { code, barcode: "ean13" })]),
      SURROUNDINGS,
      new Map(),
    ).filter(({ detail, message }) => /EAN|digits/i.test(message + detail)).length;
  expect(all(line("12"))).toBe(1);
  expect(all(line("4006381333931"))).toBe(0);
  expect(all(line(tag("code:spring", "")))).toBe(0);
});

it("counts a paragraph with a tag alone as said in every language", () => {
  const node = createBlock("text", ids("t"), {});
  const source = doc(paragraph(tag("contact:first_name", "friend")));
  expect(stateOf({ node, kind: "doc", path: ["words"], source } as never, "fr")).toBe("done");
});
