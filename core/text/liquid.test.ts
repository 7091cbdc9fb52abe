import fc from "fast-check";
import { expect, it } from "vitest";
import { parseLiquid, tagLiquid } from "./liquid.ts";
import { tag } from "./schema.ts";

it("reads values with a default and letter case as the same tags as everywhere", () => {
  const { pieces, problems } = parseLiquid(
    `Dear {{ contact.first_name | default: "friend" }}, {{contact["odd-id"] | upcase}}!`,
  );
  expect(pieces).toEqual([
    "Dear ",
    tag("contact:first_name", "friend"),
    ", ",
    tag("contact:odd-id", null, { type: "case", to: "upper" }),
    "!",
  ]);
  expect(problems).toEqual([]);
});

it("leaves what it does not know as it is written, and tells", () => {
  const source = "{{ contact.a | truncate: 5 }} {% if x %} {{ shop.x }} {{ }}";
  const { pieces, problems } = parseLiquid(source);
  expect(pieces).toEqual([source]);
  expect(problems).toEqual([
    "{{ contact.a | truncate: 5 }}",
    "{% if x %}",
    "{{ shop.x }}",
    "{{ }}",
  ]);
});

it("reads what it writes", () => {
  const tags = fc.record({
    ref: fc.constantFrom("contact:first_name", "contact:odd-id", "brand:name"),
    fallback: fc.option(
      fc.string({ maxLength: 20 }).filter((text) => !/["'{}%]/.test(text)),
      { nil: null },
    ),
    format: fc.constantFrom(
      null,
      { type: "case", to: "upper" } as const,
      { type: "case", to: "lower" } as const,
    ),
  });
  fc.assert(
    fc.property(tags, (one) => {
      expect(parseLiquid(tagLiquid(one)).pieces).toEqual([one]);
    }),
  );
});

it("writes a fallback with quotation marks in the other kind, and both kinds without losing one", () => {
  const written = (fallback: string) => tagLiquid({ ref: "brand:name", fallback, format: null });
  expect(written("it's")).toBe(`{{ brand.name | default: "it's" }}`);
  expect(written('say "so"')).toBe(`{{ brand.name | default: 'say "so"' }}`);
  expect(written(`say "it's so"`)).toBe(`{{ brand.name | default: 'say "it’s so"' }}`);
});

it("is read in one pass, however it tries to keep the reader busy", () => {
  for (const source of [
    `{{${" ".repeat(200_000)}`,
    "{{".repeat(100_000),
    "{%".repeat(100_000),
    `${"{{ ".repeat(50_000)}${"%} ".repeat(50_000)}`,
    `{{ contact.x ${"| escape ".repeat(20_000)}`,
  ]) {
    const { pieces, problems } = parseLiquid(source);
    expect([pieces, problems]).toEqual([[source], []]);
  }
  expect(parseLiquid("{ {{-contact.x-}} {{ {% x %}").pieces).toEqual([
    "{ ",
    tag("contact:x"),
    " {{ {% x %}",
  ]);
});
