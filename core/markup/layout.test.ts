import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CELL, flowText, RULE, TO_END, textWidth, wrapText } from "./layout.ts";

const rows = (...lines: string[][]) => lines.map((cells) => cells.join(CELL));

describe("plain text", () => {
  it("has a rule under a heading as long as the heading, whatever the value in it", () => {
    expect(wrapText(`Dear Ada\n${RULE.double}\n\nWords`)).toBe("Dear Ada\n========\n\nWords");
    expect(wrapText(`Dear Maximiliane\n${RULE.single}`)).toBe("Dear Maximiliane\n----------------");
    expect(wrapText(`Dear Ada  \n${RULE.single}`)).toBe("Dear Ada\n--------");
    expect(wrapText(`春の花\n${RULE.double}`)).toBe("春の花\n======");
  });

  it("lines up the columns of a table", () => {
    const [head, ...rest] = rows(
      ["What", "When", `${TO_END}Price`],
      ["A walk", "Saturday", `${TO_END}12.00`],
      ["Évensong", "Fri", `${TO_END}0`],
    );
    expect(wrapText([head, RULE.single, ...rest].join("\n"))).toBe(
      [
        "What      When      Price",
        "--------  --------  -----",
        "A walk    Saturday  12.00",
        "Évensong  Fri           0",
      ].join("\n"),
    );
  });

  it("makes pairs of a table that is too wide for a line", () => {
    const long = "a path along the brook that is dry again since Tuesday at noon";
    const [head, row] = rows(["What", "Where"], ["Brook walk", long]);
    expect(wrapText([head, RULE.single, row].join("\n"))).toBe(`What: Brook walk\nWhere: ${long}`);
  });

  it("keeps the names of a table that is too wide and has nothing in it", () => {
    const names = ["A".repeat(40), "B".repeat(40)];
    const text = wrapText([...rows(names), RULE.single].join("\n"));
    for (const name of names) expect(text).toContain(name);
  });

  it("ends lines at 72 characters and sets the rest of a list's item under its words", () => {
    const words = "The path along the brook is dry again and eleven kinds are in flower";
    expect(wrapText(`- ${words} there now`).split("\n")).toEqual([
      "- The path along the brook is dry again and eleven kinds are in flower",
      "  there now",
    ]);
  });

  it("counts marks over letters as nothing and wide forms as two", () => {
    expect(textWidth("e\u0301te\u0301")).toBe(3);
    expect(textWidth("花")).toBe(2);
  });
});

const word = fc.stringMatching(/^[a-zé]{1,14}$/);
const address = fc
  .stringMatching(/^[a-z]{1,90}$/)
  .map((path) => `https://larkmoor.example/${path}`);
const paragraph = fc.array(fc.oneof({ weight: 9, arbitrary: word }, address), { maxLength: 40 });
const text = fc
  .array(paragraph, { maxLength: 5 })
  .map((all) => all.map((one) => one.join(" ")).join("\n\n"));

/** Words with and without blanks between them. */
const wide = fc
  .array(
    fc.oneof(fc.constantFrom("庭", "園", "。", "「", "」", "ー", "ア", "a", "garden "), word),
    {
      maxLength: 120,
    },
  )
  .map((all) => all.join("").replace(/ +/g, " ").trim());

describe("lines", () => {
  it("are never longer than 72 unless one word is, and lose no word", () => {
    fc.assert(
      fc.property(text, (source) => {
        for (const out of [wrapText(source), flowText(source).text]) {
          expect(out.split(/\s+/).filter(Boolean)).toEqual(source.split(/\s+/).filter(Boolean));
          for (const line of out.split("\n")) {
            if (line.trim().includes(" "))
              expect(textWidth(line.trimEnd())).toBeLessThanOrEqual(72);
          }
        }
      }),
    );
  });

  it("stand one under another where a table without names is too wide for a line", () => {
    const wide = rows(["x".repeat(40), "y".repeat(40)], ["a", "b"]);
    expect(wrapText(wide.join("\n"))).toBe(`${"x".repeat(40)}\n${"y".repeat(40)}\n\na\nb`);
  });
  it("that flow are put together again by a program that reads format=flowed (RFC 3676, 4.2)", () => {
    fc.assert(
      fc.property(fc.oneof(text, wide), (source) => {
        const { text: flowing, delsp } = flowText(source);
        const together = flowing
          .split("\n")
          .map((line) => (line.startsWith(" ") ? line.slice(1) : line))
          .reduce<string[]>((out, line) => {
            const last = out.at(-1);
            // With DelSp the space that makes a line flow on is not part of it.
            if (last?.endsWith(" "))
              out[out.length - 1] = (delsp ? last.slice(0, -1) : last) + line;
            else out.push(line);
            return out;
          }, [])
          .join("\n");
        expect(together).toBe(source);
      }),
    );
  });
  it("end within words that are written without blanks, and not before what closes them", () => {
    const source = `${"庭園は朝から晩まで開いています。".repeat(8)}`;
    for (const out of [wrapText(source), flowText(source).text]) {
      const lines = out.split("\n").map((line) => line.trimEnd());
      expect(lines.length).toBeGreaterThan(2);
      for (const line of lines) {
        expect(textWidth(line)).toBeLessThanOrEqual(72);
        expect(line).not.toMatch(/^[。、]/);
      }
      expect(lines.join("")).toBe(source);
    }
    expect(flowText(source).delsp).toBe(true);
    expect(flowText("The garden is open. ".repeat(9)).delsp).toBe(false);
  });

  it("that could be taken for something else get a space in front", () => {
    expect(flowText("From the garden\n> not quoted\n  set in").text).toBe(
      " From the garden\n > not quoted\n   set in",
    );
  });
});
