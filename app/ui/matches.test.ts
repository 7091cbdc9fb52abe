import fc from "fast-check";
import { expect, it } from "vitest";
import { matching } from "./matches.ts";

const FIELDS = [
  { label: "Last opened", other: "activity:lastOpened" },
  { label: "opened an email", other: "activity:opened email" },
  { label: "Mail address", other: "field:email email e-mail" },
  { label: "Reopened", other: "" },
  { label: "Café visits", other: "" },
];
const find = (typed: string) => matching(FIELDS, typed, (one) => one).map(({ label }) => label);

it("finds what begins with what is typed first, then words within, then middles", () => {
  expect(find("opened")).toEqual(["opened an email", "Last opened", "Reopened"]);
  expect(find("email")).toEqual(["opened an email", "Mail address"]);
  expect(find("CAFE")).toEqual(["Café visits"]);
  expect(find("visits café")).toEqual(["Café visits"]);
  expect(find("opened zebra")).toEqual([]);
  expect(find("  ")).toHaveLength(5);
});

it("finds every entry by any part of its label, whatever is typed", () => {
  const label = fc.string({ minLength: 1, maxLength: 20, unit: "grapheme" });
  fc.assert(
    fc.property(
      fc.array(label, { maxLength: 12 }),
      label,
      fc.nat(20),
      fc.nat(20),
      (rest, own, from, to) => {
        const typed = own.slice(Math.min(from, to), Math.max(from, to));
        const found = matching([...rest, own], typed, (one) => ({ label: one }));
        if (/^[a-z0-9 ]*$/i.test(own)) expect(found).toContain(own);
      },
    ),
  );
});
