import { fold } from "../fold.ts";
import type { FieldKind } from "../kind.ts";

/** Options by their folded text and as they are; made once for a list of them. */
const known = new WeakMap<readonly string[], Map<string, string>>();
function byText(options: readonly string[]): Map<string, string> {
  let found = known.get(options);
  if (!found) {
    found = new Map();
    for (const option of [...options].reverse()) found.set(fold(option), option);
    for (const option of options) found.set(option, option);
    known.set(options, found);
  }
  return found;
}

const optionOf = (text: string, options: readonly string[] = []): string | null =>
  byText(options).get(text) ?? byText(options).get(fold(text.trim())) ?? null;

export const choice: FieldKind<string> = {
  type: "choice",
  label: "One of several",
  column: "text",
  key: { column: "text", of: fold },
  check: (value, field) => (typeof value === "string" ? optionOf(value, field.options) : null),
  parse(text, field) {
    if (text.trim() === "") return { value: null };
    const value = optionOf(text, field.options);
    return value ? { value } : { problem: `“${text.slice(0, 40)}” is none of the choices` };
  },
  write: (value) => value,
};

/** What stands between several choices in one cell. */
const BETWEEN = /\s*[;|]\s*/;

/** In the order of the options, each once. */
const inOrder = (chosen: readonly string[], options: readonly string[] = []) =>
  options.filter((option) => chosen.includes(option));

export const choices: FieldKind<string[]> = {
  type: "choices",
  label: "Any of several",
  column: "text[]",
  key: { column: "text[]", of: (value) => value.map(fold) },
  check(value, field) {
    if (!Array.isArray(value)) return null;
    const known = value.flatMap((one) =>
      typeof one === "string" ? (optionOf(one, field.options) ?? []) : [],
    );
    return known.length ? inOrder(known, field.options) : null;
  },
  parse(text, field) {
    const written = text.split(BETWEEN).filter((one) => one.trim() !== "");
    const known = written.map((one) => optionOf(one, field.options));
    const lost = known.indexOf(null);
    if (lost >= 0) return { problem: `“${written[lost]!.slice(0, 40)}” is none of the choices` };
    const value = inOrder(known as string[], field.options);
    return { value: value.length ? value : null };
  },
  write: (value) => value.join("; "),
};
