import fc from "fast-check";
import { expect, it } from "vitest";
import { DERIVED_KINDS, type DerivedValue, derivedSchema } from "#core/derived/index.ts";
import { line, lineLiquid, type TextJson, tag } from "#core/text/index.ts";
import { emptyValue, valueFrom, writtenOf } from "./derived-kinds.ts";

it("values written by hand are the values they were, tags with fallbacks and letter case too", () => {
  const words = line(
    "Member since ",
    tag("contact:joined", "long ago", { type: "case", to: "upper" }),
    ", ",
    tag("derived:who.name"),
  );
  const values: DerivedValue[] = [
    { words: words as never },
    { name: line("x") as never, address: line(tag("contact:site.manager_mail")) as never },
    { op: "yearsSince", field: "contact:joined" },
    { op: "daysAfter", field: "contact:joined", days: -3 },
  ];
  for (const value of values) expect(valueFrom(writtenOf(value))).toEqual(value);
});

it("any words stay what they are, braces that are no tag among them", () => {
  fc.assert(
    fc.property(
      fc
        .array(fc.constantFrom("Dear ", "{", "}", "{{", "}}", "%", "é", "“", " a ", "|"), {
          maxLength: 8,
        })
        .map((parts) => parts.join("").trim()),
      (text) => {
        const { words } = valueFrom({ words: text }) as { words: TextJson };
        expect(lineLiquid(words)).toBe(text);
      },
    ),
  );
});

it("begins each kind with what can be written on; only names and addresses are missing", () => {
  for (const kind of DERIVED_KINDS) {
    const value = valueFrom(emptyValue(kind, ["contact:joined"]));
    const read = derivedSchema.safeParse({ kind, name: "x", cases: [], otherwise: value });
    expect(read.success).toBe(!["link", "sender"].includes(kind));
  }
});
