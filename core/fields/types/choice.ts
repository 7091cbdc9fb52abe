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
  sample: ({ label, options = [] }, n) => options[n % options.length] ?? label,
};

/** A choice with a mark in it that stands between choices is written in quotes, its own doubled. */
const quoted = (choice: string) =>
  /[;|"]/.test(choice) ? `"${choice.replaceAll('"', '""')}"` : choice;

/** Several choices of one cell, apart: semicolons or bars stand between them, unless they are in quotes. */
export function splitChoices(text: string): string[] {
  const found: string[] = [];
  let one = "";
  let quotes = false;
  for (let i = 0; i < text.length; i++) {
    const letter = text[i]!;
    if (quotes && letter === '"' && text[i + 1] === '"') {
      one += letter;
      i++;
    } else if (letter === '"' && (quotes || one.trim() === "")) {
      quotes = !quotes;
      if (quotes) one = "";
    } else if (!quotes && (letter === ";" || letter === "|")) {
      found.push(one.trim());
      one = "";
    } else one += letter;
  }
  found.push(one.trim());
  return found.filter((choice) => choice !== "");
}

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
    const written = splitChoices(text);
    const known = written.map((one) => optionOf(one, field.options));
    const lost = known.indexOf(null);
    if (lost >= 0) return { problem: `“${written[lost]!.slice(0, 40)}” is none of the choices` };
    const value = inOrder(known as string[], field.options);
    return { value: value.length ? value : null };
  },
  write: (value) => value.map(quoted).join("; "),
  sample: ({ label, options = [] }, n) => options[n % options.length] ?? label,
};
