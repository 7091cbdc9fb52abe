/**
 * Quoted-printable (RFC 2045, 6.7), written such that the relaxed canonicalization of DKIM (RFC 6376, 3.4.4) changes
 * nothing of it: no blank ends a line, no two stand beside each other. Lines that a mail program or a server might take
 * amiss (`From `, a dot alone) begin with a coded letter.
 */
const [LF, CR, SPACE, DOT, EQUALS, F] = [10, 13, 32, 46, 61, 70];
/** Characters of a line: 76 with the `=` of a soft break, and room for a blank at its end that is coded. */
const LINE = 73;

const HEX = new TextEncoder().encode("0123456789ABCDEF");

const isFrom = (bytes: Uint8Array, at: number) =>
  bytes[at] === F &&
  bytes[at + 1] === 114 &&
  bytes[at + 2] === 111 &&
  bytes[at + 3] === 109 &&
  bytes[at + 4] === SPACE;

/** Bytes that coding takes at most. */
const most = (length: number): number => length * 3 + Math.ceil((length * 3) / (LINE - 2)) * 3 + 6;

/**
 * Text (UTF-8; lines end with LF or CRLF) as quoted-printable. `open`: more follows in the same line, so it ends with a
 * soft break where it does not end a line, and what follows begins at the head of one.
 */
export function quoted(bytes: Uint8Array, open = false): Uint8Array {
  const out = new Uint8Array(most(bytes.length));
  let at = 0;
  let column = 0;
  const code = (byte: number) => {
    out[at++] = EQUALS;
    out[at++] = HEX[byte >> 4]!;
    out[at++] = HEX[byte & 15]!;
  };
  const lineBreak = () => {
    out[at++] = CR;
    out[at++] = LF;
    column = 0;
  };
  /** A blank at the end of a line is coded. */
  const endLine = () => {
    if (column > 0 && out[at - 1] === SPACE) {
      at--;
      code(SPACE);
    }
  };
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]!;
    if (byte === LF || (byte === CR && bytes[i + 1] === LF)) {
      if (byte === CR) i++;
      endLine();
      lineBreak();
      continue;
    }
    const first = column === 0;
    const plain =
      byte === SPACE
        ? first || out[at - 1] !== SPACE
        : byte > SPACE &&
          byte < 127 &&
          byte !== EQUALS &&
          !(first && (byte === DOT || isFrom(bytes, i)));
    const width = plain ? 1 : 3;
    if (column + width > LINE) {
      out[at++] = EQUALS;
      lineBreak();
      // What it would be at the head of a line.
      i--;
      continue;
    }
    if (plain) out[at++] = byte;
    else code(byte);
    column += width;
  }
  if (!open) endLine();
  else if (column > 0) {
    out[at++] = EQUALS;
    lineBreak();
  }
  return out.subarray(0, at);
}

const encoder = new TextEncoder();
const decoder = new TextDecoder("latin1");
/** What goes as it is: no blank beside another, nothing that is taken amiss at the head of a line. */
const AS_IT_IS = /^(?!\.|From )(?:[!-<>-~]| (?! )){1,73}$/;

/** Words with what follows them in the same line, coded; nothing stays nothing. */
export function quotedWords(words: string): string {
  if (words === "") return "";
  return AS_IT_IS.test(words)
    ? `${words}=\r\n`
    : decoder.decode(quoted(encoder.encode(words), true));
}
