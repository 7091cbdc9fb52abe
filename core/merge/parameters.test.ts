import fc from "fast-check";
import { expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import { toLiquid } from "../export/liquid/index.ts";
import type { LinkParameter } from "../kinds/parameters.ts";
import { compile } from "../render/index.ts";
import { DIRECT, emailOf, SURROUNDINGS } from "../testing/rendered.ts";
import { line, tag } from "../text/index.ts";
import { linkAddress, mergeText, prepare, refsOf } from "./index.ts";

let n = 0;
const id = () => `q${++n}`;
const SETTINGS: LinkParameter[] = [
  { name: "source", words: "news letter" },
  { name: "campaign", words: "" },
];
const READER = {
  values: { "campaign:name": "May & June", "contact:first": "Zoë?" },
  token: "t",
  bits: "",
};
const compiled = (
  address: Parameters<typeof line>,
  { own, settings = SETTINGS }: { own?: object; settings?: LinkParameter[] } = {},
) =>
  compile(
    emailOf(
      [
        createBlock("button", id, {
          label: line("Go"),
          to: { kind: "web", address: line(...address) } as never,
        }),
      ],
      own && { parameters: own },
    ),
    { ...SURROUNDINGS, linkParameters: settings },
  );
/** Where the button leads the reader, once it was counted. */
const leads = (address: Parameters<typeof line>, options = {}) =>
  linkAddress(compiled(address, options), 1, READER);
const ADDED = "source=news%20letter&campaign=May%20%26%20June";

it("adds parameters to the query, before what names a place, and keeps what an address says itself", () => {
  const site = "https://larkmoor.example";
  expect(leads([`${site}/visit`])).toBe(`${site}/visit?${ADDED}`);
  expect(leads([`${site}/visit#map`])).toBe(`${site}/visit?${ADDED}#map`);
  expect(leads([`${site}/visit?a=1`])).toBe(`${site}/visit?a=1&${ADDED}`);
  expect(leads([`${site}/visit?`])).toBe(`${site}/visit?${ADDED}`);
  expect(leads([`${site}/visit?a=1&`])).toBe(`${site}/visit?a=1&${ADDED}`);
  expect(leads([`${site}/visit?source=mine`])).toBe(
    `${site}/visit?source=mine&campaign=May%20%26%20June`,
  );
  expect(leads([`${site}/visit?resource=1`])).toBe(`${site}/visit?resource=1&${ADDED}`);
  expect(leads([`${site}/a?who=`, tag("contact:first", "you"), "#b?c"])).toBe(
    `${site}/a?who=Zo%C3%AB%3F&${ADDED}#b?c`,
  );
  // A reader's own address is theirs.
  expect(leads([tag("contact:site", "https://other.example/")])).toBe("https://other.example/");
});

it("says what the email says, and leaves out what that leaves out", () => {
  const site = "https://larkmoor.example/";
  expect(leads([site], { own: { source: "flyer" } })).toBe(
    `${site}?source=flyer&campaign=May%20%26%20June`,
  );
  expect(leads([site], { own: { source: "", campaign: "", other: "x" } })).toBe(site);
  expect(leads([site], { settings: [] })).toBe(site);
});

it("asks for the campaign's name, and is in the email, its plain text and its templates as it is where links lead", () => {
  const email = compiled(["https://larkmoor.example/visit"]);
  expect(refsOf(email)).toContain("campaign:name");
  const address = `https://larkmoor.example/visit?${ADDED}`;
  const prepared = prepare(email, DIRECT);
  expect(mergeText(prepared.html, READER)).toContain(address.replaceAll("&", "&amp;"));
  expect(mergeText(prepared.text, READER)).toContain(address);
  expect(toLiquid(email).html).toContain("source=news%20letter&amp;campaign={{");
});

it("never makes an address lead to another host, path or place, whatever is said", () => {
  fc.assert(
    fc.property(
      fc.webUrl({ withQueryParameters: true, withFragments: true }),
      fc.string({ maxLength: 40, unit: "binary" }),
      (address, words) => {
        const settings = [{ name: "source", words: words.trim() }];
        const before = new URL(address);
        const found = leads([address], { settings });
        if (found === null) return;
        const after = new URL(found);
        expect([after.origin, after.pathname, after.hash]).toEqual([
          before.origin,
          before.pathname,
          before.hash,
        ]);
        expect(after.search.startsWith(before.search.replace(/[?&]$/, ""))).toBe(true);
      },
    ),
  );
});
