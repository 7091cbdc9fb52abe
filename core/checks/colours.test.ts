import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { colourPairs, compile } from "../render/index.ts";
import { documentArbitrary } from "../testing/arbitrary-documents.ts";
import { emailOf, ids, PICTURE, picture, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line } from "../text/index.ts";
import { forcedDark } from "../theme/forced-dark.ts";
import { contrast, STANDARD_THEME } from "../theme/theme.ts";
import { runChecks } from "./index.ts";

const found = (blocks: Parameters<typeof emailOf>[0], check: string, props = {}) =>
  runChecks(emailOf(blocks, props), SURROUNDINGS, new Map())
    .filter((finding) => finding.check === check)
    .map(({ message, detail, at }) => ({ message, detail, at }));
const words = (props: object) =>
  createBlock("text", () => "words", { words: doc("Can you read this?"), ...props });

describe("colours of words on grounds", () => {
  it("are read off what is sent, with the roles they come from", () => {
    const id = ids();
    const button = createBlock("button", () => "button", { label: line("Go") });
    const document = createDocument([
      createBand(id, [createColumn(id, [words({ colour: "#333333" }), button])], {
        background: "tint",
      }),
    ]);
    const pairs = colourPairs(compile(document, SURROUNDINGS).html);
    expect(pairs).toMatchObject([
      {
        node: "words",
        words: "Can you read this?",
        ink: "#333333",
        inkRole: null,
        ground: "#f5efe6",
        groundRole: "tint",
        size: 16,
        bold: false,
      },
      {
        node: "button",
        words: "Go",
        ink: "#ffffff",
        inkRole: "onButton",
        ground: "#1f3d2e",
        groundRole: "button",
        size: 16,
        bold: true,
      },
    ]);
  });

  it("are found in every document, each with a size and two whole colours", () => {
    fc.assert(
      fc.property(documentArbitrary, (document) => {
        for (const pair of colourPairs(compile(document, SURROUNDINGS).html)) {
          expect(pair.ink).toMatch(/^#[0-9a-f]{6}$/);
          expect(pair.ground).toMatch(/^#[0-9a-f]{6}$/);
          expect(pair.size).toBeGreaterThan(1);
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe("the contrast check", () => {
  it("is content with the standard theme, light and dark, on every block", () => {
    const blocks = ["heading", "text", "quote", "table", "button", "coupon", "linksRow", "footer"];
    expect(
      found(
        blocks.map((type) => createBlock(type, ids(type))),
        "contrast",
      ),
    ).toEqual([]);
  });
  it("tells of pale words once, with the figure", () => {
    expect(found([words({ colour: "#aaaaaa" })], "contrast")).toEqual([
      {
        message: "Words are hard to read",
        detail: "“Can you read this?” stands at 2.3 : 1 on its ground; 4.5 : 1 is wanted.",
        at: "words",
      },
    ]);
  });
  it("asks less of large words", () => {
    const type = { font: null, size: 30, lineHeight: null, spacing: 0, capitals: false };
    expect(found([words({ colour: "#888888", type })], "contrast")).toEqual([]);
    expect(found([words({ colour: "#888888" })], "contrast")).toHaveLength(1);
  });
  it("tells of a fixed colour that stays dark where the ground goes dark", () => {
    const [one] = found([words({ colour: "#202020" })], "contrast");
    expect(one!.message).toBe("Words are hard to read in dark mail programs");
    const light = { theme: { ...STANDARD_THEME, dark: null } };
    expect(found([words({ colour: "#202020" })], "contrast", light)).toEqual([]);
  });
  it("cannot tell where HTML of one's own names its colours, and says nothing", () => {
    const html = (source: string) => createBlock("html", () => "html", { source });
    const named = '<p style="background-color:white">On white <b style="color:silver">pale</b></p>';
    expect(found([html(named)], "contrast")).toEqual([]);
    expect(found([html('<p style="color:#dddddd">pale</p>')], "contrast")).toHaveLength(1);
  });
});

describe("words over a picture", () => {
  /** Ten steps of lightness, from black to white. */
  const [NIGHT, SNOW] = [
    [60, 40, 0, 0, 0, 0, 0, 0, 0, 0],
    [0, 0, 0, 0, 0, 0, 0, 0, 40, 60],
  ];
  const MIXED = [10, 10, 10, 10, 10, 10, 10, 10, 10, 10];
  const over = (colour: string, tones: readonly number[] | null, props: object = {}) => {
    const id = ids();
    const band = createBand(id, [createColumn(id, [words({ colour, ...props })])], {
      picture: PICTURE,
      background: "#101010",
    });
    const pictures = new Map([[PICTURE, picture(PICTURE, { tones, name: "the hill" })]]);
    const findings = runChecks(createDocument([band]), { ...SURROUNDINGS, pictures }, new Map());
    return findings
      .filter(({ check }) => check.endsWith("contrast"))
      .map(({ check, severity, message }) => `${check} ${severity}: ${message}`);
  };
  it("are held against how light it is", () => {
    expect(over("#ffffff", NIGHT)).toEqual([]);
    expect(over("#ffffff", SNOW)).toEqual([
      "image-contrast look: Words are hard to read on their image",
    ]);
    expect(over("#ffffff", MIXED)).toEqual([
      "image-contrast hint: Words are hard to read on their image",
    ]);
  });
  it("are left alone where nobody knows how light it is, or a background stands between", () => {
    expect(over("#ffffff", null)).toEqual([]);
    const box = { ...boxOf(), background: "#202020" };
    expect(over("#ffffff", SNOW, { box })).toEqual([]);
  });
  it("are held against the ground that shows where images are off", () => {
    expect(over("#303030", SNOW)).toContain(
      "contrast look: Words are hard to read where images are off",
    );
  });
  it("may be lost where programs darken by force and leave images as they are", () => {
    const id = ids();
    const band = createBand(id, [createColumn(id, [words({})])], { picture: PICTURE });
    const pictures = new Map([[PICTURE, picture(PICTURE, { tones: SNOW })]]);
    const light = { theme: { ...STANDARD_THEME, dark: null } };
    const findings = runChecks(
      createDocument([band], light),
      { ...SURROUNDINGS, pictures },
      new Map(),
    ).filter(({ check }) => check === "image-contrast");
    expect(findings.map(({ severity, message }) => [severity, message])).toEqual([
      ["hint", "Words are hard to read on their image in mail programs that darken by force"],
    ]);
  });
});

describe("darkened by force", () => {
  it("turns white paper dark and black words light, and keeps them apart", () => {
    for (const { ink, ground } of forcedDark("#26302b", "#ffffff")) {
      expect(contrast(ink, ground)).toBeGreaterThan(4.5);
      expect(Number.parseInt(ground.slice(1, 3), 16)).toBeLessThan(64);
    }
  });
  it("of the half kind leaves dark grounds alone", () => {
    const [, half] = forcedDark("#ffffff", "#1f3d2e");
    expect(half).toEqual({ ink: "#ffffff", ground: "#1f3d2e" });
  });
  it("gives whole colours for all", () => {
    const hex = fc
      .integer({ min: 0, max: 0xffffff })
      .map((n) => `#${n.toString(16).padStart(6, "0")}`);
    fc.assert(
      fc.property(hex, hex, (ink, ground) => {
        for (const pair of forcedDark(ink, ground)) {
          expect(pair.ink).toMatch(/^#[0-9a-f]{6}$/);
          expect(pair.ground).toMatch(/^#[0-9a-f]{6}$/);
        }
      }),
    );
  });
  it("finds words that only survive by the light of their own ground", () => {
    const band = { background: "#ffe9a8" };
    const pale = words({ colour: "#7a5a00", box: { ...boxOf(), ...band } });
    expect(found([pale], "contrast").every(({ message }) => !message.endsWith("read"))).toBe(true);
  });
});
const boxOf = () => (createBlock("text", () => "x").props as { box: object }).box;

it("an animation that begins with next to nothing is told, and one that begins with what it shows is not", () => {
  const id = "b".repeat(64);
  const told = (file: string, tones: readonly number[] | null) =>
    runChecks(
      emailOf([createBlock("image", () => "i", { picture: id, alt: line("x") })]),
      { ...SURROUNDINGS, pictures: new Map([[id, picture(id, { file, tones })]]) },
      new Map(),
    ).filter(({ check }) => check === "first-frame");
  const plain = [0, 0, 0, 0, 0, 0, 0, 0, 2, 98];
  const busy = [10, 10, 10, 10, 10, 10, 10, 10, 10, 10];
  expect(told(`${id}.gif`, plain)).toMatchObject([{ severity: "look", at: "i" }]);
  expect(told(`${id}.gif`, busy)).toEqual([]);
  expect(told(`${id}.gif`, null)).toEqual([]);
  // A plain still is what it is.
  expect(told(`${id}.png`, plain)).toEqual([]);
});

it("a see-through picture wants something behind it", () => {
  const id = "b".repeat(64);
  const around = { ...SURROUNDINGS, pictures: new Map([[id, picture(id, { alpha: true })]]) };
  const of = (props: object) =>
    runChecks(
      emailOf([createBlock("image", ids(), { picture: id, alt: line("x"), ...props })]),
      around,
      new Map(),
    ).filter(({ check }) => check === "see-through");
  expect(of({})).toHaveLength(1);
  expect(of({ backing: "#ffffff" })).toEqual([]);
});

it("an email that webmail would cut off is told of", () => {
  const long = (n: number) => [
    words({
      words: doc(
        ..."x"
          .repeat(n)
          .split("")
          .map(() => "words ".repeat(200)),
      ),
    }),
  ];
  expect(found(long(40), "size")).toEqual([]);
  expect(found(long(100), "size")[0]!.message).toMatch(/^The HTML is too large: 1\d\d KB$/);
});
