import { expect, it } from "vitest";
import type { WhoSees } from "../../rules/who-sees.ts";
import type { ReaderChoice } from "../wire.ts";
import { createReaderKeeper } from "./reader.ts";

const choice = (id: number, values: Record<string, string>): ReaderChoice => ({
  id,
  name: `Reader ${id}`,
  about: "",
  values,
});
const known = (contact: number, conditions: string[], bits: string): WhoSees => ({
  contact,
  conditions,
  bits,
  today: "2026-03-02",
  groups: [],
  problems: [],
  words: [],
});
const fixed = { "email:campaign": "Spring" };
const ada = choice(1, { "contact:name": "Ada", "contact:town": "Larkmoor" });
const bob = choice(2, { "contact:name": "Bob" });

it("stays with the reader before until it is known what the next one sees", () => {
  const readerOf = createReaderKeeper(fixed);
  const first = readerOf(ada, ["a"], known(1, ["a"], "1"));
  expect(first).toMatchObject({ values: { "contact:name": "Ada" }, bits: "1" });
  expect(readerOf(bob, ["a"], known(1, ["a"], "1"))).toBe(first);
  // What the one before had and this one has not is not this one's.
  expect(readerOf(bob, ["a"], known(2, ["a"], "0"))).toEqual({
    values: { ...fixed, "contact:name": "Bob" },
    bits: "0",
    token: "",
  });
});

it("shows what was just made until it is known for whom it is", () => {
  const readerOf = createReaderKeeper(fixed);
  const before = known(1, ["a"], "0");
  readerOf(ada, ["a"], before);
  expect(readerOf(ada, ["a", "new"], before).bits).toBe("01");
  expect(readerOf(ada, ["new", "a"], known(1, ["new", "a"], "00")).bits).toBe("00");
});

it("gives the same reader as the same object, and for nobody what is the same for all", () => {
  const readerOf = createReaderKeeper(fixed);
  const one = readerOf(ada, ["a"], known(1, ["a"], "1"));
  expect(readerOf(ada, ["a"], known(1, ["a"], "1"))).toBe(one);
  expect(readerOf(null, [], null)).toEqual({ values: fixed, bits: "", token: "" });
});
