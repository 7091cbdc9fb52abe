import type { FieldKind } from "../kind.ts";

const PLAIN = /^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d{1,3})?$/i;

/**
 * The number in plain spelling, or null. Thousands may be set apart by the other mark, by blanks of any
 * width or by apostrophes, but only in threes: “1,5” is not fifteen.
 */
function plainNumber(text: string, decimal: "." | ","): string | null {
  const [whole = "", ...fraction] = text.split(decimal);
  if (fraction.length > 1) return null;
  const marks = decimal === "." ? "[,\\s'’]" : "[.\\s'’]";
  const grouped = new RegExp(`^[+-]?\\d{1,3}(${marks}\\d{3})+$`).test(whole);
  const plain = grouped ? whole.replace(new RegExp(marks, "g"), "") : whole;
  return fraction.length ? `${plain}.${fraction[0]}` : plain;
}

export const number: FieldKind<number> = {
  type: "number",
  label: "Number",
  column: "float8",
  key: null,
  check: (value) => (typeof value === "number" && Number.isFinite(value) ? value + 0 : null),
  parse(text, field, { decimal }) {
    let written = text.trim();
    if (written === "") return { value: null };
    // What most files hold: digits alone.
    if (/^-?\d{1,15}$/.test(written)) return { value: Number(written) };
    const unit = field.format?.unit;
    if (unit) written = written.replace(unit, "").trim();
    const plain = plainNumber(written, decimal);
    const value = Number(plain);
    return plain !== null && PLAIN.test(plain) && Number.isFinite(value)
      ? { value: value + 0 }
      : { problem: `“${text.slice(0, 40)}” is not a number` };
  },
  write: (value) => String(value),
  sample: (_field, n) => 12 + n,
};
