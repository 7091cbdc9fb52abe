/** What an image looks like, in 64 bits: those of images that are alike differ in few. */
import phash from "sharp-phash";

/** Sixteen hex digits (a perceptual hash: signs of the lowest frequencies of its discrete cosine transform). */
export async function likenessOf(data: Buffer): Promise<string> {
  const bits = await phash(data);
  return BigInt(`0b${bits}`).toString(16).padStart(16, "0");
}
