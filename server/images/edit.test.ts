/** Recipes over images: what comes out is looked at point by point. */
import sharp from "sharp";
import { beforeAll, describe, expect, it } from "vitest";
import { type PictureRecipe, PLAIN } from "#core/pictures/recipe.ts";
import { edited } from "./edit.ts";

/** Four quarters: red, green, blue, white. */
let quarters: Buffer;
let photo: Buffer;
beforeAll(async () => {
  const quarter = (colour: string, left: number, top: number) => ({
    input: { create: { width: 100, height: 60, channels: 3 as const, background: colour } },
    ...{ left, top },
  });
  const plain = {
    create: { width: 200, height: 120, channels: 3 as const, background: "#ffffff" },
  };
  quarters = await sharp(plain)
    .composite([quarter("#ff0000", 0, 0), quarter("#00ff00", 100, 0), quarter("#0000ff", 0, 60)])
    .png()
    .toBuffer();
  const noise = {
    width: 900,
    height: 600,
    channels: 3 as const,
    noise: { type: "gaussian" as const, mean: 128, sigma: 40 },
  };
  photo = await sharp({ create: { ...noise, background: "#808080" } })
    .jpeg({ quality: 95 })
    .toBuffer();
});

const done = (recipe: Partial<PictureRecipe>, file = quarters) =>
  edited(file, { ...PLAIN, ...recipe });

/** The colour at a place, in per cent of the image. */
async function at(image: Buffer, x: number, y: number): Promise<string> {
  const { data, info } = await sharp(image)
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const column = Math.min(info.width - 1, Math.floor((x / 100) * info.width));
  const row = Math.min(info.height - 1, Math.floor((y / 100) * info.height));
  const from = (row * info.width + column) * info.channels;
  const [r, g, b, a] = [...data.subarray(from, from + 4)];
  return a! < 128 ? "clear" : `#${[r, g, b].map((n) => n!.toString(16).padStart(2, "0")).join("")}`;
}
const corners = async (image: Buffer) =>
  Promise.all(
    [
      [10, 10],
      [90, 10],
      [10, 90],
      [90, 90],
    ].map(([x, y]) => at(image, x!, y!)),
  );
const [RED, GREEN, BLUE, WHITE] = ["#ff0000", "#00ff00", "#0000ff", "#ffffff"];

describe("turning and cutting", () => {
  it("leaves it as it is where nothing is asked", async () => {
    const { data, ending, width, height, alpha } = await done({});
    expect([ending, width, height, alpha]).toEqual(["png", 200, 120, false]);
    expect(await corners(data)).toEqual([RED, GREEN, BLUE, WHITE]);
  });
  it("turns clockwise, and changes sides", async () => {
    const turned = await done({ turn: 90 });
    expect([turned.width, turned.height]).toEqual([120, 200]);
    expect(await corners(turned.data)).toEqual([BLUE, RED, WHITE, GREEN]);
    expect(await corners((await done({ flop: true })).data)).toEqual([GREEN, RED, WHITE, BLUE]);
    expect(await corners((await done({ flip: true })).data)).toEqual([BLUE, WHITE, RED, GREEN]);
  });
  it("cuts out of what is turned", async () => {
    const area = { x: 0.5, y: 0, width: 0.5, height: 0.5 };
    const cut = await done({ turn: 90, area });
    expect([cut.width, cut.height]).toEqual([60, 100]);
    expect(new Set(await corners(cut.data))).toEqual(new Set([RED]));
  });
  it("makes it smaller", async () => {
    const small = await done({ width: 50 });
    expect([small.width, small.height]).toEqual([50, 30]);
  });
});

describe("light and colours", () => {
  const grey = () =>
    sharp({ create: { width: 40, height: 40, channels: 3, background: "#808080" } })
      .png()
      .toBuffer();
  const red = (hex: string) => Number.parseInt(hex.slice(1, 3), 16);
  const blue = (hex: string) => Number.parseInt(hex.slice(5, 7), 16);
  it("become lighter, warmer and more", async () => {
    const shown = async (part: Partial<PictureRecipe>) =>
      at((await done(part, await grey())).data, 50, 50);
    expect(red(await shown({ brightness: 40 }))).toBeGreaterThan(0x90);
    expect(red(await shown({ brightness: -40 }))).toBeLessThan(0x70);
    const warm = await shown({ warmth: 80 });
    expect(red(warm)).toBeGreaterThan(blue(warm) + 20);
    const cold = await shown({ warmth: -80 });
    expect(blue(cold)).toBeGreaterThan(red(cold) + 20);
    const tint = { colour: "#ff0000", strength: 50 };
    expect(red(await shown({ tint }))).toBeGreaterThan(0xb0);
  });
  it("lose all colour, and gain contrast about the middle", async () => {
    const bleak = await at((await done({ saturation: -100 })).data, 10, 10);
    expect(Math.abs(red(bleak) - blue(bleak))).toBeLessThan(4);
    const dark = await sharp({
      create: { width: 9, height: 9, channels: 3, background: "#606060" },
    })
      .png()
      .toBuffer();
    expect(red(await at((await done({ contrast: 60 }, dark)).data, 50, 50))).toBeLessThan(0x60);
  });
});

describe("what lies over it", () => {
  it("cuts corners so that what is behind is seen through them", async () => {
    const { data, ending, alpha } = await done({ corner: 50 }, photo);
    expect([ending, alpha]).toEqual(["png", true]);
    expect(await at(data, 0, 0)).toBe("clear");
    expect(await at(data, 50, 50)).not.toBe("clear");
  });
  it("frames it", async () => {
    const { data } = await done({ frame: { colour: "#123456", width: 10 } });
    expect(await at(data, 1, 50)).toBe("#123456");
    expect(await at(data, 20, 20)).toBe(RED);
  });
  it("writes words in fonts that ship, on a ground, on the image even where they are long", async () => {
    const words = (text: string) => [
      {
        text,
        font: "serif" as const,
        size: 20,
        ink: "#000000",
        ground: "#ffff00",
        across: 50,
        down: 75,
      },
    ];
    const one = await done({ words: words("Seeds") });
    expect(await at(one.data, 50, 66)).toBe("#ffff00");
    const long = await done({
      words: words("An invitation to everybody who has ever grown anything".slice(0, 80)),
    });
    expect([long.width, long.height]).toEqual([200, 120]);
    expect(long.data.equals(one.data)).toBe(false);
    const hostile = await done({ words: words('</svg><script>"&\u0007') });
    expect([hostile.width, hostile.height]).toEqual([200, 120]);
  });
});

describe("the file", () => {
  it("stays a photograph, and is lighter where that is asked for", async () => {
    const whole = await done({}, photo);
    const light = await done({ light: true }, photo);
    expect([whole.ending, light.ending]).toEqual(["jpg", "jpg"]);
    expect(light.data.length).toBeLessThan(whole.data.length * 0.8);
  });
  it("says nothing of where and how it was taken", async () => {
    const told = await sharp(photo)
      .withExif({ IFD3: { GPSLatitude: "51/1 0/1 0/1" } })
      .jpeg()
      .toBuffer();
    const { exif, icc } = await sharp((await done({ warmth: 10 }, told)).data).metadata();
    expect([exif, icc]).toEqual([undefined, undefined]);
  });
});
