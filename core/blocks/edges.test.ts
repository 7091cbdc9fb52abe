/** What blocks do at the edges of their settings. */
import { expect, it } from "vitest";
import { toLiquid } from "../export/liquid/index.ts";
import { createItem } from "../kinds/item.ts";
import { translatables } from "../languages/index.ts";
import { LIMITS } from "../limits.ts";
import { plain } from "../markup/index.ts";
import { mergeText, prepare, refsOf } from "../merge/index.ts";
import { compile } from "../render/index.ts";
import { RULES } from "../testing/arbitrary-conditions.ts";
import { blockAlone, DIRECT, emailOf, ids, PICTURE, SURROUNDINGS } from "../testing/rendered.ts";
import { line, type TextJson, textSchema } from "../text/index.ts";
import { STANDARD_THEME } from "../theme/theme.ts";
import { fixedColumns } from "./columns.ts";
import {
  createBand,
  createBlock,
  createColumn,
  createDocument,
  itemKind,
  propsFit,
} from "./index.ts";

const tag = (ref: string) => ({ ref, fallback: null, format: null });
const forSome = (text: string): TextJson =>
  ({
    type: "text",
    text,
    marks: [{ type: "who", attrs: { seenBy: RULES[0], chain: null } }],
  }) as never;

it("a code holds so many characters, and a tag counts as one at least", () => {
  const { props } = createBlock("qrCode", ids());
  const fits = (content: TextJson) => propsFit("qrCode", { ...props, content } as never);
  const longest = "x".repeat(LIMITS.qrLength);
  expect(fits(line(longest))).toBe(true);
  expect(fits(line(`${longest}x`))).toBe(false);
  expect(fits(line(longest, tag("contact:name") as never))).toBe(false);
  expect(fits(line(longest.slice(1), tag("contact:name") as never))).toBe(true);
});

it("columns that stay beside each other share what a fixed one leaves", () => {
  const column = (width: number, rigid: boolean) => ({
    width,
    ...(rigid && { rigid: true as const }),
    html: plain`x`,
  });
  const of = (...columns: ReturnType<typeof column>[]) =>
    fixedColumns(columns, "top", "ltr").segments.join("");
  expect(of(column(100, false), column(300, false))).toMatch(/width:25%.*width:75%/s);
  const beside = of(column(48, true), column(300, false));
  expect(beside).toContain("width:48px");
  expect(beside).not.toMatch(/width:[\d.]+%;?v/);
});

it("a masthead's name is set in the type of headings", () => {
  const theme = { ...STANDARD_THEME, fonts: { heading: "bookSerif", body: "plainSans" } };
  const { html } = blockAlone("masthead", { name: line("Nameplate") }, { email: { theme } });
  expect(html).toMatch(/font-family:Georgia[^>]*>(?:<[^>]*>)*Nameplate/);
});

it("a band with a picture and no background of its own stands on the sheet's", () => {
  const id = ids("b");
  const column = createColumn(id, [createBlock("text", id)]);
  const band = createBand(id, [column], { picture: PICTURE, background: null } as never);
  const { html } = prepare(compile(createDocument([band]), SURROUNDINGS), DIRECT);
  const sheet = STANDARD_THEME.colours.sheet;
  expect(mergeText(html, { values: {}, token: "t" })).toMatch(
    new RegExp(`background="[^"]*${PICTURE.slice(0, 12)}[^"]*"[^>]*bgcolor="${sheet}"`),
  );
});

it("an image without a picture has none to be translated", () => {
  const without = translatables(emailOf([createBlock("image", ids(), { picture: null } as never)]));
  expect(without.filter(({ path }) => path.at(-1) === "picture")).toEqual([]);
  const withOne = translatables(
    emailOf([createBlock("image", ids(), { picture: PICTURE } as never)]),
  );
  expect(withOne.some(({ path }) => path.at(-1) === "picture")).toBe(true);
});

it("a subject to forward asks for the values of its tags", () => {
  const id = ids("s");
  const subject = line("From ", tag("contact:name") as never);
  const way = (by: string) => createItem(itemKind("shareRow.way")!, id, { by, subject } as never);
  const asked = (by: string) =>
    refsOf(compile(emailOf([createBlock("shareRow", id, {}, [way(by)])]), SURROUNDINGS));
  expect(asked("mail")).toContain("contact:name");
  expect(asked("link")).not.toContain("contact:name");
});

it("shows everything there is for some, each marked from its beginning to its end", () => {
  const words = {
    type: "doc",
    content: [
      { type: "paragraph", content: [forSome("Friends"), { type: "text", text: " and all" }] },
    ],
  };
  const email = compile(emailOf([createBlock("text", ids(), { words } as never)]), SURROUNDINGS);
  const { html } = prepare(email, { ...DIRECT, marks: true, everything: true });
  expect(mergeText(html, { values: {}, token: "t" })).toContain(
    '<span data-who="">Friends</span> and all',
  );
});

it("an exported email shows somebody of whom nothing is known what is for all", () => {
  const words = { type: "doc", content: [{ type: "paragraph", content: [forSome("Friends")] }] };
  const email = compile(emailOf([createBlock("text", ids(), { words } as never)]), SURROUNDINGS);
  const { variables } = toLiquid(email);
  const shown = (bits?: string) =>
    Object.values(
      variables({ values: {}, token: "t", ...(bits !== undefined && { bits }) }),
    ).filter((value) => typeof value === "boolean");
  expect(shown()).toEqual([false]);
  expect(shown("1")).toEqual([true]);
});

it.each([
  ["strong", "strong"],
  ["em", "em"],
  ["underline", "u"],
  ["superscript", "sup"],
])("%s is an element of its own, and read from one", (name, element) => {
  const { spec } = textSchema.marks[name]!;
  expect((spec.toDOM!({ attrs: {} } as never, true) as unknown as [string])[0]).toBe(element);
  expect(spec.parseDOM!.map((rule) => rule.tag)).toContain(element);
});
