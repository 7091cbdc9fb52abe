/** Barcodes as pictures. */
import bwipjs from "bwip-js/node";
import sharp from "sharp";
import { BARCODE_SIZE, type Barcode, barProblem } from "#core/blocks/barcodes.ts";

/** What stays white around the lines, px. */
const ROOM = 20;
/** Of the words under them, and of a millimetre of height, in the units that lines are drawn in. */
const WORDS = 12;
const MM = 72 / 25.4;

/** Words as lines with the words under them; where a till could not read them, an empty plate. */
export async function barcode(form: Barcode, words: string): Promise<Buffer> {
  const { width, height } = BARCODE_SIZE;
  const plate = sharp({ create: { width, height, channels: 3, background: "#ffffff" } });
  if (barProblem(form, words)) return plate.png().toBuffer();
  const drawn = (scale: number) =>
    bwipjs.toBuffer({
      bcid: form,
      text: words,
      includetext: true,
      scale,
      height: ((height - 2 * ROOM) / scale - WORDS) / MM,
    });
  // A line is a whole number of pixels wide, or a till reads another code.
  const { width: narrowest } = await sharp(await drawn(1)).metadata();
  const lines = await drawn(Math.max(1, Math.floor((width - 4 * ROOM) / narrowest)));
  return plate
    .composite([{ input: lines, gravity: "centre" }])
    .png()
    .toBuffer();
}
