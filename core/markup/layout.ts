/**
 * Laying out plain text. What needs to know how long a reader's values are (lines under headings, columns of
 * tables, where lines end) is marked while compiling and done after merging. The marks are control
 * characters, which no words and no value can bring in.
 */
import { LIMITS } from "../limits.ts";

/** Beginnings of a line that becomes a rule: as long as the line above, or as a table's columns are wide. */
export const RULE = { double: "\u001c=", single: "\u001c-" } as const;
/** Between the cells of a table's row, and before a cell that stands at the end of its column. */
export const CELL = "\u001f";
export const TO_END = "\u001d";

/** How wide text stands in a fixed-width font: most scripts take one place, East Asian wide forms and pictographs two. */
export function textWidth(text: string): number {
  if (/^[ -~]*$/.test(text)) return text.length;
  let width = 0;
  for (const char of text) {
    if (/\p{M}|\p{Cf}/u.test(char)) continue;
    width +=
      /[\u1100-\u115f\u2e80-\ua4cf\uac00-\ud7a3\uf900-\ufaff\ufe30-\ufe6f\uff00-\uff60\uffe0-\uffe6]|\p{Extended_Pictographic}/u.test(
        char,
      )
        ? 2
        : 1;
  }
  return width;
}

/** A line of the text, and whether it may be broken. */
interface Line {
  readonly text: string;
  readonly fixed: boolean;
}
const fixed = (text: string): Line => ({ text, fixed: true });

/**
 * Rows of a table, lined up; one too wide for a line becomes pairs of a column's name and its value, or where its
 * columns have no names, its cells one under another.
 */
function tableLines(rows: readonly string[]): Line[] {
  const ruled = rows[1] === RULE.single;
  const cells = rows
    .filter((row) => row !== RULE.single)
    .map((row) => row.split(CELL).map((cell) => cell.trim()));
  const bare = (cell: string) => cell.replace(TO_END, "").trim();
  const columns = Math.max(...cells.map((row) => row.length));
  const widths = Array.from({ length: columns }, (_, i) =>
    Math.max(1, ...cells.map((row) => textWidth(bare(row[i] ?? "")))),
  );
  const whole = widths.reduce((sum, width) => sum + width + 2, -2);
  const [names, ...rest] = cells;
  if (whole > LIMITS.textLine && ruled && rest.length > 0) {
    return rest.flatMap((row, r) => [
      ...(r > 0 ? [fixed("")] : []),
      ...row.map((cell, i) => ({ text: `${bare(names![i] ?? "")}: ${bare(cell)}`, fixed: false })),
    ]);
  }
  if (whole > LIMITS.textLine) {
    return cells.flatMap((row, r) => [
      ...(r > 0 ? [fixed("")] : []),
      ...row.map((cell) => ({ text: bare(cell), fixed: false })),
    ]);
  }
  const lined = cells.map((row) =>
    row
      .map((cell, i) => {
        const text = bare(cell);
        const room = " ".repeat(widths[i]! - textWidth(text));
        return cell.startsWith(TO_END) ? room + text : text + room;
      })
      .join("  ")
      .trimEnd(),
  );
  const rule = widths.map((width) => "-".repeat(width)).join("  ");
  if (ruled) lined.splice(1, 0, rule);
  return lined.map(fixed);
}

/** The lines of a merged text, its marks resolved. */
function* linesOf(text: string): Generator<Line> {
  const source = text.split("\n");
  for (let i = 0; i < source.length; i++) {
    const line = source[i]!;
    if (line.includes(CELL)) {
      const rows: string[] = [];
      while (i < source.length && (source[i]!.includes(CELL) || source[i] === RULE.single)) {
        rows.push(source[i++]!);
      }
      i--;
      yield* tableLines(rows);
    } else if (line === RULE.double || line === RULE.single) {
      const above = textWidth((source[i - 1] ?? "").trim());
      yield fixed(line[1]!.repeat(Math.max(1, Math.min(above, LIMITS.textLine))));
    } else yield { text: line.trimEnd(), fixed: /^(-{8,}|={8,})$/.test(line) };
  }
}

/** Letters of scripts that are written without blanks: a line may end between two of them. */
const WIDE =
  /[\u2e80-\u303f\u3040-\ua4cf\uac00-\ud7a3\uf900-\ufaff\ufe30-\ufe6f\uff00-\uff60\uffe0-\uffe6]/;
/** What begins no line, and what ends none (JIS X 4051): closing and opening marks, small letters. */
const NOT_FIRST =
  /^[、。，．・：；？！゛゜ヽヾゝゞ々ー）］｝〕〉》」』】ぁぃぅぇぉっゃゅょゎァィゥェォッャュョヮヵヶ]/;
const NOT_LAST = /[（［｛〔〈《「『【]$/;

/** What a line can end behind: a word, or a letter of a script without blanks; `blank` says whether one stands before it. */
interface Piece {
  readonly text: string;
  readonly blank: boolean;
}

function piecesOf(text: string): Piece[] {
  return text.split(" ").flatMap((word, i): Piece[] => {
    if (!WIDE.test(word)) return [{ text: word, blank: i > 0 }];
    const pieces: { text: string; blank: boolean }[] = [];
    for (const char of word) {
      const last = pieces.at(-1);
      const apart =
        !last ||
        ((WIDE.test(char) || WIDE.test(last.text.at(-1)!)) &&
          !NOT_FIRST.test(char) &&
          !NOT_LAST.test(last.text));
      if (apart) pieces.push({ text: char, blank: pieces.length === 0 && i > 0 });
      else last.text += char;
    }
    return pieces;
  });
}

/**
 * Breaks a line between words; a word that is longer than a line (an address) stands on one of its own. Lines after the
 * first begin with `hang`. `blank` says whether a blank stood where a line ends.
 */
function broken(text: string, width: number, hang = ""): Piece[] {
  if (textWidth(text) <= width) return [{ text, blank: true }];
  const lines: { text: string; blank: boolean }[] = [];
  const lead = /^ */.exec(text)![0];
  let line = lead;
  let empty = true;
  for (const piece of piecesOf(text.slice(lead.length))) {
    const gap = piece.blank ? " " : "";
    if (!empty && textWidth(line + gap + piece.text) > width) {
      lines.push({ text: line, blank: piece.blank });
      line = hang + piece.text;
    } else line = empty ? line + piece.text : line + gap + piece.text;
    empty = false;
  }
  return [...lines, { text: line, blank: true }];
}

/** A merged text with its lines ended at 72 characters (or another width), as people read it. */
export function wrapText(text: string, width: number = LIMITS.textLine): string {
  const out: string[] = [];
  for (const line of linesOf(text)) {
    if (line.fixed) out.push(line.text);
    else {
      // The rest of a list's item stands under its words.
      const sign = /^\s*(?:- |\d+\. |\[\d+\] )/.exec(line.text)?.[0] ?? "";
      out.push(...broken(line.text, width, " ".repeat(sign.length)).map((part) => part.text));
    }
  }
  return out.join("\n");
}

/** Lines of a launch stand in many of its messages: how they are broken is found once. */
const KEPT = 2_000;
const flowed = new Map<string, readonly Piece[]>();

function flowedLine(text: string): readonly Piece[] {
  let parts = flowed.get(text);
  if (!parts) {
    if (flowed.size >= KEPT) flowed.clear();
    // Two spaces at most follow.
    parts = broken(text, LIMITS.textLine - 2);
    flowed.set(text, parts);
  }
  return parts;
}

/**
 * A merged text as `format=flowed` (RFC 3676): lines that go on end in a space, and lines that begin with a
 * space, `>` or `From ` get a space in front (4.4, space-stuffing). Where a line ends within words that are written
 * without blanks, the space at its end is deleted again: `delsp` says that the header has to say so (4.3).
 */
export function flowText(text: string): { readonly text: string; readonly delsp: boolean } {
  const stuffed = (line: string) => (/^( |>|From )/.test(line) ? ` ${line}` : line);
  const lines = [...linesOf(text)].map((line) =>
    line.fixed ? [{ text: line.text, blank: true }] : flowedLine(line.text),
  );
  const delsp = lines.some((parts) => parts.some(({ blank }) => !blank));
  const out = lines.flatMap((parts) =>
    // A signature separator alone may end in a space without flowing on (4.3); ours never do.
    parts.map((part, i) => {
      const end = i === parts.length - 1 ? "" : delsp && part.blank ? "  " : " ";
      return stuffed(part.text) + end;
    }),
  );
  return { text: out.join("\n"), delsp };
}
