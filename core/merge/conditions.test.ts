import fc from "fast-check";
import { Liquid } from "liquidjs";
import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import type { DocNode } from "../document/index.ts";
import { toLiquid } from "../export/liquid/index.ts";
import { compile } from "../render/index.ts";
import {
  bitsOf,
  conditionalArbitrary,
  holdsArbitrary,
  leftFor,
  RULES,
} from "../testing/arbitrary-conditions.ts";
import { documentArbitrary } from "../testing/arbitrary-documents.ts";
import { bodyOf, DIRECT, ids, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line, ruleKey, type Seen, type TextJson } from "../text/index.ts";
import { partsOf } from "../versions/index.ts";
import { codesOf, mergeText, prepare } from "./index.ts";

/**
 * Without what says words of others again or makes links of them: a link whose words are for some in part is several
 * links, one for each part, and so is a line of contents.
 */
const plainly = (node: DocNode): DocNode => {
  const { whole, linkTitle, to } = node.props;
  return {
    ...node,
    props: {
      ...node.props,
      ...(whole !== undefined && { whole: false }),
      ...(linkTitle !== undefined && { linkTitle: false }),
      ...(node.type === "card" && to !== undefined && { to: { kind: "none" } }),
    },
    children: node.children.filter(({ type }) => type !== "contents").map(plainly),
  };
};
const conditional = documentArbitrary.chain((document) => {
  const root = plainly(document.root);
  return conditionalArbitrary({
    ...document,
    root: { ...root, props: { ...root.props, textLinks: "inline" } },
  });
});
/** An empty column or card is filled up when it is compiled, not when nobody sees what is in it. */
/** The lines of an email's head. */
const headOf = (html: string) => html.slice(0, html.indexOf("<body")).split("\n");
const withoutFiller = (html: string) =>
  html
    .replaceAll(/<tr><td class="em"[^>]*>&nbsp;<\/td><\/tr>/g, "")
    .replaceAll(/<tr><td align="center" height="72"[^>]*>&nbsp;<\/td><\/tr>/g, "")
    .replaceAll("&nbsp;</p>", "</p>");
/** Where nobody sees the parts between two others, blank lines add up. */
const loosely = (text: string) => text.replaceAll(/\s*\n\s*/g, "\n").trim();

it("shows each reader what is left when the rest is taken out by hand", () => {
  fc.assert(
    fc.property(conditional, holdsArbitrary, (document, holds) => {
      const email = compile(document, SURROUNDINGS);
      const bits = bitsOf(email.conditions, holds);
      const reader = { values: {}, token: "t", bits };
      const merged = prepare(email, DIRECT);
      const left = prepare(compile(leftFor(document, holds), SURROUNDINGS), DIRECT);
      const nobody = { values: {}, token: "t" };
      expect(withoutFiller(bodyOf(mergeText(merged.html, reader)))).toBe(
        withoutFiller(bodyOf(mergeText(left.html, nobody))),
      );
      // The rules in the head are those for all readers: all that hers needs are among them.
      const rules = new Set(headOf(mergeText(merged.html, reader)));
      expect(headOf(mergeText(left.html, nobody)).filter((rule) => !rules.has(rule))).toEqual([]);
      expect(loosely(mergeText(merged.text, reader))).toBe(loosely(mergeText(left.text, nobody)));
      expect(mergeText(merged.subject, reader)).toBe(mergeText(left.subject, nobody));
    }),
    { numRuns: 120 },
  );
});

it("makes a picture of the words alone that a reader sees", () => {
  const id = ids("p");
  const who = (text: string, seenBy: unknown): TextJson =>
    ({ type: "text", text, marks: [{ type: "who", attrs: { seenBy, chain: null } }] }) as never;
  const content = { type: "line", content: [{ type: "text", text: "A-" }, who("FRIEND", oneRule)] };
  const code = createBlock("qrCode", id, { content });
  const email = compile(createDocument([createBand(id, [createColumn(id, [code])])]), SURROUNDINGS);
  const said = (bits: string) => {
    const html = mergeText(prepare(email, DIRECT).html, { values: {}, token: "t", bits });
    const [, recipe] = /\/made\/([^/]+)\//.exec(html)!;
    return JSON.parse(Buffer.from(recipe!, "base64url").toString())[1];
  };
  expect([said("1"), said("0")]).toEqual(["A-FRIEND", "A-"]);
  // It makes two versions of the email, as words on the sheet would.
  expect(partsOf(email)).toEqual([{ all: [one], none: [] }]);
});

it("takes a code from a roll for those alone who see it in a picture", () => {
  const id = ids("p");
  const tag = { type: "tag", attrs: { ref: "code:12", fallback: null, format: null } };
  const marks = [{ type: "who", attrs: { seenBy: oneRule, chain: null } }];
  const content = {
    type: "line",
    content: [
      { type: "text", text: "A-" },
      { ...tag, marks },
    ],
  };
  const code = createBlock("qrCode", id, { content: content as never });
  const email = compile(createDocument([createBand(id, [createColumn(id, [code])])]), SURROUNDINGS);
  const [[roll, whens]] = [...codesOf(email)] as [[string, unknown]];
  expect([roll, new Set((whens as unknown[]).map((when) => JSON.stringify(when)))]).toEqual([
    "12",
    new Set([JSON.stringify({ all: [one], none: [] })]),
  ]);
});

it("is the same message as Liquid", () => {
  const engine = new Liquid({ outputEscape: undefined });
  fc.assert(
    fc.property(conditional, holdsArbitrary, (document, holds) => {
      const email = compile(document, SURROUNDINGS);
      const reader = { values: {}, token: "t", bits: bitsOf(email.conditions, holds) };
      const { html, variables } = toLiquid(email);
      const ours = prepare(email, DIRECT);
      const values = variables(reader);
      expect(engine.parseAndRenderSync(html, values)).toBe(mergeText(ours.html, reader));
    }),
    { numRuns: 60 },
  );
});

const [one, two] = RULES.map((rule) => ruleKey(rule)) as [string, string];
const [oneRule, twoRule] = RULES as [never, never];

function textOf(blocks: [string, Partial<Seen>][], bits: (key: string) => boolean): string {
  const id = ids();
  const nodes = blocks.map(([words, seen]) =>
    createBlock("text", id, { words: doc(words), ...seen } as never),
  );
  const document = createDocument([createBand(id, [createColumn(id, nodes)])]);
  const email = compile(document, SURROUNDINGS);
  const reader = {
    values: {},
    token: "",
    bits: email.conditions.map((key) => (bits(key) ? "1" : "0")).join(""),
  };
  return mergeText(prepare(email, DIRECT).text, reader);
}

it("parts of a plain text stand one blank line apart, whoever reads them", () => {
  const blocks: [string, Partial<Seen>][] = [
    ["For one", { seenBy: oneRule }],
    ["For all", {}],
    ["For two", { seenBy: twoRule }],
    ["Also for all", {}],
  ];
  expect(textOf(blocks, () => true)).toBe("For one\n\nFor all\n\nFor two\n\nAlso for all\n");
  expect(textOf(blocks, () => false)).toBe("For all\n\nAlso for all\n");
  expect(textOf(blocks, (key) => key === two)).toBe("For all\n\nFor two\n\nAlso for all\n");
});

it("of a chain the first whose rule holds is shown, wherever its parts stand", () => {
  const blocks: [string, Partial<Seen>][] = [
    ["A", { seenBy: oneRule, chain: "c" }],
    ["B", { seenBy: twoRule, chain: "c" }],
    ["between", {}],
    ["C", { chain: "c" }],
  ];
  const shown = (...held: string[]) =>
    textOf(blocks, (key) => held.includes(key) || key.includes('"rules":[]'));
  expect(shown(one, two)).toBe("A\n\nbetween\n");
  expect(shown(two)).toBe("B\n\nbetween\n");
  expect(shown()).toBe("between\n\nC\n");
});

it("a column that somebody does not see keeps its room", () => {
  const id = ids();
  const columns = ["Left", "Right"].map((words) =>
    createColumn(id, [createBlock("text", id, { words: doc(words) })]),
  );
  const hidden = { ...columns[1]!, props: { ...columns[1]!.props, seenBy: oneRule } };
  const at = (right: (typeof columns)[number], bits: string) => {
    const email = compile(createDocument([createBand(id, [columns[0]!, right])]), SURROUNDINGS);
    return mergeText(prepare(email, DIRECT).html, { values: {}, token: "", bits });
  };
  const both = at(columns[1]!, "");
  expect(at(hidden, "1")).toBe(both);
  const left = at(hidden, "0");
  expect(left).not.toContain("Right");
  expect(left.match(/max-width:\d+px/g)).toEqual(both.match(/max-width:\d+px/g));
});

it("words in a subject can be for some only", () => {
  const who = (seenBy: unknown, chain: string | null): TextJson["marks"] =>
    [{ type: "who", attrs: { seenBy, chain } }] as never;
  const subject: TextJson = {
    type: "line",
    content: [
      { type: "text", text: "Friends, ", marks: who(oneRule, "s") },
      { type: "text", text: "Everybody, ", marks: who(null, "s") },
      { type: "text", text: "come" },
    ],
  };
  const envelope = {
    fromName: line("L"),
    fromAddress: "a@example.org",
    replyTo: "",
    preview: line(),
  };
  const email = compile(createDocument([], { envelope: { ...envelope, subject } }), SURROUNDINGS);
  const at = (bits: string) =>
    mergeText(prepare(email, DIRECT).subject, { values: {}, token: "", bits });
  expect(email.conditions).toEqual(
    [one, ruleKey({ type: "all", rules: [] })].slice(0, email.conditions.length),
  );
  expect(at("1")).toBe("Friends, come");
  expect(at("0")).toBe("Everybody, come");
});

it("shows everything on the sheet without its marks getting into words and attributes", () => {
  const who = (text: string): TextJson =>
    ({
      type: "text",
      text,
      marks: [{ type: "who", attrs: { seenBy: oneRule, chain: null } }],
    }) as never;
  const some: TextJson = {
    type: "line",
    content: [who("Only some "), { type: "text", text: "and all" }],
  };
  const envelope = {
    fromName: line("L"),
    fromAddress: "a@example.org",
    replyTo: "",
    subject: some,
    preview: some,
  };
  const image = createBlock("image", ids(), { picture: "a".repeat(64), alt: some });
  const document = createDocument([createBand(ids(), [createColumn(ids(), [image])])], {
    envelope,
  });
  const { html } = prepare(compile(document, SURROUNDINGS), {
    ...DIRECT,
    marks: true,
    everything: true,
  });
  const merged = mergeText(html, { values: {}, token: "" });
  expect(merged).toContain('alt="Only some and all"');
  expect(merged).toContain('aria-label="Only some and all"');
  expect(merged).toContain("<title>Only some and all</title>");
});

it("lists a link of parts for different readers for those who see it there", () => {
  const link = {
    type: "link",
    attrs: { to: { kind: "web", address: line("https://x.example/") } },
  };
  const linked = (seenBy: unknown) =>
    createBlock("text", ids(), {
      words: doc({
        type: "paragraph",
        content: [{ type: "text", text: "there", marks: [link] }],
      } as never),
      seenBy,
    } as never);
  const id = ids("q");
  const document = createDocument(
    [
      createBand(id, [
        createColumn(
          id,
          [linked(oneRule), linked(twoRule)].map((b, i) => ({ ...b, id: `k${i}` })),
        ),
      ]),
    ],
    { textLinks: "numbered" },
  );
  const email = compile(document, SURROUNDINGS);
  const at = (bits: string) =>
    mergeText(prepare(email, DIRECT).text, { values: {}, token: "", bits });
  expect(at("00")).not.toContain("https://x.example/");
  expect(at("10")).toContain("[1] https://x.example/");
  expect(at("01")).toContain("[2] https://x.example/");
});
