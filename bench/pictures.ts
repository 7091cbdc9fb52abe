/**
 * Images: `image_variants_vs_sharp` (all that is made of one upload, and looked at in it, over the same resizes by
 * themselves; at most 1.5). A photograph of 12 megapixels: the file for emails, and what is kept of the original.
 */
import sharp from "sharp";
import { LIMITS } from "#core/limits.ts";
import { convert } from "#server/images/convert.ts";
import { asJpeg } from "#server/images/written.ts";
import { least } from "./people-database.ts";
import type { Figure } from "./run.ts";

const ROUNDS = 5;
const WIDEST = LIMITS.emailWidth.max * 2;

/** Soft shapes with some grain, as photographs have them. */
async function photograph(): Promise<Buffer> {
  const grain = { type: "gaussian" as const, mean: 128, sigma: 60 };
  const create = {
    width: 80,
    height: 60,
    channels: 3 as const,
    background: "#446655",
    noise: grain,
  };
  return sharp({ create })
    .resize(4_000, 3_000, { kernel: "cubic" })
    .jpeg({ quality: 90 })
    .toBuffer();
}

async function bare(data: Buffer): Promise<void> {
  await asJpeg(sharp(data).resize({ width: WIDEST })).toBuffer();
  const side = { width: LIMITS.masterSide, height: LIMITS.masterSide, fit: "inside" as const };
  await sharp(data)
    .resize({ ...side, withoutEnlargement: true })
    .jpeg({ quality: 92 })
    .toBuffer();
}

export async function picturesGroup(figure: Figure): Promise<void> {
  const data = await photograph();
  const own = await least(ROUNDS, async () => void (await convert(data, false)));
  const resizes = await least(ROUNDS, () => bare(data));
  console.log(
    `${(data.length / 1e6).toFixed(1)} MB: all ${own.toFixed(0)} ms, resizes ${resizes.toFixed(0)} ms`,
  );
  figure("image_variants_vs_sharp", own / resizes);
}
