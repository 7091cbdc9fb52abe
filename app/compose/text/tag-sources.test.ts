import { describe, expect, it } from "vitest";
import type { DerivedTag } from "#core/derived/index.ts";
import { line } from "#core/text/index.ts";
import { FORMATS, formatIndex, tagSources } from "./tag-sources.ts";

describe("the formats of a tag", () => {
  it("are each found again, whatever their own settings are", () => {
    for (const [type, choices] of Object.entries(FORMATS)) {
      for (const [i, { format }] of choices.entries()) {
        expect(formatIndex(type as keyof typeof FORMATS, format)).toBe(i);
      }
    }
    expect(formatIndex("number", { type: "money", currency: "EUR" })).toBe(2);
    expect(formatIndex("number", { type: "plural", one: "tree", other: "trees" })).toBe(3);
    expect(formatIndex("text", { type: "trim", length: 12 })).toBe(5);
    expect(formatIndex("date", { type: "case", to: "upper" })).toBe(-1);
    expect(formatIndex("date", null)).toBe(-1);
  });
});

describe("what a tag can say", () => {
  const derived = (kind: DerivedTag["kind"]): DerivedTag => ({
    id: kind,
    name: kind,
    kind,
    cases: [],
    otherwise: { words: line() as never },
  });
  it("takes formats by what its value is", () => {
    const fields = [
      { id: "name", label: "Name", type: "text" as const },
      { id: "visits", label: "Visits", type: "number" as const },
      { id: "joined", label: "Joined", type: "date" as const },
    ];
    const roll = { id: "r", name: "Roll", emptyText: "", warnAt: 0, expires: null, left: 1 };
    const found = tagSources(fields, [derived("number"), derived("sender")], [roll]);
    const type = (ref: string) => found.find((one) => one.ref === ref)?.type;
    expect(type("contact:name")).toBe("text");
    expect(type("contact:visits")).toBe("number");
    expect(type("contact:joined")).toBe("date");
    expect(type("contact:email")).toBe("text");
    expect(type("derived:number")).toBe("number");
    expect(type("derived:sender")).toBeUndefined();
    expect(type("derived:sender.name")).toBe("text");
    expect(type("code:r")).toBe("fixed");
    expect(new Set(found.map(({ ref }) => ref)).size).toBe(found.length);
  });
});
