/** Rich words and pictures of derived tags, as each reader gets them. */
import fc from "fast-check";
import { Liquid } from "liquidjs";
import { expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import type { DerivedTag } from "../derived/index.ts";
import type { DocNode } from "../document/index.ts";
import { toLiquid } from "../export/liquid/index.ts";
import type { Surroundings } from "../kinds/kind.ts";
import { mergeText, prepare } from "../merge/index.ts";
import { RULES } from "../testing/arbitrary-conditions.ts";
import { bodyOf, DIRECT, emailOf, PICTURE, picture, SURROUNDINGS } from "../testing/rendered.ts";
import {
  doc,
  EVERYBODY_KEY,
  line,
  paragraph,
  phrase,
  ruleKey,
  type TextJson,
  tag,
} from "../text/index.ts";
import { compile, conditionsOf, handTextOf } from "./index.ts";

const [one, two] = RULES as [never, never];
const strong = { type: "strong" };
const link = {
  type: "link",
  attrs: { to: { kind: "web", address: line("https://larkmoor.example/friends") } },
};
const rich = (...content: TextJson[]): TextJson => ({ type: "phrase", content });
const VALUES = [
  rich({ type: "text", text: "a friend", marks: [strong] }, { type: "text", text: " of ours" }),
  rich({ type: "text", text: "Join the friends", marks: [link as never] }),
  rich({ type: "tag", attrs: { ref: "contact:first", fallback: "you", format: null } }),
];
const greeting = (values: readonly TextJson[] = VALUES): DerivedTag => ({
  id: "status",
  name: "Status",
  kind: "rich",
  cases: [
    { rule: one, value: { words: values[0]! } },
    { rule: two, value: { words: values[1]! } },
  ],
  otherwise: { words: values[2]! },
});
const around = (...derived: DerivedTag[]): Surroundings => ({
  ...SURROUNDINGS,
  derived: new Map(derived.map((made) => [made.id, made])),
});
const readerOf = (conditions: readonly string[], holds: readonly boolean[]) => ({
  values: { "contact:first": "Ann & Bo" },
  token: "",
  bits: conditions
    .map((key) => key === EVERYBODY_KEY || (key === ruleKey(one) ? holds[0] : holds[1]))
    .map((does) => (does ? "1" : "0"))
    .join(""),
});
/** What somebody gets of these blocks, for whom the first or second rule holds or not. */
function read(blocks: readonly DocNode[], surroundings: Surroundings, holds: readonly boolean[]) {
  const email = compile(emailOf(blocks), surroundings);
  const { html, text, subject } = prepare(email, DIRECT);
  const reader = readerOf(email.conditions, holds);
  const [page, ...rest] = [html, text, subject].map((body) => mergeText(body, reader));
  return [bodyOf(page!), ...rest];
}
const chosen = ([first, second]: readonly boolean[]) => (first ? 0 : second ? 1 : 2);
const holdsArbitrary = fc.tuple(fc.boolean(), fc.boolean());

it("stand where the tag does, with their marks and links, as if they had been written there", () => {
  const status = { type: "tag", attrs: { ref: "derived:status", fallback: null, format: null } };
  const words = (inner: readonly TextJson[]) => [
    createBlock("heading", () => "h", { words: { type: "phrase", content: [...inner] } }),
    createBlock("text", () => "t", {
      words: doc({
        type: "paragraph",
        content: [{ type: "text", text: "You are " }, ...inner, { type: "text", text: "." }],
      }),
    }),
  ];
  fc.assert(
    fc.property(holdsArbitrary, (holds) => {
      const own = read(words([status]), around(greeting()), holds);
      expect(own).toEqual(read(words(VALUES[chosen(holds)]!.content!), SURROUNDINGS, holds));
    }),
  );
});

it("are plain words in a line, and never a link in a link", () => {
  const button = createBlock("button", () => "b", { label: line(tag("derived:status")) });
  const [html] = read([button], around(greeting()), [false, true]);
  expect(html).toContain("Join the friends");
  expect(html).not.toContain("/friends");
  const linked = {
    type: "tag",
    attrs: { ref: "derived:status", fallback: null, format: null },
    marks: [{ type: "link", attrs: { to: { kind: "web", address: line("https://a.example") } } }],
  };
  const words = doc({ type: "paragraph", content: [linked as never] });
  const [inLink] = read([createBlock("text", () => "t", { words })], around(greeting()), [
    false,
    true,
  ]);
  expect(inLink).toContain('href="https://a.example"');
  expect(inLink).not.toContain("/friends");
});

it("fall to the last resort where they are empty, and to the tag's fallback where that is too", () => {
  const words = (fallback: string | null) => [
    createBlock("text", () => "t", {
      words: doc(paragraph("So ", tag("derived:status", fallback))),
    }),
  ];
  const text = (tags: DerivedTag, fallback: string | null) =>
    read(words(fallback), around(tags), [true, false])[1]!.trim().split("\n")[0];
  expect(text(greeting([phrase(), VALUES[1]!, VALUES[2]!]), null)).toBe("So Ann & Bo");
  expect(text(greeting([phrase(), VALUES[1]!, phrase()]), "friend")).toBe("So friend");
  expect(text(greeting([phrase(), VALUES[1]!, phrase()]), null)).toBe("So");
});

it("name the values under a table's head, each reader by theirs, alternatives paragraph by paragraph", () => {
  const table = createBlock("table", () => "t");
  const who = (rule: never | null, words: string): TextJson => ({
    type: "text",
    text: words,
    marks: [{ type: "who", attrs: { seenBy: rule, chain: "c" } }],
  });
  const alternatives = (...words: string[]): TextJson => ({
    type: "paragraph",
    content: [who(one, words[0]!), who(null, words[1]!)],
  });
  const status = paragraph(tag("derived:status"));
  const head = doc(alternatives("Day", "Night"), alternatives("open", "shut"), status);
  const first = table.children.find(({ type }) => type === "table.row");
  const rows = table.children.map((row) => ({
    ...row,
    children: row.children.map((child, j) =>
      row === first && j === 0
        ? { ...child, props: { ...child.props, words: head as never } }
        : child,
    ),
  }));
  const blocks = [{ ...table, props: { ...table.props, onNarrow: "pairs" }, children: rows }];
  const label = (holds: readonly boolean[]) =>
    /class="sl"[^>]*>([^<]*): </.exec(read(blocks as never, around(greeting()), holds)[0]!)?.[1];
  expect(label([true, false])).toBe("Day open a friend of ours");
  expect(label([false, false])).toBe("Night shut Ann &amp; Bo");
});

it("stand as themselves where plain text is begun to be written by hand", () => {
  const block = createBlock("text", () => "t", {
    words: doc(paragraph("So ", tag("derived:status"))),
  });
  const { source } = handTextOf(emailOf([block]), "t", around(greeting()));
  expect(source).toBe("So {{ derived.status }}");
});

it("come to an end where one leads to itself", () => {
  const loop = rich({
    type: "tag",
    attrs: { ref: "derived:status", fallback: null, format: null },
  });
  const blocks = [createBlock("text", () => "t", { words: doc(paragraph(tag("derived:status"))) })];
  const [html] = read(blocks, around(greeting([loop, loop, loop])), [true, true]);
  expect(html).toContain("</html>");
});

const OTHER = "b".repeat(64);
const scene: DerivedTag = {
  id: "scene",
  name: "Scene",
  kind: "picture",
  cases: [
    { rule: one, value: { picture: PICTURE, alt: line("The lake") } },
    { rule: two, value: { picture: OTHER, alt: line() } },
  ],
  otherwise: { picture: null, alt: line() },
};
const withPictures: Surroundings = {
  ...around(scene),
  pictures: new Map(
    [PICTURE, OTHER].map((id) => [id, picture(id, { height: id === OTHER ? 800 : 400 })]),
  ),
};

it.each(["image", "captionedPicture", "video", "pictureAndWords", "signOff"])(
  "a picture is chosen for each reader, in its own shape: %s",
  (type) => {
    const props = { picture: "derived:scene", alt: line("A view"), mark: false };
    const kind = createBlock(type, () => "p");
    const own = Object.fromEntries(Object.entries(props).filter(([name]) => name in kind.props));
    const blocks = [createBlock(type, () => "p", own)];
    const fixed = (id: string | null, alt: string) => [
      createBlock(type, () => "p", { ...own, picture: id, alt: line(alt) }),
    ];
    fc.assert(
      fc.property(holdsArbitrary, (holds) => {
        const [id, alt] = (
          [
            [PICTURE, "The lake"],
            [OTHER, "A view"],
            [null, "A view"],
          ] as const
        )[chosen(holds)]!;
        expect(read(blocks, withPictures, holds)).toEqual(
          read(fixed(id, alt), withPictures, holds),
        );
      }),
    );
  },
);

it("depends on the rules of what it names, and is the same message as Liquid", () => {
  const blocks = [
    createBlock("image", () => "i", { picture: "derived:scene" }),
    createBlock("text", () => "t", { words: doc(paragraph("So ", tag("derived:status"))) }),
  ];
  const surroundings = {
    ...withPictures,
    derived: new Map([...withPictures.derived!, ["status", greeting()] as const]),
  };
  expect(conditionsOf(emailOf(blocks), surroundings.derived)).toEqual([ruleKey(one), ruleKey(two)]);
  const email = compile(emailOf(blocks), surroundings);
  const template = toLiquid(email);
  const engine = new Liquid();
  fc.assert(
    fc.property(holdsArbitrary, (holds) => {
      const reader = readerOf(email.conditions, holds);
      const ours = mergeText(prepare(email, DIRECT).html, reader);
      expect(engine.parseAndRenderSync(template.html, template.variables(reader))).toBe(ours);
    }),
  );
});
