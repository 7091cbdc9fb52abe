import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { newEmail } from "../blocks/layout.ts";
import type { DocNode } from "../document/index.ts";
import { handTextOf } from "../render/index.ts";
import { doc, line, paragraph, tag } from "../text/index.ts";
import { runChecks } from "./index.ts";

let n = 0;
const id = () => `c${++n}`;
const fields = new Map([["first", { id: "first", label: "First name", type: "text" as const }]]);
const brand = { name: "Larkmoor", postalAddress: "Brook Lane 7" };
const envelope = {
  ...newEmail().envelope,
  subject: line("News"),
  fromAddress: "news@example.org",
};

function findings(blocks: DocNode[], change: { envelope?: object; address?: string } = {}) {
  const document = createDocument([createBand(id, [createColumn(id, blocks)])], {
    envelope: { ...envelope, ...change.envelope },
  });
  const around = {
    brand: { ...brand, postalAddress: change.address ?? brand.postalAddress },
    publicAddress: "",
    pictures: new Map(),
  };
  return runChecks(document, around, fields).map((f) => `${f.severity} ${f.check} ${f.at}`);
}
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
    createBlock("image", () => "image"),
    createBlock("image", id, { decorative: true }),
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
