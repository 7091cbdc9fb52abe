/** What the beginning of a file tells: its encoding, what stands between cells, whether it has a header. */
import { dateParts, MAIL_ADDRESS } from "../fields/index.ts";
import { DELIMITERS, type Shape } from "./options.ts";

/** Valid UTF-8; a character that the end of the sample cut in two may be missing its rest. */
function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(bytes, { stream: true });
    return true;
  } catch {
    return false;
  }
}

export function sniffEncoding(bytes: Uint8Array): Shape["encoding"] {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return "utf-16le";
  if (a === 0xfe && b === 0xff) return "utf-16be";
  // Latin letters in UTF-16 have a zero in every other byte.
  let [even, odd] = [0, 0];
  const seen = Math.min(bytes.length, 400);
  for (let i = 0; i < seen; i++) if (bytes[i] === 0) i % 2 ? odd++ : even++;
  if (odd > seen / 5) return "utf-16le";
  if (even > seen / 5) return "utf-16be";
  return isUtf8(bytes) ? "utf-8" : "windows-1252";
}

/** How often each delimiter stands outside quotes, line by line. */
function counts(text: string, delimiter: string): number[] {
  const lines: number[] = [];
  let [n, quoted] = [0, false];
  for (const letter of text) {
    if (letter === '"') quoted = !quoted;
    else if (letter === "\n" && !quoted) {
      lines.push(n);
      n = 0;
      if (lines.length === 40) break;
    } else if (letter === delimiter && !quoted) n++;
  }
  if (lines.length === 0) lines.push(n);
  return lines;
}

/** The delimiter that stands equally often in the most lines. */
export function sniffDelimiter(text: string): Shape["delimiter"] {
  let best: { delimiter: Shape["delimiter"]; score: number } = { delimiter: ",", score: 0 };
  for (const delimiter of DELIMITERS) {
    const lines = counts(text, delimiter);
    const usual = lines[0]!;
    if (usual === 0) continue;
    const same = lines.filter((n) => n === usual).length / lines.length;
    const score = same * 100 + Math.min(usual, 20);
    if (score > best.score) best = { delimiter, score };
  }
  return best.delimiter;
}

const isData = (cell: string) =>
  MAIL_ADDRESS.test(cell.trim()) || /^[\d\s.,+-]+$/.test(cell.trim()) || dateParts(cell) !== null;

/** A header names every column, differently, and holds nothing that looks like a value. */
export function sniffHeader(first: readonly string[]): boolean {
  const cells = first.map((cell) => cell.trim());
  const filled = cells.filter((cell) => cell !== "");
  return (
    filled.length > cells.length / 2 &&
    new Set(filled).size === filled.length &&
    !filled.some(isData)
  );
}
