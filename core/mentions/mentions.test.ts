import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import type { DerivedTag } from "../derived/index.ts";
import { conditionsOf } from "../render/index.ts";
import { RULES } from "../testing/arbitrary-conditions.ts";
import { ids } from "../testing/rendered.ts";
import { doc, line, paragraph, ruleKey, type TextJson, tag } from "../text/index.ts";
import { derivedIn, mentionsIn, picturesIn, refOf } from "./index.ts";

const id = ids("m");
const [one, two] = RULES as [never, never];
const who = (text: string, seenBy: unknown): TextJson =>
  ({ type: "text", text, marks: [{ type: "who", attrs: { seenBy, chain: null } }] }) as never;

const A = "a".repeat(64);
const B = "b".repeat(64);
const C = "c".repeat(64);
const D = "d".repeat(64);
const chosen = {
  id: "face",
  name: "Face",
  kind: "picture",
  cases: [{ rule: one, value: { picture: C, alt: line() } }],
  otherwise: { picture: null, alt: line() },
} as unknown as DerivedTag;

const document = createDocument(
  [
    createBand(
      id,
      [
        createColumn(id, [
          createBlock("text", () => "text", {
            words: doc({
              type: "paragraph",
              content: [who("Some ", one), ...paragraph(tag("contact:a")).content!],
            }),
            plain: { source: "By hand {{ contact.hand }} {{ campaign.unsubscribe }}", of: "x" },
            tr: {
              fr: {
                words: {
                  of: "x",
                  value: doc({ type: "paragraph", content: [who("Quelques", two)] }),
                },
              },
            },
          } as never),
          createBlock("image", () => "image", {
            picture: A,
            show: "narrow",
            tr: { fr: { picture: { of: "x", value: B } } },
          } as never),
          createBlock("image", () => "chosen", { picture: "derived:face", seenBy: one }),
          createBlock("button", () => "button", {
            to: { kind: "web", address: line("https://x.example/", tag("derived:way")) },
          }),
          createBlock("html", () => "html", {
            source: '<p style="color:red">{{ derived["odd-one"] }}</p>',
          }),
        ]),
      ],
      { picture: D },
    ),
  ],
  {
    envelope: {
      fromName: line(),
      fromAddress: "derived:sender",
      replyTo: "a@example.org",
      subject: line(tag("contact:s")),
      preview: line(),
    },
  },
);

it("names everything with its place, its language, its width and when it is shown", () => {
  const said = mentionsIn(document).map((mention) => ({
    what: mention.what,
    ref: refOf(mention),
    at: mention.node.id,
    path: mention.path.join("."),
    lang: mention.lang,
    show: mention.show,
    when: mention.when?.all.length ?? 0,
  }));
  const of = (what: string, at: string) => said.filter((m) => m.what === what && m.at === at);
  expect(of("tag", "email").map(({ ref, path }) => [ref, path])).toEqual(
    [
      ["derived:sender", "envelope.fromAddress"],
      ["contact:s", "envelope.subject"],
    ].sort((x, y) => said.findIndex((m) => m.ref === x[0]) - said.findIndex((m) => m.ref === y[0])),
  );
  expect(of("tag", "text").map(({ ref }) => ref)).toEqual(
    expect.arrayContaining(["contact:a", "contact:hand"]),
  );
  expect(of("link", "text")).toMatchObject([{ path: "plain" }]);
  expect(of("condition", "text").map(({ lang }) => lang)).toEqual([null, "fr"]);
  expect(of("picture", "image").map(({ lang, show }) => [lang, show])).toEqual([
    [null, "narrow"],
    ["fr", "narrow"],
  ]);
  expect(of("picture", "chosen")).toMatchObject([{ ref: "derived:face", when: 1 }]);
  const lands = mentionsIn(document).flatMap((mention) =>
    mention.what === "tag" && mention.node.id === "button" ? [mention.lands] : [],
  );
  expect(lands).toEqual([{ encoding: "percent", context: "attribute" }]);
});

it("knows the pictures that anybody can get, and the derived tags", () => {
  const derived = new Map([["face", chosen]]);
  expect(picturesIn(document.root, derived)).toEqual(new Set([A, B, C, D]));
  expect(derivedIn(document.root)).toEqual(new Set(["sender", "face", "way", "odd-one"]));
});

it("gives the conditions of all languages, in the order of the document", () => {
  expect(conditionsOf(document)).toEqual([ruleKey(one), ruleKey(two)]);
});
