import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { newEmail } from "../blocks/layout.ts";
import { type DocNode, find } from "../document/index.ts";
import { mergeText, prepare } from "../merge/index.ts";
import { compile, handTextOf } from "../render/index.ts";
import { RULES } from "../testing/arbitrary-conditions.ts";
import { DIRECT, PICTURE, picture } from "../testing/rendered.ts";
import { doc, EVERYBODY_KEY, line, paragraph, ruleKey, tag } from "../text/index.ts";
import { runChecks } from "./index.ts";

let n = 0;
const id = () => `c${++n}`;
const fields = new Map([["first", { id: "first", label: "First name", type: "text" as const }]]);
const brand = { name: "Larkmoor", postalAddress: "Brook Lane 7" };
const envelope = {
  ...newEmail().envelope,
  subject: line("News"),
  fromAddress: "news@example.org",
  fromName: line("Larkmoor"),
  preview: line("What the month brings to the garden"),
};

/** Words enough, so that no email is images alone. */
const WORDS = "A walk along the brook on every day of the month, in all weathers, for everybody.";

function found(blocks: DocNode[], change: { envelope?: object; address?: string } = {}) {
  const all = [...blocks, createBlock("text", () => "filler", { words: doc(WORDS) })];
  const document = createDocument([createBand(id, [createColumn(id, all)])], {
    envelope: { ...envelope, ...change.envelope },
  });
  const around = {
    brand: { ...brand, postalAddress: change.address ?? brand.postalAddress },
    publicAddress: "",
    pictures: new Map([[PICTURE, picture(PICTURE)]]),
  };
  return { document, findings: runChecks(document, around, fields) };
}
const findings = (...given: Parameters<typeof found>) =>
  found(...given).findings.map((f) => `${f.severity} ${f.check} ${f.at}`);
const footer = () => createBlock("footer", () => "foot");

it("find nothing in an email that has all it needs", () => {
  const text = createBlock("text", id, { words: doc(paragraph(tag("contact:first", "friend"))) });
  expect(findings([text, footer()])).toEqual([]);
});

it("stop what lacks a way out, an address, a subject or a sender", () => {
  expect(findings([])).toEqual(["stop unsubscribe email", "stop postal-address email"]);
  expect(findings([footer()], { address: " " })).toEqual(["stop postal-address settings"]);
  const bare = { subject: line(), fromAddress: "" };
  expect(findings([footer()], { envelope: bare })).toEqual([
    "stop subject envelope",
    "stop sender envelope",
  ]);
  const hidden = createBlock("footer", () => "foot", { unsubscribe: false, address: false });
  expect(findings([hidden])).toEqual(["stop unsubscribe email", "stop postal-address foot"]);
});

it("show empty links, pictures without alt text and tags without fallback", () => {
  const linked = createBlock("text", () => "text", {
    words: doc({
      type: "paragraph",
      content: [
        { type: "text", text: "here", marks: [{ type: "link", attrs: { to: { kind: "none" } } }] },
        { type: "tag", attrs: { ref: "contact:first", fallback: null, format: null } },
      ],
    }),
  });
  const blocks = [
    linked,
    createBlock("button", () => "button"),
    createBlock("image", () => "image", { picture: PICTURE }),
    createBlock("image", id, { picture: PICTURE, decorative: true }),
    footer(),
  ];
  expect(findings(blocks, { envelope: { subject: line(tag("contact:first")) } })).toEqual([
    "look empty-link text",
    "look empty-link button",
    "look alt-text image",
    "look fallback envelope",
    "look fallback text",
  ]);
});

it("takes what stands in a card with a link for linked, as readers get it", () => {
  const inside = () => [
    createBlock("button", () => "button"),
    createBlock("image", () => "image", { picture: PICTURE }),
  ];
  const to = { kind: "web", address: line("https://larkmoor.example/") };
  expect(findings([createBlock("card", id, {}, inside()), footer()])).toEqual([
    "look empty-link button",
    "look alt-text image",
  ]);
  // A picture that is linked says nothing about where it leads without its alt text.
  expect(findings([createBlock("card", id, { to }, inside()), footer()])).toEqual([
    "stop alt-text image",
  ]);
});

it("names the value a finding is about, by a path that leads to one", () => {
  const gone = tag("contact:gone");
  const blocks = [
    createBlock("button", id, { to: { kind: "web", address: line(gone) } }),
    createBlock("image", id, { picture: "0".repeat(64) }),
    createBlock("text", id, {
      words: doc(paragraph(gone)),
      plain: { source: "{{ oops", of: "" },
    }),
    createBlock("footer", id, { address: false }),
  ];
  const { document, findings } = found(blocks, { envelope: { subject: line() } });
  const named = findings.filter((one) => one.in);
  expect(new Set(named.map(({ check }) => check))).toEqual(
    new Set(["subject", "fallback", "no-picture", "alt-text", "postal-address", "hand-text"]),
  );
  for (const { at, in: path } of named) {
    const node = at === "envelope" ? document.root : find(document, at)!.node;
    const value = path!.reduce<unknown>((inside, key) => (inside as never)?.[key], node.props);
    expect(value, `${at} ${path}`).toBeDefined();
  }
});

it("stop a tag whose field is gone; an empty fallback is a choice", () => {
  const words = (t: ReturnType<typeof tag>) =>
    createBlock("text", () => "text", { words: doc(paragraph(t)) });
  expect(findings([words(tag("contact:gone", "x")), footer()])).toEqual(["stop fallback text"]);
  expect(findings([words(tag("contact:first", "")), footer()])).toEqual([]);
});

it("show plain text written by hand that may be stale, or holds braces that are no tag", () => {
  const block = (words: string) => createBlock("text", () => "text", { words: doc(words) });
  const around = { brand, publicAddress: "", pictures: new Map() };
  const only = (node: DocNode) => createDocument([createBand(id, [createColumn(id, [node])])]);
  const { source, of } = handTextOf(only(block("As it was.")), "text", around);
  expect(source).toBe("As it was.");
  const by = (words: string, text: string) => {
    const node = block(words);
    return findings([{ ...node, props: { ...node.props, plain: { source: text, of } } }, footer()]);
  };
  expect(by("As it was.", "My own words.")).toEqual([]);
  expect(by("As it is now.", "My own words.")).toEqual(["look hand-text text"]);
  expect(by("As it was.", "My {{ own }} words.")).toEqual(["look hand-text text"]);
});

it("plain text begins by hand with the tags and addresses of its block", () => {
  const around = { brand, publicAddress: "", pictures: new Map() };
  const document = createDocument([createBand(id, [createColumn(id, [footer()])])]);
  expect(handTextOf(document, "foot", around).source).toContain(
    "Read this on the web: {{ campaign.web_version }}\nChoose what you get: {{ campaign.preferences }}\nUnsubscribe: {{ campaign.unsubscribe }}",
  );
  const words = doc(paragraph("Dear ", tag("contact:first", "friend")));
  const text = createDocument([
    createBand(id, [createColumn(id, [createBlock("text", () => "text", { words })])]),
  ]);
  expect(handTextOf(text, "text", around).source).toBe(
    'Dear {{ contact.first | default: "friend" }}',
  );
  expect(handTextOf(text, "nobody", around).source).toBe("");
});

const [rule, more] = RULES as unknown as [never, never];

it("plain text begins by hand with what each of its rules shows, and reads so to each reader", () => {
  const around = { brand, publicAddress: "", pictures: new Map() };
  const who = (seenBy: unknown) => [{ type: "who", attrs: { seenBy, chain: "c" } }];
  const words = doc({
    type: "paragraph",
    content: [
      { type: "text", text: "Dear " },
      { type: "text", text: "patron", marks: who(rule) },
      { type: "text", text: "friend", marks: who(more) },
      { type: "text", text: "reader", marks: who(null) },
    ],
  } as never);
  const block = createBlock("text", () => "text", { words });
  const only = (node: DocNode) => createDocument([createBand(id, [createColumn(id, [node])])]);
  const { begins, of } = handTextOf(only(block), "text", around);
  expect(begins).toEqual({
    source: "Dear reader",
    of,
    alternatives: [
      { seenBy: rule, source: "Dear patron" },
      { seenBy: more, source: "Dear friend" },
    ],
  });
  const hand = { ...block, props: { ...block.props, plain: begins as never } };
  // As the words above are; the HTML still depends on them.
  const email = compile(only(hand), around);
  const read = (...holding: unknown[]) => {
    const keys = holding.map((one) => ruleKey(one as never));
    const bits = email.conditions
      .map((key) => (key === EVERYBODY_KEY || keys.includes(key) ? "1" : "0"))
      .join("");
    return mergeText(prepare(email, DIRECT).text, { values: {}, token: "", bits }).trim();
  };
  expect([read(), read(rule), read(more), read(rule, more)]).toEqual([
    "Dear reader",
    "Dear patron",
    "Dear friend",
    "Dear patron",
  ]);
  // A gone field is found in words for some as well.
  const alternatives = [{ seenBy: rule, source: "{{ contact.gone }}" }];
  const gone = { ...block, props: { ...block.props, plain: { source: "", of, alternatives } } };
  expect(findings([gone, footer()])).toContain("stop fallback text");
});

it("stop an image without a picture, also in a grid, and one whose picture is gone", () => {
  const grid = createBlock("pictureGrid", () => "grid");
  const found = findings([
    createBlock("image", () => "empty"),
    createBlock("image", () => "gone", { picture: "c".repeat(64), alt: line("x") }),
    grid,
    footer(),
  ]);
  expect(found.slice(0, 2)).toEqual([
    "stop no-picture empty",
    `stop no-picture ${grid.children[0]!.id}`,
  ]);
  expect(found).toContain("stop no-picture gone");
  expect(found).toHaveLength(2 + grid.children.length);
});

it("ask the items of a block as they ask blocks", () => {
  const row = createBlock("linksRow", () => "row");
  const found = findings([row, footer()]);
  expect(found).toEqual(row.children.map(({ id: item }) => `look empty-link ${item}`));
  // Those that are switched off are nobody's.
  const masthead = createBlock("masthead", id, { name: line("Larkmoor") });
  expect(findings([masthead, footer()])).toEqual([]);
});

it("stop words that a block came with until they are written over", () => {
  const heading = createBlock("heading", () => "head");
  expect(findings([heading, footer()])).toEqual(["stop placeholder head"]);
  const words = { type: "phrase", content: [{ type: "text", text: "My own" }] };
  const own = { ...heading, props: { ...heading.props, words: words as never } };
  expect(findings([own, footer()])).toEqual([]);
  // Back by undo, it is an example again; a copy is one too.
  expect(findings([{ ...own, props: heading.props }, footer()])).toEqual(["stop placeholder head"]);
  expect(findings([createBlock("heading", id, { words }), footer()])).toEqual([]);
});

it("want a way out and an address for everybody, at every width", () => {
  const only = (props: object) => createBlock("footer", () => "foot", props);
  const stops = ["stop unsubscribe foot", "stop postal-address foot"];
  expect(findings([only({ seenBy: rule })])).toEqual(stops);
  expect(findings([only({ show: "narrow" })])).toEqual(stops);
  expect(findings([only({ show: "wide" })])).toEqual(stops);
  const wide = createBlock("footer", () => "wide", { show: "wide" });
  expect(findings([wide, only({ show: "narrow" })])).toEqual([]);
  // Alternatives of which one is for everybody else leave nobody out; without that one they do.
  const first = createBlock("footer", () => "first", { seenBy: rule, chain: "c" });
  expect(findings([first, only({ chain: "c" })])).toEqual([]);
  expect(findings([first, only({ seenBy: more, chain: "c" })])).toHaveLength(2);
});

it("find what is gone wherever it stands: translations, addresses, HTML and plain text by hand", () => {
  const gone = tag("contact:gone", "x");
  const text = createBlock("text", () => "text", {
    words: doc("Hello"),
    tr: { fr: { words: { of: "x", value: doc(paragraph(gone)) } } },
  } as never);
  const button = createBlock("button", () => "button", {
    to: { kind: "web", address: line("https://example.org/", gone) },
  });
  const html = createBlock("html", () => "html", { source: "<p>{{ contact.gone }}</p>" });
  const { of } = handTextOf(createDocument([createBand(id, [createColumn(id, [text])])]), "text", {
    brand,
    publicAddress: "",
    pictures: new Map(),
  });
  const hand = createBlock("text", () => "hand", {
    words: doc("Hello"),
    plain: { source: "Dear {{ contact.gone }}", of },
  });
  const found = findings([text, button, html, hand, footer()]);
  expect(found).toEqual(["text", "button", "html", "hand"].map((at) => `stop fallback ${at}`));
  // Words that only look like a name are words.
  const words = createBlock("text", id, { words: doc("about derived:latin and contact:gone") });
  expect(findings([words, footer()])).toEqual([]);
});

it("a linked image is large enough for a thumb, and one that is no link may be small", () => {
  const to = { kind: "web" as const, address: line("https://larkmoor.example/") };
  const image = (share: number, linked: boolean) =>
    createBlock("image", id, {
      picture: PICTURE,
      alt: line("A leaf"),
      share,
      ...(linked && { to }),
    });
  const said = (block: DocNode) =>
    found([block]).findings.filter(({ check }) => check === "tap-target");
  expect(said(image(7, true)).map(({ detail }) => detail)).toEqual([
    "It is 38 × 19 px; 24 px each way is the least for a thumb.",
  ]);
  expect(said(image(9, true))).toEqual([]);
  expect(said(image(7, false))).toEqual([]);
});
