import fc from "fast-check";
import { expect, it } from "vitest";
import { rowReader } from "../import/index.ts";
import { csvCell } from "./csv.ts";

const FORMULAS = [
  "=1+1",
  "+1+1",
  "-1+1",
  "@SUM(A1)",
  "\t=1",
  "\r=1",
  "\n=1",
  " =1",
  "\u00a0=1",
  "\u200b=cmd()",
  "\ufeff=1",
  "\u2060\u200d=1",
  "\uff1d1+1",
  "\uff0bA1",
  "\uff0d1+A",
  "\uff20SUM",
  "\u22121+A",
  "'=1",
];

it("leaves no cell a formula, in any width and behind anything that is passed over", () => {
  for (const text of FORMULAS) expect(csvCell(text)).toBe(`'${text}`);
  for (const text of ["", "Ann", "a=b", "-12.5", "+44", "it's", "'tis", "1 = 1"]) {
    expect(csvCell(text)).toBe(text);
  }
});

it("is read back by our own import as it was", () => {
  const reader = rowReader(
    {
      shape: { format: "csv", encoding: "utf-8", delimiter: ",", header: true },
      columns: [{ to: "email" }, { to: "field", field: "note" }],
      dates: null,
      decimal: ".",
      empty: "keep",
      known: "change",
      refused: "without",
      cells: "refuse",
      choices: "refuse",
      list: null,
    },
    new Map([["note", { id: "note", label: "Note", type: "text" }]]),
    () => null,
    2026,
  );
  const back = (text: string) => {
    const row = reader.read(["a@example.org", csvCell(text)]);
    return "values" in row ? row.values[0] : row;
  };
  for (const text of FORMULAS) expect(back(text)).toEqual(back(text.replace(/^/, "")));
  const sign = fc.constantFrom("=", "+", "-", "@", "\uff1d", "'");
  fc.assert(
    fc.property(sign, fc.stringMatching(/^[a-z(][a-z0-9 ()]{0,20}[a-z)]$/), (first, rest) => {
      expect(back(first + rest)).toBe(first + rest);
    }),
  );
});
