import fc from "fast-check";
import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { linkAddress, mergeText, prepare, refsOf, TODAY, tagWords } from "../merge/index.ts";
import { compile } from "../render/index.ts";
import { RULES } from "../testing/arbitrary-conditions.ts";
import { DIRECT, emailOf, ids, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line, paragraph, ruleKey, tag } from "../text/index.ts";
import { formulaRefs } from "./formula.ts";
import {
  type DerivedTag,
  derivedBehind,
  derivedSchema,
  isDerivedCircle,
  resultOf,
} from "./index.ts";

const [one, two] = RULES as [never, never];
const greeting: DerivedTag = {
  id: "greeting",
  name: "Greeting",
  kind: "text",
  cases: [
    { rule: one, value: { words: line("Dear ", tag("contact:first")) } },
    { rule: two, value: { words: line(tag("contact:nothing")) } },
  ],
  otherwise: { words: line("Hello") },
};
const warden: DerivedTag = {
  id: "warden",
  name: "Warden",
  kind: "sender",
  cases: [
    {
      rule: one,
      value: {
        name: line(tag("contact:site.manager")),
        address: line(tag("contact:site.manager.email")),
      },
    },
  ],
  otherwise: { name: line("Larkmoor"), address: line("news@larkmoor.example") },
};
const tags = new Map([greeting, warden].map((one) => [one.id, one]));
const context = {
  lang: "en-GB",
  conditions: [ruleKey(one), ruleKey(two)],
  derived: tags,
  fallbacks: new Map(),
};
const words = (ref: string, bits: string, values: Record<string, string> = {}) =>
  tagWords(tag(ref), { values, bits, token: "" }, context);

it("is the first case that fits, and the last resort where that is empty or none fits", () => {
  expect(words("derived:greeting", "11", { "contact:first": "Ann" })).toBe("Dear Ann");
  expect(words("derived:greeting", "01")).toBe("Hello");
  expect(words("derived:greeting", "00")).toBe("Hello");
  expect(words("derived:gone", "11")).toBe("");
});

it("a sender's address is a mail address or the last resort, whatever the record says", () => {
  const at = (email: string) =>
    words("derived:warden.address", "10", { "contact:site.manager.email": email });
  expect(at("maud@larkmoor.example")).toBe("maud@larkmoor.example");
  expect(at("maud@larkmoor.example\r\nBcc: x@example.org")).toBe("news@larkmoor.example");
  expect(at("")).toBe("news@larkmoor.example");
  expect(words("derived:warden.name", "10", { "contact:site.manager": "Maud" })).toBe("Maud");
});

it("stands in words, subjects, addresses and headers of an email like any tag", () => {
  const id = ids();
  const text = createBlock("text", id, {
    words: doc(paragraph(tag("derived:greeting"), ", welcome")),
  });
  const button = createBlock("button", id, {
    label: line("Go"),
    to: { kind: "web", address: line("https://example.org/?q=", tag("derived:greeting")) },
  });
  const envelope = {
    fromName: line(tag("derived:warden.name")),
    fromAddress: "derived:warden",
    replyTo: "contact:site.manager.email",
    subject: line(tag("derived:greeting")),
    preview: line(),
  };
  const document = createDocument([createBand(id, [createColumn(id, [text, button])])], {
    envelope,
  });
  const email = compile(document, { ...SURROUNDINGS, derived: tags });
  expect(email.conditions).toEqual(
    [ruleKey(one), ruleKey(two)].sort((a) => (a === email.conditions[0] ? -1 : 1)),
  );
  expect(refsOf(email)).toEqual([
    "contact:first",
    "contact:nothing",
    "contact:site.manager",
    "contact:site.manager.email",
  ]);
  const bits = email.conditions.map((key) => (key === ruleKey(one) ? "1" : "0")).join("");
  const reader = { values: { "contact:first": "<Ann> & co" }, bits, token: "t" };
  const merged = prepare(email, DIRECT);
  expect(mergeText(merged.html, reader)).toContain("Dear &lt;Ann&gt; &amp; co, welcome");
  expect(mergeText(merged.subject, reader)).toBe("Dear <Ann> & co");
  expect(linkAddress(email, 1, reader)).toBe("https://example.org/?q=Dear%20%3CAnn%3E%20%26%20co");
});

it("leads where the case says, with its tags encoded, and nowhere else", () => {
  const page: DerivedTag = {
    id: "page",
    name: "Page",
    kind: "link",
    cases: [
      { rule: one, value: { words: line("https://example.org/?who=", tag("contact:first")) } },
      { rule: two, value: { words: line(tag("contact:first")) } },
    ],
    otherwise: { words: line("https://example.org/all") },
  };
  const button = createBlock("button", ids(), {
    label: line("Go"),
    to: { kind: "derived", tag: "page" },
  });
  const email = compile(emailOf([button]), { ...SURROUNDINGS, derived: new Map([["page", page]]) });
  expect(email.conditions).toHaveLength(2);
  expect(refsOf(email)).toEqual(["contact:first"]);
  const { html, text } = prepare(email, DIRECT);
  const reader = (rule: never | null, first: string) => ({
    values: { "contact:first": first },
    bits: email.conditions.map((key) => (rule && key === ruleKey(rule) ? "1" : "0")).join(""),
    token: "t",
  });
  const nasty = "a b&\"'<javascript:";
  expect(mergeText(html, reader(one, nasty))).toContain(
    'href="https://example.org/?who=a%20b%26%22%27%3Cjavascript%3A"',
  );
  expect(mergeText(text, reader(null, "x"))).toContain("Go: https://example.org/all");
  expect(linkAddress(email, 1, reader(one, "Ann"))).toBe("https://example.org/?who=Ann");
  // What is no address of the web leads nowhere.
  expect(mergeText(html, reader(two, "javascript:alert(1)"))).toContain('href="#"');
  expect(linkAddress(email, 1, reader(two, "javascript:alert(1)"))).toBeNull();
});

it("that leads to itself is found, and comes to an end where it is used all the same", () => {
  const a: DerivedTag = {
    ...greeting,
    id: "a",
    cases: [],
    otherwise: { words: line("x", tag("derived:b")) },
  };
  const b: DerivedTag = { ...a, id: "b", otherwise: { words: line("y", tag("derived:a")) } };
  const both = new Map([a, b].map((one) => [one.id, one]));
  expect(isDerivedCircle(a, both)).toBe(true);
  expect(isDerivedCircle(greeting, tags)).toBe(false);
  expect(derivedBehind(["derived:a"], both).map(({ id }) => id)).toEqual(["a", "b"]);
  const said = tagWords(tag("derived:a"), { values: {}, token: "" }, { ...context, derived: both });
  expect(said).toMatch(/^[xy]{1,10}$/);
});

it("refuses what could do harm, with a word for each", () => {
  const problem = (tag: object) => {
    const read = derivedSchema.safeParse({ name: "X", cases: [], ...tag });
    return read.success ? null : read.error.issues[0]!.message;
  };
  expect(problem({ kind: "link", otherwise: { words: line("javascript:x") } })).toContain(
    "https://",
  );
  expect(
    problem({ kind: "link", otherwise: { words: line("https://", tag("contact:x")) } }),
  ).toContain("host");
  const sender = (address: object) => ({ kind: "sender", otherwise: { name: line("L"), address } });
  expect(problem(sender(line("nobody")))).toBe("This is not a mail address.");
  expect(problem(sender(line(tag("contact:email"))))).toBe("The last address must be a fixed one.");
  expect(problem({ kind: "number", otherwise: { op: "yearsSince", field: "" } })).toBe(
    "Choose a field.",
  );
  expect(problem(sender(line("a@example.org")))).toBeNull();
});

const isoDay = fc
  .integer({ min: 0, max: 30_000 })
  .map((n) => new Date(n * 86_400_000).toISOString().slice(0, 10));

it("whole years since a date are those that have gone by", () => {
  fc.assert(
    fc.property(isoDay, isoDay, (from, today) => {
      const years = resultOf(
        { op: "yearsSince", field: "contact:d" },
        { "contact:d": from },
        today,
      ) as number;
      const anniversary = (n: number) =>
        `${String(Number(from.slice(0, 4)) + n).padStart(4, "0")}${from.slice(4)}`;
      expect(anniversary(years) <= today).toBe(true);
      expect(anniversary(years + 1) > today).toBe(true);
    }),
  );
  const at = (formula: object, values: object) =>
    resultOf(formula as never, values as never, "2026-03-02");
  expect(at({ op: "daysUntil", field: "contact:d" }, { "contact:d": "2026-03-05" })).toBe(3);
  expect(at({ op: "daysAfter", field: "contact:d", days: 30 }, { "contact:d": "2026-02-28" })).toBe(
    "2026-03-30",
  );
  const half = {
    op: "over",
    left: { kind: "field", ref: "contact:n" },
    right: { kind: "number", value: 0 },
  };
  expect(at(half, { "contact:n": 4 })).toBeUndefined();
  expect(at({ ...half, op: "minus" }, { "contact:n": 4 })).toBe(4);
  expect(at(half, {})).toBeUndefined();
  const years: DerivedTag = {
    id: "y",
    name: "Y",
    kind: "number",
    cases: [],
    otherwise: { op: "yearsSince", field: "contact:d" },
  };
  const reader = { values: { "contact:d": "2020-01-01", [TODAY]: "2026-03-02" }, token: "" };
  const plural = tag("derived:y", null, { type: "plural", one: "year", other: "years" });
  expect(tagWords(plural, reader, { ...context, derived: new Map([["y", years]]) })).toBe(
    "6 years",
  );
});

it("says which fields a formula reads", () => {
  const visits = { kind: "field", ref: "contact:visits" } as const;
  const twelve = { kind: "number", value: 12 } as const;
  expect(formulaRefs({ op: "over", left: visits, right: twelve })).toEqual(["contact:visits"]);
  expect(formulaRefs({ op: "plus", left: twelve, right: visits })).toEqual(["contact:visits"]);
  expect(formulaRefs({ op: "yearsSince", field: "contact:birthday" })).toEqual([
    "contact:birthday",
  ]);
});
