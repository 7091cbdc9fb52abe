import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { SIGNS } from "#core/blocks/signs.ts";
import { LIMITS } from "#core/limits.ts";
import { convert } from "./convert.ts";
import { keptPicture, type MadeRecipe, makePicture, readRecipe } from "./made.ts";
import { openPictures, type PictureFolder } from "./pictures.ts";

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
  makePicture(recipe, pictures.folder, async (id) => (id === photo.id ? photo.file : null));
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
  it("is read back from its address", () => {
    const recipe = { kind: "qr", words: "é", settings: { ink: "#000000", ground: "#ffffff" } };
    expect(readRecipe(spell(recipe))).toEqual(recipe);
  });
  it.each([
    ["nothing", ""],
    ["no JSON", "%%%"],
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
