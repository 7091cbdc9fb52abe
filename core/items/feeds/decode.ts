/** Bytes of a feed or a page as text. */

const BOMS: readonly (readonly [string, readonly number[]])[] = [
  ["utf-8", [0xef, 0xbb, 0xbf]],
  ["utf-16le", [0xff, 0xfe]],
  ["utf-16be", [0xfe, 0xff]],
];
/** Where a text may say its own encoding: in the XML declaration, or in a `meta` of a page. */
const HEAD_BYTES = 1_024;

function decoder(label: string | undefined): TextDecoder | null {
  try {
    return label ? new TextDecoder(label) : null;
  } catch {
    // No encoding of that name: whoever wrote it meant something else.
    return null;
  }
}

/**
 * The text of bytes that came over HTTP. Its encoding is told by a byte order mark, by `Content-Type`, by the XML
 * declaration or a page's `meta`, in this order; else it is UTF-8 (WHATWG Encoding, XML 1.0 appendix F). What cannot
 * be read becomes U+FFFD; characters that XML does not know (1.0, 2.2) are left out.
 */
export function decodeText(bytes: Uint8Array, contentType = ""): string {
  const bom = BOMS.find(([, mark]) => mark.every((byte, i) => bytes[i] === byte))?.[0];
  const head = new TextDecoder("latin1").decode(bytes.subarray(0, HEAD_BYTES));
  const declared =
    /^\s*<\?xml[^>]*?\sencoding\s*=\s*["']([\w.:-]+)["']/i.exec(head)?.[1] ??
    /<meta[^>]*?charset\s*=\s*["']?([\w.:-]+)/i.exec(head)?.[1];
  const sent = /charset\s*=\s*"?([\w.:-]+)/i.exec(contentType)?.[1];
  const text = (decoder(bom) ?? decoder(sent) ?? decoder(declared) ?? new TextDecoder()).decode(
    bytes,
  );
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what goes
  return text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufeff\ufffe\uffff]/g, "");
}
