import { mkdtemp, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { getPictures, savePicture } from "../store/pictures.ts";
import { openTestDatabase } from "../testing/database.ts";
import { convert } from "./convert.ts";
import { convertInChild } from "./in-child.ts";
import { openPictures, PictureError, type PictureFolder } from "./pictures.ts";
import { gatherTones } from "./tones.ts";

let folder: string;
let pictures: PictureFolder;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "septima-pictures-"));
  pictures = await openPictures(folder, convert);
});
afterAll(() => rm(folder, { recursive: true }));

const plain = (width: number, height: number, alpha = 1) =>
  sharp({
    create: { width, height, channels: 4, background: { r: 40, g: 100, b: 70, alpha } },
  });

it("makes pictures no wider than twice the widest email, without metadata", async () => {
  const data = await plain(3_000, 1_500)
    .withExif({ IFD0: { Copyright: "somebody" } })
    .jpeg()
    .toBuffer();
  const picture = await pictures.add(data, "wide.jpg");
  expect(picture).toMatchObject({ width: 1_400, height: 700, name: "wide.jpg" });
  expect(picture.file).toBe(`${picture.id}.jpg`);
  const stored = await readFile(join(folder, "pictures", picture.file));
  expect((await sharp(stored).metadata()).exif).toBeUndefined();
});

it("turns WebP into what every mail program shows", async () => {
  const see = await pictures.add(await plain(50, 50, 0.4).webp().toBuffer(), "see-through.webp");
  expect(see.file).toMatch(/\.png$/);
});

it("tells how light a picture is, in ten steps, what is seen through as white", async () => {
  const half = await sharp({
    create: { width: 200, height: 100, channels: 3, background: "#000000" },
  })
    .composite([
      {
        input: { create: { width: 50, height: 100, channels: 3, background: "#ffffff" } },
        left: 150,
        top: 0,
      },
    ])
    .png()
    .toBuffer();
  expect((await pictures.add(half, "half")).tones).toEqual([75, 0, 0, 0, 0, 0, 0, 0, 0, 25]);
  const clear = await pictures.add(await plain(50, 50, 0).png().toBuffer(), "clear");
  expect(clear.tones?.at(-1)).toBe(100);
  const grey = await sharp({ create: { width: 9, height: 9, channels: 3, background: "#808080" } })
    .greyscale()
    .jpeg()
    .toBuffer();
  expect((await pictures.add(grey, "grey")).tones?.[5]).toBe(100);
});

it("gives the same picture the same name", async () => {
  const data = await plain(20, 20).png().toBuffer();
  expect((await pictures.add(data, "a")).id).toBe((await pictures.add(data, "b")).id);
});

it("refuses what is no picture, with words for the person", async () => {
  const page = Buffer.from("<html><script>alert(1)</script></html>");
  await expect(pictures.add(page, "x.png")).rejects.toThrow(PictureError);
  await expect(pictures.add(Buffer.alloc(9_000_000), "big.png")).rejects.toMatchObject({
    message: "This image has 9 MB; at most 8 MB are taken as they are.",
    shrinkable: true,
  });
  await expect(pictures.add(Buffer.alloc(41_000_000), "x.png", true)).rejects.toMatchObject({
    shrinkable: false,
  });
});

/** Noise in every frame: nothing that packs well. */
const noisy = (width: number, frames: number) => {
  const raw = Buffer.alloc(width * width * frames * 3);
  let seed = 7;
  for (let i = 0; i < raw.length; i++) {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
    raw[i] = seed >> 16;
  }
  return sharp(raw, {
    raw: { width, height: width * frames, channels: 3, pageHeight: width },
  })
    .gif({ effort: 1 })
    .toBuffer();
};

it("makes an animation that is too large smaller, where that is asked for", async () => {
  const data = await noisy(400, 10);
  await expect(pictures.add(data, "noise.gif")).rejects.toMatchObject({ shrinkable: true });
  const small = await pictures.add(data, "noise.gif", true);
  expect(small.file).toMatch(/gif$/);
  expect(small.width).toBeLessThanOrEqual(400);
  expect(small.bytes).toBeLessThan(2_000_000);
});

it("ends a drawing that was made to take for ever, and goes on with others", async () => {
  const convert = convertInChild(new URL("./child.ts", import.meta.url), 3_000);
  const turbulence = Array.from(
    { length: 60 },
    (_, i) =>
      `<feTurbulence baseFrequency="0.9" numOctaves="300" seed="${i}" result="a${i}"/><feConvolveMatrix order="25" kernelMatrix="${"1 ".repeat(625)}"/>`,
  ).join("");
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="4000" height="4000"><filter id="f" x="0" y="0" width="100%" height="100%">${turbulence}</filter><rect width="4000" height="4000" filter="url(#f)"/></svg>`;
  const slow = convert(Buffer.from(svg), false);
  const other = convert(await plain(20, 20).png().toBuffer(), false);
  expect(await other).toMatchObject({ width: 20, ending: "png" });
  await expect(slow).rejects.toThrow("takes too long");
  await expect(convert(Buffer.from("no picture"), false)).rejects.toThrow("could not be read");
}, 60_000);

it("says how many pixels there may be in a file that is small itself", async () => {
  const side = LIMITS.pictureSide + 1;
  const bomb = Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}"/>`,
  );
  for (const shrink of [false, true]) {
    await expect(convert(bomb, shrink)).rejects.toThrow("at most 64 million pixels");
  }
}, 60_000);

it("goes on when the process that draws has drawn enough and gives its place to another", async () => {
  const convert = convertInChild(new URL("./child.ts", import.meta.url));
  for (let width = 1; width <= LIMITS.picturesPerProcess + 2; width += 1) {
    const made = await convert(await plain(width, 4).png().toBuffer(), false);
    expect(made).toMatchObject({ width, height: 4 });
  }
}, 60_000);

it("counts in time how light pictures are that were there before, and leaves out what cannot be read", async () => {
  const database = await openTestDatabase();
  try {
    const { sql } = database;
    const data = await plain(40, 40).png().toBuffer();
    const { tones, ...picture } = await pictures.add(data, "old");
    await savePicture(sql, picture as never, new Date("2026-01-01"));
    await savePicture(
      sql,
      { ...(picture as typeof picture & { bytes: number }), id: "gone", file: "gone.png" },
      new Date("2026-01-02"),
    );
    const at = join(folder, "pictures");
    expect([await gatherTones(sql, at), await gatherTones(sql, at)]).toEqual([true, true]);
    expect(await gatherTones(sql, at)).toBe(false);
    const found = await getPictures(sql, [picture.id, "gone"]);
    expect(new Map(found.map((one) => [one.id, one.tones]))).toEqual(
      new Map([
        [picture.id, tones],
        ["gone", []],
      ]),
    );
  } finally {
    await database.close();
  }
});
