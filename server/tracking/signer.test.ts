import fc from "fast-check";
import { expect, it } from "vitest";
import { createSigner, type Token } from "./signer.ts";

const signer = createSigner("one key that is long enough for this");
const tokens: fc.Arbitrary<Token> = fc.oneof(
  fc.record({
    kind: fc.constant("launch" as const),
    launch: fc.stringMatching(/^[A-Za-z0-9]{12}$/),
  }),
  fc.record({ kind: fc.constant("message" as const), recipient: fc.integer({ min: 1 }) }),
  fc.record({
    kind: fc.constant("sample" as const),
    campaign: fc.stringMatching(/^[A-Za-z0-9]{12}$/),
    contact: fc.nat(),
  }),
);

it("reads back what it signed, and nothing that was changed", () => {
  fc.assert(
    fc.property(tokens, fc.nat(), fc.constantFrom(..."Abc019-_"), (token, at, letter) => {
      const text = signer.sign(token);
      expect(signer.read(text)).toEqual(token);
      const i = at % text.length;
      const changed = text.slice(0, i) + letter + text.slice(i + 1);
      if (changed !== text) expect(signer.read(changed)).toBeNull();
    }),
  );
});

it("takes nothing signed with another key, cut short or empty", () => {
  const text = signer.sign({ kind: "message", recipient: 7 });
  expect(createSigner("another key that is long enough too").read(text)).toBeNull();
  expect(signer.read(text.slice(0, -1))).toBeNull();
  expect(signer.read("")).toBeNull();
  expect(signer.derive("one")).not.toBe(signer.derive("another"));
});

it("seals the recipes of made pictures with a key of its own", () => {
  const seal = signer.seal("recipe");
  expect(seal).toMatch(/^[A-Za-z0-9_-]{20}$/);
  expect(signer.sealed("recipe", seal)).toBe(true);
  expect(signer.sealed("recipf", seal)).toBe(false);
  expect(signer.sealed("recipe", "-")).toBe(false);
  expect(createSigner("another key that is long enough too").sealed("recipe", seal)).toBe(false);
  expect(signer.sign({ kind: "message", recipient: 1 })).not.toContain(seal);
});
