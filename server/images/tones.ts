/** How light pictures are, for the words that stand over them. */
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import sharp from "sharp";
import { luminanceOf } from "#core/theme/theme.ts";
import { TONES, toneOf } from "#core/theme/tones.ts";
import type { Sql } from "../db/database.ts";
import { keepTones, pictureWithoutTones } from "../store/pictures.ts";
import { likenessOf } from "./likeness.ts";

/** As many points a side tell how light a picture is. */
const SAMPLED = 64;

/** How light a picture is, its first frame standing for all; what can be seen through counts as white. */
export async function tonesOf(data: Buffer): Promise<number[]> {
  const points = await sharp(data)
    .flatten({ background: "#ffffff" })
    .resize(SAMPLED, SAMPLED, { fit: "fill", kernel: "nearest" })
    .toColourspace("srgb")
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { channels } = points.info;
  const counts = new Array<number>(TONES).fill(0);
  for (let at = 0; at < points.data.length; at += channels) {
    const [r, g, b] = [0, 1, 2].map((i) => points.data[at + Math.min(i, channels - 1)]!);
    counts[toneOf(luminanceOf(r!, g!, b!))]!++;
  }
  return counts.map((count) => Math.round((count * 100) / SAMPLED ** 2));
}

/** The likeness of what cannot be looked at. */
const NOTHING = "0".repeat(16);

/** Looks at one picture from before this was kept, so that in time all are known. Gives whether there was one. */
export async function gatherTones(sql: Sql, folder: string): Promise<boolean> {
  const picture = await pictureWithoutTones(sql);
  if (!picture) return false;
  const data = await readFile(join(folder, picture.file)).catch(() => null);
  // What is gone or damaged is not looked at again.
  const none: [number[], string] = [[], NOTHING];
  const [tones, likeness] = data
    ? await Promise.all([tonesOf(data), likenessOf(data)]).catch(() => none)
    : none;
  await keepTones(sql, picture.id, tones, likeness);
  return true;
}
