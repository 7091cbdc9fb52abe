/** Reads a font file (WOFF2, W3C Recommendation): what it is called and what it measures. It comes from anywhere. */
import * as fontkit from "fontkit";
import { LIMITS } from "#core/limits.ts";
import { type FontMeasure, fontMeasureSchema, LETTERS } from "#core/theme/fallbacks.ts";
import { FAMILY } from "#core/theme/theme.ts";
import { ArrivalError } from "../arriving/error.ts";

export interface ReadFont {
  readonly family: string;
  readonly measure: FontMeasure;
}

const NO_FONT = "This is no font that can be read: a WOFF2 file is.";
/** A small l or a large I this wide, by the height of an x, stands on serifs. */
const SERIFS = 0.36;

const signature = (bytes: Uint8Array) => Buffer.from(bytes.subarray(0, 4)).toString("latin1");

/** The name as CSS can have it, without the size or weight some makers put behind it; letters of other scripts go. */
function familyOf(name: string): string {
  const plain = name
    .replace(/[^A-Za-z0-9 -]+/g, " ")
    .replace(/\s+/g, " ")
    .trim();
  const bare = plain.replace(/( \d+pt)+$/i, "");
  if (!FAMILY.test(bare)) throw new ArrivalError("This font has no name in Latin letters.");
  return bare;
}

/** How large its tables say they are, bytes: as much is set aside for them before the first of them is unpacked. */
function unpackedSize(font: object): number {
  const { directory } = font as {
    directory: { tables: Record<string, { length: number; transformLength?: number }> };
  };
  return Object.values(directory.tables).reduce(
    (sum, { length, transformLength }) => sum + Math.max(length, transformLength ?? 0),
    0,
  );
}

/** Throws an ArrivalError with words for the person where it is none, or may not be used so. */
export function measureFont(bytes: Uint8Array): ReadFont {
  if (signature(bytes) !== "wOF2") throw new ArrivalError(NO_FONT);
  let read: { name: string; forbids: boolean; measure: unknown };
  try {
    const opened = fontkit.create(Buffer.from(bytes));
    if (!("glyphForCodePoint" in opened)) throw new ArrivalError(NO_FONT);
    const font = opened;
    if (unpackedSize(font) > LIMITS.fontUnpacked) throw new ArrivalError(NO_FONT);
    const em = font.unitsPerEm;
    const glyph = (letter: string) => font.glyphForCodePoint(letter.codePointAt(0)!);
    if (!font.hasGlyphForCodePoint(0x78) || !font.hasGlyphForCodePoint(0x65)) {
      throw new ArrivalError("This font has no Latin letters.");
    }
    const wide = (letter: string) => {
      const { minX, maxX } = glyph(letter).bbox;
      return maxX - minX;
    };
    const x = glyph("x").bbox.maxY;
    const letters = Object.entries(LETTERS);
    const all = letters.reduce((sum, [, often]) => sum + often, 0);
    const width =
      letters.reduce((sum, [letter, often]) => sum + glyph(letter).advanceWidth * often, 0) / all;
    const mono = glyph("i").advanceWidth === glyph("m").advanceWidth;
    const serif = Math.min(wide("l"), wide("I")) > x * SERIFS;
    read = {
      name: font.familyName,
      forbids: font["OS/2"]?.fsType?.noEmbedding === true,
      measure: {
        width: width / em,
        xHeight: x / em,
        shape: mono ? "mono" : serif ? "serif" : "sans",
      },
    };
  } catch (error) {
    if (error instanceof ArrivalError) throw error;
    // Whatever a broken or made-up file does to its reader, it is no font.
    throw new ArrivalError(NO_FONT);
  }
  if (read.forbids) throw new ArrivalError("Its makers do not allow this font to be embedded.");
  const measure = fontMeasureSchema.safeParse(read.measure);
  if (!measure.success) throw new ArrivalError(NO_FONT);
  return { family: familyOf(read.name), measure: measure.data };
}
