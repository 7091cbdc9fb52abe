/** Rows as PostgreSQL's COPY takes them (text format: tabs between values, `\N` for none). */
import type { Field } from "#core/fields/index.ts";
import { kindOf } from "#core/fields/index.ts";
import type { Json } from "#core/json.ts";

const SPECIAL = /[\\\t\n\r]/;
const EACH = /[\\\t\n\r]/g;
const NAMES: Record<string, string> = { "\\": "\\\\", "\t": "\\t", "\n": "\\n", "\r": "\\r" };
const escaped = (text: string) =>
  SPECIAL.test(text) ? text.replace(EACH, (letter) => NAMES[letter]!) : text;

const arrayText = (list: readonly unknown[]) =>
  `{${list
    .map((one) =>
      typeof one === "number" ? String(one) : `"${String(one).replace(/[\\"]/g, "\\$&")}"`,
    )
    .join(",")}}`;

function valueText(value: unknown, column: string): string {
  if (column === "jsonb") return escaped(JSON.stringify(value));
  if (Array.isArray(value)) return escaped(arrayText(value));
  if (typeof value === "boolean") return value ? "t" : "f";
  return typeof value === "string" ? escaped(value) : String(value);
}

/** How many texts are kept for a column. */
const MADE = 256;

/** Makes the function that writes a row: line, what it is known by, and the columns of these fields. */
export function rowWriter(fields: readonly Field[]) {
  const kinds = fields.map(kindOf);
  /** Choices repeat: their texts are made once. */
  const made = kinds.map(() => new Map<unknown, string>());
  return (line: number, known: readonly string[], values: readonly Json[]): string => {
    let row = String(line);
    for (let i = 0; i < known.length; i++) row += `\t${escaped(known[i]!)}`;
    for (let i = 0; i < kinds.length; i++) {
      const { column, key: compared } = kinds[i]!;
      const value = values[i];
      if (value === null || value === undefined) {
        row += compared ? "\t\\N\t\\N" : "\t\\N";
        continue;
      }
      if (typeof value === "number") {
        row += `\t${value}`;
        continue;
      }
      let text = typeof value === "object" ? undefined : made[i]!.get(value);
      if (text === undefined) {
        text = `\t${valueText(value, column)}`;
        if (compared) text += `\t${valueText(compared.of(value), compared.column)}`;
        if (made[i]!.size < MADE) made[i]!.set(value, text);
      }
      row += text;
    }
    return `${row}\n`;
  };
}
