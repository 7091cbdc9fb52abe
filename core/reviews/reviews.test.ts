import { expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import type { DerivedTag } from "../derived/index.ts";
import { apply } from "../document/index.ts";
import { anItem, showing } from "../testing/items.ts";
import { emailOf, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line, paragraph, tag } from "../text/index.ts";
import {
  contentOf,
  type Decision,
  hasChanged,
  liveChanges,
  liveStateOf,
  type ReviewState,
  standingOf,
} from "./index.ts";

let n = 0;
const id = () => `r${++n}`;
const greeting = (words: string): DerivedTag => ({
  id: "greeting",
  name: "Greeting",
  kind: "text",
  cases: [],
  otherwise: { words: line(words) },
});
const around = (change: object = {}) => ({ ...SURROUNDINGS, ...change });
const text = createBlock("text", id, {
  words: doc(paragraph("Dear ", tag("derived:greeting", ""), tag("contact:first", null), "!")),
});
const email = emailOf([text]);
const derived = new Map([["greeting", greeting("friend")]]);

it("has the same content as long as nobody changes the email, its brand, or what its tags say", () => {
  const content = contentOf(email, around({ derived }));
  expect(contentOf(structuredClone(email), around({ derived: new Map(derived) }))).toBe(content);
  const other = apply(email, {
    type: "set",
    node: text.id,
    path: ["words"],
    value: doc("Dear all") as never,
  });
  expect(contentOf(other, around({ derived }))).not.toBe(content);
  const said = new Map([["greeting", greeting("you")]]);
  expect(contentOf(email, around({ derived: said }))).not.toBe(content);
  const brand = { name: "Another", postalAddress: "" };
  expect(contentOf(email, around({ derived, brand }))).not.toBe(content);
  const linkParameters = [{ name: "source", words: "letter" }];
  expect(contentOf(email, around({ derived, linkParameters }))).not.toBe(content);
  const fallbacks = new Map([["contact:first", "reader"]]);
  expect(contentOf(email, around({ derived, fallbacks }))).not.toBe(content);
  // What it does not name, and what comes and goes by itself, is nothing to it.
  const more = new Map([...derived, ["other", { ...greeting("x"), id: "other" }]]);
  expect(contentOf(email, around({ derived: more }))).toBe(content);
  expect(contentOf(email, around({ derived, live: showing(email, [anItem()]) }))).toBe(content);
});

const state = (change: Partial<ReviewState> = {}): ReviewState => ({
  seq: 3,
  content: "c",
  audience: "a",
  live: [],
  ...change,
});
const decision = (approves: boolean): Decision => ({
  ...state(),
  approves,
  note: "",
  at: new Date(0),
});

it("holds for the very content and the very readers that were seen", () => {
  expect(standingOf(null, state())).toBe("waiting");
  expect(standingOf(decision(true), state({ seq: 9 }))).toBe("approved");
  expect(standingOf(decision(true), state({ content: "d" }))).toBe("stale");
  expect(standingOf(decision(true), state({ audience: "b" }))).toBe("stale");
  expect(standingOf(decision(true), state({ live: [{ ref: "r", title: "t", mark: "m" }] }))).toBe(
    "approved",
  );
  expect(standingOf(decision(false), state({ content: "d" }))).toBe("asked");
  expect(hasChanged(decision(false), state())).toBe(false);
  expect(hasChanged(decision(false), state({ content: "d" }))).toBe(true);
});

it("tells the items that came, went and changed, each once", () => {
  const items = new Map([["k", anItem()]]);
  const shelf = emailOf([createBlock("shelf", id)]);
  const before = liveStateOf({ items, live: showing(shelf, [anItem(), anItem({ key: "k2" })]) });
  expect(before.map(({ title }) => title)).toEqual(["Broad bean", "Broad bean"]);
  expect(liveChanges(before, before)).toEqual([]);
  const now = liveStateOf({
    live: showing(shelf, [
      anItem({ values: { price: 3 } }),
      anItem({ key: "k3", title: "Sweet pea" }),
    ]),
  });
  expect(liveChanges(before, now)).toEqual([
    "“Broad bean” has changed",
    "“Sweet pea” has come",
    "“Broad bean” is gone",
  ]);
});
