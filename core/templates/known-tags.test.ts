import { expect, it } from "vitest";
import { checkDocument } from "../blocks/index.ts";
import { runChecks } from "../checks/index.ts";
import { SHIPPED } from "./index.ts";
import { withKnownTags } from "./known-tags.ts";

const around = {
  brand: { name: "Larkmoor", postalAddress: "Brook Lane 7" },
  publicAddress: "https://mail.larkmoor.example",
  pictures: new Map(),
};
/** Everybody has an address. */
const onlyEmail = (path: string) => path === "email";
const gone = (doc: ReturnType<(typeof SHIPPED)[number]["make"]>) =>
  runChecks(doc, around, new Map()).filter(({ check }) => check === "fallback");

it.each(SHIPPED.map((one) => [one.name, one] as const))(
  "“%s” asks for no field that is not there, and keeps what is",
  (_, { make }) => {
    const doc = make(null);
    const without = withKnownTags(doc, onlyEmail);
    checkDocument(without);
    expect(gone(without)).toEqual([]);
    expect(withKnownTags(doc, (path) => onlyEmail(path) || path === "first_name")).toEqual(doc);
  },
);

it("stand their default values in their places", () => {
  const letter = SHIPPED.find(({ key }) => key === "plain-letter")!.make(null);
  const said = (doc: typeof letter) => JSON.stringify(doc.root);
  expect(said(letter)).toContain('"contact:first_name"');
  expect(said(withKnownTags(letter, onlyEmail))).toContain('{"type":"text","text":"friend"}');
});
