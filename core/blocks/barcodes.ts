/** Barcodes: what can be written as lines, and what a till would make of it. */
import { type Line, plainLine } from "../text/index.ts";

/** Code 128 (ISO/IEC 15417) holds letters and figures; EAN-13 (ISO/IEC 15420) the number of a product. */
export const BARCODES = ["code128", "ean13"] as const;
export type Barcode = (typeof BARCODES)[number];

/** Of the picture, px: twice what it shows at. */
export const BARCODE_SIZE = { width: 560, height: 168 } as const;
/** With more, a line is narrower than a pixel on a telephone, and no till reads it. */
const LONGEST = 20;

/** The last figure of an EAN-13, by the twelve before it: they count once and three times in turn. */
export function checkDigit(figures: string): number {
  const sum = [...figures].reduce(
    (all, figure, i) => all + Number(figure) * (i % 2 === 0 ? 1 : 3),
    0,
  );
  return (10 - (sum % 10)) % 10;
}

/** Why words cannot be written as lines; null where they can. */
export function barProblem(form: Barcode, words: string): string | null {
  if (form === "code128") {
    if (!/^[ -~]+$/.test(words))
      return "Code 128 holds letters without accents, figures and signs.";
    return words.length > LONGEST ? `It holds at most ${LONGEST} characters here.` : null;
  }
  if (!/^\d{12,13}$/.test(words)) return "EAN-13 is 12 figures, and a 13th that checks them.";
  const right = checkDigit(words.slice(0, 12));
  return words.length === 13 && Number(words[12]) !== right
    ? `Its last figure would be ${right}.`
    : null;
}

/** The same of a code in an email: one that is different for each reader is not known yet. */
export function barcodeProblem(form: Barcode | "none", code: Line): string | null {
  const own = (code.content ?? []).some(
    ({ type, marks = [] }) => type === "tag" || marks.some((mark) => mark.type === "who"),
  );
  return form === "none" || own
    ? null
    : barProblem(
        form,
        plainLine(code, () => ""),
      );
}
