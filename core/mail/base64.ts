/** Base64 (RFC 4648) in lines of 76 characters (RFC 2045, 6.8). */
const ALPHABET = new TextEncoder().encode(
  "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/",
);
const [CR, LF, EQUALS] = [13, 10, 61];
/** Bytes of a line. */
const LINE = 57;

/** Characters that so many bytes take, with the ends of their lines. */
export const base64Length = (bytes: number): number =>
  Math.ceil(bytes / 3) * 4 + Math.ceil(bytes / LINE) * 2;

export function base64(bytes: Uint8Array): Uint8Array {
  const out = new Uint8Array(base64Length(bytes.length));
  let at = 0;
  for (let i = 0; i < bytes.length; i += 3) {
    const [a, b, c] = [bytes[i]!, bytes[i + 1], bytes[i + 2]];
    out[at++] = ALPHABET[a >> 2]!;
    out[at++] = ALPHABET[((a & 3) << 4) | ((b ?? 0) >> 4)]!;
    out[at++] = b === undefined ? EQUALS : ALPHABET[((b & 15) << 2) | ((c ?? 0) >> 6)]!;
    out[at++] = c === undefined ? EQUALS : ALPHABET[c & 63]!;
    if ((i + 3) % LINE === 0 || i + 3 >= bytes.length) {
      out[at++] = CR;
      out[at++] = LF;
    }
  }
  return out;
}
