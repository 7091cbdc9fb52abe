import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { BARCODE_SIZE } from "#core/blocks/barcodes.ts";
import { SIGNS } from "#core/blocks/signs.ts";
import { LIMITS } from "#core/limits.ts";
import type { Recipe } from "#core/markup/index.ts";
import { madePicture, plainContext } from "#core/merge/index.ts";
import { convert } from "./convert.ts";
import { countdownSvg } from "./countdown.ts";
import {
  isFleeting,
  keptKey,
  keptPicture,
  type MadeRecipe,
  makePicture,
  readRecipe,
} from "./made.ts";
import { openPictures, type PictureFolder } from "./pictures.ts";

const NOW = new Date("2026-11-28T12:00:00Z");

let folder: string;
let pictures: PictureFolder;
let photo: { id: string; file: string };
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "septima-made-"));
  pictures = await openPictures(folder, convert);
  const plain = { width: 400, height: 200, channels: 3 as const, background: "#336699" };
  photo = await pictures.add(await sharp({ create: plain }).jpeg().toBuffer(), "photo");
});
afterAll(() => rm(folder, { recursive: true }));

const make = (recipe: MadeRecipe) =>
  makePicture(recipe, pictures.folder, async (id) => (id === photo.id ? photo.file : null), NOW);
const pixel = async (picture: Buffer, left: number, top: number) => {
  const raw = await sharp(picture)
    .extract({ left, top, width: 1, height: 1 })
    .removeAlpha()
    .raw()
    .toBuffer();
  return [...raw];
};

describe("a made picture", () => {
  it("is a code in its two colours, with its quiet zone", async () => {
    const settings = { ink: "#102030", ground: "#ffffee" };
    const code = (await make({ kind: "qr", words: "https://larkmoor.example", settings }))!;
    const { format, width, height } = await sharp(code).metadata();
    expect([format, width === height]).toEqual(["png", true]);
    expect(await pixel(code, 2, 2)).toEqual([255, 255, 238]);
    const { channels } = await sharp(code).removeAlpha().stats();
    expect(channels.slice(0, 3).map(({ min }) => min)).toEqual([16, 32, 48]);
  });
  it("is a barcode of whole lines on white, and an empty plate where no till could read it", async () => {
    const bars = (form: "ean13" | "code128", words: string) =>
      make({ kind: "barcode", words, settings: { form } }) as Promise<Buffer>;
    /** How wide the stretches of one colour are across the middle, px. */
    const stretches = async (picture: Buffer) => {
      const { width } = await sharp(picture).metadata();
      const row = await sharp(picture)
        .extract({ left: 0, top: 60, width, height: 1 })
        .greyscale()
        .raw()
        .toBuffer();
      return [...row].reduce<number[]>((all, value, i) => {
        if (i > 0 && value > 128 === row[i - 1]! > 128) all[all.length - 1]!++;
        else all.push(1);
        return all;
      }, []);
    };
    const ean = (await stretches(await bars("ean13", "4006381333931"))).slice(1, -1);
    // 95 modules: three guards, and twice six figures of four stretches.
    const module = Math.min(...ean);
    expect(ean).toHaveLength(59);
    expect(ean.reduce((sum, one) => sum + one, 0)).toBe(95 * module);
    expect((await stretches(await bars("code128", "GARDEN10"))).length).toBeGreaterThan(30);
    for (const words of ["", "ÉTÉ", "x".repeat(200)]) {
      expect(await stretches(await bars("code128", words))).toEqual([BARCODE_SIZE.width]);
    }
    expect(await stretches(await bars("ean13", "4006381333932"))).toEqual([BARCODE_SIZE.width]);
  });
  it("is the time that is left at the moment it is made, by the minute, and words afterwards", async () => {
    const settings = {
      ...{ until: "2026-12-24T17:00:00.000Z", lang: "en" as const },
      ...{ ink: "#1f3d2e", ground: "#f5efe6" },
    };
    const recipe: MadeRecipe = { kind: "countdown", words: "It has ended", settings };
    const at = (now: string) => makePicture(recipe, folder, async () => null, new Date(now));
    const before = (await at("2026-12-24T16:00:10Z"))!;
    const { width, height, format } = await sharp(before).metadata();
    expect([width, height, format]).toEqual([800, 224, "png"]);
    expect(before.equals((await at("2026-12-24T16:00:50Z"))!)).toBe(true);
    expect(before.equals((await at("2026-12-24T16:01:10Z"))!)).toBe(false);
    const after = (await at("2026-12-24T17:00:00Z"))!;
    expect(after.equals((await at("2027-12-24T17:00:00Z"))!)).toBe(true);
    expect(after.equals(before)).toBe(false);
    const keys = ["2026-12-24T16:00:10Z", "2026-12-24T16:00:50Z", "2026-12-24T16:01:10Z"].map(
      (now) => keptKey("x", recipe, new Date(now)),
    );
    expect(keys[0]).toBe(keys[1]);
    expect(keys[0]).not.toBe(keys[2]);
    expect(isFleeting(recipe)).toBe(true);
  });
  it("writes hostile and foreign words of a countdown as words", async () => {
    const settings = {
      ...{ until: "2020-01-01T00:00:00.000Z", lang: "fr" as const },
      ...{ ink: "#000000", ground: "#ffffff" },
    };
    for (const words of [
      '</text><script>alert("x")</script>',
      "הסתיים",
      "",
      "\u0001\ud83c\uffff",
      "x".repeat(400),
    ]) {
      const svg = countdownSvg(settings, words, NOW);
      expect(svg).not.toContain("<script");
      expect(svg.match(/<svg/g)).toHaveLength(1);
      const drawn = { kind: "countdown" as const, words: words.slice(0, 80), settings };
      expect(await make(drawn)).toBeInstanceOf(Buffer);
    }
    expect(countdownSvg({ ...settings, until: "2030-01-01T00:00:00.000Z" }, "", NOW)).not.toContain(
      "<text",
    );
  });
  it("is a cut at twice the size, in the format of its source", async () => {
    const settings = { picture: photo.id, width: 50, height: 50, format: "jpg" as const };
    const cut = await sharp((await make({ kind: "crop", words: null, settings }))!).metadata();
    expect([cut.format, cut.width, cut.height]).toEqual(["jpeg", 100, 100]);
  });
  it("is a still with a play mark in its middle", async () => {
    const settings = { picture: photo.id, mark: "#ffffff", format: "png" as const };
    const still = (await make({ kind: "still", words: null, settings }))!;
    expect(await pixel(still, 5, 5)).not.toEqual([255, 255, 255]);
    expect(Math.min(...(await pixel(still, 198, 100)))).toBeGreaterThan(240);
  });
  it("is every sign there is, bare or on a plate", async () => {
    for (const { name } of SIGNS) {
      const settings = { sign: name, shape: "round" as const, ink: "#ffffff", ground: "#1f3d2e" };
      const sign = (await make({ kind: "icon", words: null, settings }))!;
      const { width } = await sharp(sign).metadata();
      expect(width).toBe(96);
      expect(await pixel(sign, 48, 3)).toEqual([31, 61, 46]);
    }
    const bare = (await make({
      kind: "icon",
      words: null,
      settings: { sign: "heart", shape: "bare", ink: "#ff0000", ground: "#00ff00" },
    }))!;
    expect((await sharp(bare).stats()).isOpaque).toBe(false);
  });
  it("is none where its source is gone", async () => {
    const settings = { picture: "f".repeat(64), width: 9, height: 9, format: "png" as const };
    expect(await make({ kind: "crop", words: null, settings })).toBeNull();
  });
});

describe("a recipe", () => {
  const spell = (value: unknown) => Buffer.from(JSON.stringify(value)).toString("base64url");
  const picture = "a".repeat(64);
  const until = "2026-12-24T17:00:00.000Z";
  const all: MadeRecipe[] = [
    { kind: "qr", words: "é", settings: { ink: "#000000", ground: "#ffffff" } },
    { kind: "barcode", words: "GARDEN10", settings: { form: "code128" } },
    {
      kind: "countdown",
      words: "",
      settings: { until, lang: "fr", ink: "#000000", ground: "#ffffff" },
    },
    { kind: "still", words: null, settings: { picture, mark: "#ffffff", format: "jpg" } },
    { kind: "crop", words: null, settings: { picture, width: 9, height: 8, format: "png" } },
    {
      kind: "icon",
      words: null,
      settings: { sign: SIGNS[0]!.name, shape: "bare", ink: "#000000", ground: "#ffffff" },
    },
  ];
  it.each(all.map((recipe) => [recipe.kind, recipe] as const))(
    "for a %s is read back from its address, and from one of before it was short",
    (_kind, recipe) => {
      const content = recipe.words ? [{ type: "text", text: recipe.words }] : [];
      const words = recipe.words === null ? null : { type: "line" as const, content };
      const email = { ...plainContext("en-GB"), publicAddress: "https://mail.example.org" };
      const { html } = madePicture({ ...recipe, words } as Recipe, email, () => "seal");
      const [, spelled] = /\/made\/([^/]+)\/seal\./.exec(html({ values: {}, token: "" }))!;
      expect(readRecipe(spelled!)).toEqual(recipe);
      expect(readRecipe(spell(recipe))).toEqual(recipe);
      expect(spelled!.length).toBeLessThan(spell(recipe).length * 0.85);
    },
  );
  it.each([
    ["nothing", ""],
    ["no JSON", "%%%"],
    ["a short one with a value too few", spell(["qr", "é", "#ffffff"])],
    ["a short one of another kind", spell(["constructor", "é", "#ffffff"])],
    ["another kind", spell({ kind: "page", words: "https://x.example", settings: {} })],
    [
      "a path",
      spell({
        kind: "crop",
        words: null,
        settings: { picture: "../../key", width: 9, height: 9, format: "png" },
      }),
    ],
    [
      "a huge side",
      spell({
        kind: "crop",
        words: null,
        settings: { picture: "a".repeat(64), width: 99_999, height: 9, format: "png" },
      }),
    ],
    [
      "too many words",
      spell({
        kind: "qr",
        words: "x".repeat(LIMITS.qrLength + 1),
        settings: { ink: "#000000", ground: "#ffffff" },
      }),
    ],
    [
      "markup in a colour",
      spell({
        kind: "icon",
        words: null,
        settings: { sign: "heart", shape: "round", ink: '"/><script>', ground: "#ffffff" },
      }),
    ],
  ])("that is %s is refused", (_what, text) => {
    expect(readRecipe(text)).toBeNull();
  });
});

it("what was made is kept, what could not be made is tried again", async () => {
  let made = 0;
  const work = async () => {
    made++;
    return made === 1 ? null : Buffer.from("x");
  };
  expect(await keptPicture("k", work)).toBeNull();
  expect(await keptPicture("k", work)).toEqual(Buffer.from("x"));
  await keptPicture("k", work);
  expect(made).toBe(2);
});
