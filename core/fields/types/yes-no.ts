import { fold } from "../fold.ts";
import type { FieldKind } from "../kind.ts";

const YES = new Set(["yes", "y", "true", "1", "x", "oui", "vrai"]);
const NO = new Set(["no", "n", "false", "0", "non", "faux"]);

export const yesNo: FieldKind<boolean> = {
  type: "yesNo",
  label: "Yes or no",
  column: "boolean",
  key: null,
  check: (value) => (typeof value === "boolean" ? value : null),
  parse(text) {
    const written = fold(text.trim());
    if (written === "") return { value: null };
    if (YES.has(written)) return { value: true };
    if (NO.has(written)) return { value: false };
    return { problem: `“${text.slice(0, 40)}” is neither yes nor no` };
  },
  write: (value) => (value ? "yes" : "no"),
  sample: (_field, n) => (n % 2 === 0 ? "yes" : "no"),
};
