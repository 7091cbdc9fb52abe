import { mkdtemp, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { openPictures, PictureError, type PictureFolder } from "./pictures.ts";

let folder: string;
let pictures: PictureFolder;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "septima-pictures-"));
  pictures = await openPictures(folder);
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

it("gives the same picture the same name", async () => {
  const data = await plain(20, 20).png().toBuffer();
  expect((await pictures.add(data, "a")).id).toBe((await pictures.add(data, "b")).id);
});

it("refuses what is no picture, with words for the person", async () => {
  const page = Buffer.from("<html><script>alert(1)</script></html>");
  await expect(pictures.add(page, "x.png")).rejects.toThrow(PictureError);
  await expect(pictures.add(Buffer.alloc(9_000_000), "big.png")).rejects.toThrow("at most 8 MB");
});
