import { expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import { apply } from "../document/index.ts";
import { compile } from "../render/index.ts";
import { emailOf, ids, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line, type TextJson } from "../text/index.ts";
import { leadingElsewhere, linksOf } from "./links.ts";

const web = (address: string) => ({ kind: "web" as const, address: line(address) });
const OLD = web("https://larkmoor.example/old");
const linked = (words: string, to: object): TextJson => ({
  type: "paragraph",
  content: [
    { type: "text", text: "See " },
    { type: "text", text: words, marks: [{ type: "link", attrs: { to: to as never } }] },
    {
      type: "text",
      text: " bold",
      marks: [{ type: "strong" }, { type: "link", attrs: { to: to as never } }],
    },
  ],
});
const email = () => {
  const id = ids("l");
  return emailOf([
    createBlock("text", id, {
      words: doc(linked("the map", OLD), linked("the shop", web("https://larkmoor.example/shop"))),
    }),
    createBlock("button", id, { label: line("Come"), to: OLD }),
    createBlock("button", id, { label: line("Nowhere") }),
    createBlock("html", id, { source: `<a href="https://larkmoor.example/old">by hand</a>` }),
    createBlock("footer", id),
  ]);
};

it("lists where links lead, each with its words and its places", () => {
  const made = email();
  const rows = linksOf(made, compile(made, SURROUNDINGS));
  const old = rows.find(({ to }) => to.kind === "web" && JSON.stringify(to).includes("/old"))!;
  expect(old.places.map(({ words, byHand }) => [words, byHand])).toEqual([
    ["the map bold", false],
    ["Come", false],
    ["by hand", true],
  ]);
  expect(rows.map(({ to }) => to.kind)).toContain("unsubscribe");
  expect(JSON.stringify(rows)).not.toContain("Nowhere");
});

it("makes all links to a place lead elsewhere, with their marks, and takes none but those", () => {
  const made = email();
  const next = web("https://larkmoor.example/new");
  const edits = leadingElsewhere(made, OLD, next);
  const changed = edits.reduce(apply, made);
  const rows = linksOf(changed, compile(changed, SURROUNDINGS));
  const leads = (part: string) =>
    rows.find(({ to }) => JSON.stringify(to).includes(part))?.places.map(({ words }) => words);
  expect(leads("/new")).toEqual(["the map bold", "Come"]);
  expect(leads("/old")).toEqual(["by hand"]);
  expect(leads("/shop")).toEqual(["the shop bold"]);
  expect(JSON.stringify(changed)).toContain('"strong"');
  expect(leadingElsewhere(changed, web("https://larkmoor.example/none"), next)).toEqual([]);
});
