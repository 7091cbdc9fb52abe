import fc from "fast-check";
import { expect, it } from "vitest";
import { makeCodes, patternProblem, patternSize, readCodes } from "./index.ts";

it("reads a column of codes: header, blanks, repeats and wrong lines are told apart", () => {
  const read = readCodes(
    '\ufeffVoucher code\r\nA-1\r\n\r\n"B ""2"""\r\nA-1\r\n C-3 ,\r\nbad\u0000code\r\n',
  );
  expect(read).toEqual({
    codes: ["A-1", 'B "2"', "C-3"],
    blanks: 1,
    repeated: 1,
    header: "Voucher code",
    wrong: [{ line: 7, text: "bad\u0000code" }],
  });
  // A code that happens to be called so further down is one.
  expect(readCodes("A\ncode").codes).toEqual(["A", "code"]);
  expect(readCodes("").codes).toEqual([]);
});

it("makes different codes by a pattern, that are read back as they are", () => {
  let seed = 7;
  const random = (below: number) => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((seed / 2_147_483_648) * below);
  };
  fc.assert(
    fc.property(
      fc.constantFrom("LARK-####@@", "@@@@@@", "x*-***-****"),
      fc.integer({ min: 1, max: 60 }),
      (pattern, count) => {
        const codes = makeCodes(pattern, count, random);
        expect(new Set(codes).size).toBe(count);
        expect(readCodes(codes.join("\n")).codes).toEqual(codes);
        for (const code of codes) expect(code).toHaveLength(pattern.length);
      },
    ),
  );
  expect(patternSize("A#@")).toBe(8 * 23);
  expect(patternProblem("PLAIN", 1)).toContain("# for a digit");
  expect(patternProblem("A###", 100)).toContain("too short");
  expect(patternProblem("LARK-####-@@", 2_000)).toBeNull();
});
