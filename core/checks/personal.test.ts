/** Checks of what differs from reader to reader: who sees it, codes, languages, derived tags. */
import { describe, expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import type { DerivedTag } from "../derived/index.ts";
import { apply, type DocNode, type EmailDocument } from "../document/index.ts";
import type { CodeRoll, Surroundings } from "../kinds/kind.ts";
import { translatables, translating } from "../languages/index.ts";
import { compile } from "../render/index.ts";
import type { Rule } from "../rules/index.ts";
import { emailOf, PICTURE, picture, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line, paragraph, type TextJson, tag } from "../text/index.ts";
import type { Group } from "../versions/index.ts";
import type { KnownReaders } from "./check.ts";
import { runChecks } from "./index.ts";
import { whoGets } from "./order.ts";

const fields = new Map(
  ["first", "language"].map((id) => [id, { id, label: id, type: "text" as const }]),
);
const named: Rule = { type: "field", field: "first", op: "hasValue", argument: null };
const french: Rule = { type: "field", field: "language", op: "is", argument: "French" };

/** What the checks of one kind say of an email. */
function said(
  check: string,
  document: EmailDocument,
  readers: Partial<KnownReaders> & { bits?: Record<string, number> } = {},
  around: Partial<Surroundings> = {},
): string[] {
  const surroundings = { ...SURROUNDINGS, ...around };
  const { conditions } = compile(document, surroundings);
  const groups: Group[] = Object.entries(readers.bits ?? {}).map(([bits, people], sample) => ({
    bits,
    people,
    sample,
  }));
  const known = {
    conditions,
    groups,
    problems: conditions.map(() => null),
    today: "2026-11-25",
    ...readers,
  };
  return runChecks(document, surroundings, fields, known)
    .filter((one) => one.check === check)
    .map(({ severity, message, at }) => `${severity} at ${at}: ${message}`);
}
const text = (id: string, words: TextJson | string, more: object = {}): DocNode =>
  createBlock("text", () => id, { words: typeof words === "string" ? doc(words) : words, ...more });

describe("how many readers a finding is about", () => {
  const of = (document: EmailDocument, groups: readonly Group[], check: string) => {
    const { conditions } = compile(document, SURROUNDINGS);
    const problems = conditions.map(() => null);
    const known = { conditions, groups, problems, today: "2026-11-25" };
    return runChecks(document, SURROUNDINGS, fields, known)
      .filter((one) => one.check === check)
      .map(whoGets);
  };
  const group = (bits: string, people: number, lang?: string): Group => ({
    bits,
    people,
    sample: 1,
    ...(lang && { lang }),
  });
  const pale = text("a", "Hard to read", { colour: "#cccccc", seenBy: named });
  it("is said where some of them get it, and not where all do, none, or nobody knows", () => {
    const one = emailOf([pale]);
    expect(of(one, [group("1", 3), group("0", 9)], "contrast")).toEqual(["3 readers get it."]);
    expect(of(one, [group("1", 1), group("0", 9)], "contrast")).toEqual(["1 reader gets it."]);
    for (const groups of [[group("1", 12)], [group("0", 12)], []]) {
      expect(of(one, groups, "contrast")).toEqual([""]);
    }
  });
  it("is left to a finding that says itself whom it is about", () => {
    const chain = ["x", "y"].map((id, i) =>
      text(id, id, { seenBy: [named, french][i], chain: "c" }),
    );
    const one = emailOf(chain);
    const said = of(one, [group("10", 3), group("00", 9)], "who-sees");
    expect(said.length).toBeGreaterThan(0);
    expect(said.filter(Boolean)).toEqual([]);
  });
  it("counts for a translation those who read its language", () => {
    let both = emailOf([text("a", "A fine day")], { lang: "en", others: ["fr"] });
    for (const one of translatables(both)) {
      both = apply(both, translating(one, "fr", doc("Une une journée") as never));
    }
    const groups = [group("", 30, "en"), group("", 12, "fr")];
    expect(of(both, groups, "doubled-word")).toEqual(["12 readers get it."]);
  });
});

describe("who sees what", () => {
  const only = emailOf([text("a", "For the named", { seenBy: named })]);
  it("says where nobody sees a part, and nothing where somebody does or nobody is counted", () => {
    expect(said("who-sees", only, { bits: { "0": 9 } })).toEqual(["look at a: Nobody sees Text"]);
    expect(said("who-sees", only, { bits: { "1": 1, "0": 9 } })).toEqual([]);
    expect(said("who-sees", only)).toEqual([]);
  });
  it("stops on a rule that speaks of what is gone", () => {
    const problems = ["This rule names a list that is gone."];
    expect(said("who-sees", only, { bits: { "1": 1 }, problems })).toEqual([
      "stop at a: The rule of Text cannot be read",
    ]);
  });
  it("names words within a text by themselves, and those of the envelope there", () => {
    const who = { type: "who", attrs: { seenBy: named, chain: null } };
    const words = { type: "text", text: "a glass of tea", marks: [who] };
    const document = emailOf([text("a", doc({ type: "paragraph", content: [words] }))], {
      envelope: {
        fromName: line("x"),
        fromAddress: "a@b.example",
        replyTo: "",
        subject: { type: "line", content: [words] },
        preview: line(),
      },
    });
    expect(said("who-sees", document, { bits: { "0": 2 } })).toEqual([
      "look at envelope: Nobody sees “a glass of tea”",
      "look at a: Nobody sees “a glass of tea”",
    ]);
  });
  it("counts those who see none of a chain, and those for whom several fit", () => {
    const chain = (...rules: (Rule | null)[]) =>
      emailOf(rules.map((seenBy, i) => text(`t${i}`, `${i}`, { seenBy, chain: "c" })));
    const gap = chain(named, french);
    const bits = { "10": 3, "00": 1, "11": 1_200 };
    expect(said("who-sees", gap, { bits })).toEqual([
      // Whoever is French has a name as well: the second is for nobody.
      "look at t1: Nobody sees Text",
      "look at t0: 1 reader sees none of the alternatives of Text",
      "look at t0: More than one of the alternatives of Text fits 1,200 readers",
    ]);
    const closed = chain(named, null);
    const everybody = compile(closed, SURROUNDINGS).conditions.length;
    expect(everybody).toBe(2);
    expect(said("who-sees", closed, { bits: { "11": 3, "01": 2 } })).toEqual([]);
  });
});

describe("codes", () => {
  const roll = (more: Partial<CodeRoll> = {}): CodeRoll => ({
    id: "autumn",
    name: "Autumn",
    emptyText: "",
    warnAt: 0,
    expires: null,
    left: 10,
    ...more,
  });
  const coupon = (more: object = {}) =>
    emailOf([createBlock("coupon", () => "c", { code: line(tag("code:autumn")), ...more })]);
  const of = (one: CodeRoll, bits: Record<string, number>, document = coupon()) =>
    said("codes", document, { bits }, { rolls: new Map([[one.id, one]]) });

  it("says whether there are enough, counting only those who see one", () => {
    expect(of(roll(), { "": 10 })).toEqual([]);
    expect(of(roll(), { "": 11 })).toEqual(["stop at email: “Autumn” has 10 codes for 11 readers"]);
    expect(of(roll({ emptyText: "at the till" }), { "": 11 })).toEqual([
      "look at email: “Autumn” has 10 codes for 11 readers",
    ]);
    const few = coupon({ seenBy: named });
    expect(of(roll(), { "1": 10, "0": 900 }, few)).toEqual([]);
    expect(of(roll({ warnAt: 3 }), { "1": 8, "0": 900 }, few)).toEqual([
      "look at email: “Autumn” runs low",
    ]);
  });
  it("stops where they have expired, from the day after", () => {
    expect(of(roll({ expires: "2026-11-25" }), { "": 1 })).toEqual([]);
    expect(of(roll({ expires: "2026-11-24" }), { "": 1 })).toEqual([
      "stop at email: The codes of “Autumn” have expired",
    ]);
  });
});

describe("languages", () => {
  const base = (props: object) =>
    emailOf([text("a", "Good morning"), text("b", "Good night")], { others: ["fr"], ...props });
  it("stops where no field says who gets another language", () => {
    for (const languageField of [null, "gone"]) {
      expect(said("languages", base({ languageField }))[0]).toBe(
        "stop at email: Nobody would get another language",
      );
    }
  });
  it("counts texts that are missing, and those whose original has changed", () => {
    let document = base({ languageField: "language" });
    expect(said("languages", document)).toEqual([
      "look at a: 2 texts are not translated to French",
    ]);
    for (const one of translatables(document)) {
      document = apply(document, translating(one, "fr", doc("Bonjour") as never));
    }
    expect(said("languages", document)).toEqual([]);
    const value = doc("Good evening") as never;
    document = apply(document, { type: "set", node: "b", path: ["words"], value });
    expect(said("languages", document)).toEqual([
      "look at b: One text has changed since its translation to French",
    ]);
  });
});

describe("derived tags", () => {
  const derived = (words: TextJson, cases: DerivedTag["cases"] = []): DerivedTag => ({
    id: "greeting",
    name: "Greeting",
    kind: "text",
    cases,
    otherwise: { words: words as never },
  });
  const email = emailOf([text("a", doc(paragraph(tag("derived:greeting"))))]);
  const of = (one: DerivedTag | null, readers: Parameters<typeof said>[2] = {}) =>
    (["fallback", "who-sees"] as const).flatMap((check) =>
      said(check, email, readers, { derived: new Map(one ? [[one.id, one]] : []) }),
    );
  it("stop where they are gone, or what they are made of is", () => {
    expect(of(derived(line("Dear ", tag("contact:first", "friend"))))).toEqual([]);
    const gone = ["stop at a: What a merge tag names is gone"];
    expect(of(null)).toEqual(gone);
    expect(of(derived(line(tag("contact:gone"))))).toEqual(gone);
    expect(of(derived(line(tag("code:gone"))))).toEqual(gone);
  });
  it("stop as well where a link, an address or HTML of one's own names them", () => {
    const button = createBlock("button", () => "b", { to: { kind: "derived", tag: "greeting" } });
    const html = createBlock("html", () => "h", { source: "<p>{{ derived.greeting }}</p>" });
    const all = emailOf([button, html], {
      envelope: {
        fromName: line("x"),
        fromAddress: "derived:greeting",
        replyTo: "",
        subject: line("x"),
        preview: line(),
      },
    });
    const gone = "A derived tag is gone, or what it is made of";
    expect(said("fallback", all)).toEqual(
      ["envelope", "b", "h"].map((at) => `stop at ${at}: ${gone}`),
    );
    const one = derived(line("Hello"));
    expect(said("fallback", all, {}, { derived: new Map([[one.id, one]]) })).toEqual([]);
  });
  it("stop where one of their rules cannot be read", () => {
    const cases = [{ rule: named, value: { words: line("Dear friend") } }];
    const problems = ["This rule names a field that is gone."];
    expect(of(derived(line("Hello"), cases), { problems })).toEqual([
      "stop at email: The rule of a derived tag cannot be read",
    ]);
  });
});

describe("pictures that a derived tag chooses", () => {
  const scene = (more: Partial<DerivedTag> = {}): DerivedTag => ({
    id: "scene",
    name: "Scene",
    kind: "picture",
    cases: [{ rule: named, value: { picture: "b".repeat(64), alt: line("The lake") } }],
    otherwise: { picture: PICTURE, alt: line("The brook") },
    ...more,
  });
  const of = (one: DerivedTag | null, props: object = {}) => {
    const block = createBlock("image", () => "i", { picture: "derived:scene", ...props });
    const derived = new Map(one ? [[one.id, one]] : []);
    const pictures = new Map([[PICTURE, picture(PICTURE, { alpha: true })]]);
    return (["fallback", "chosen-picture", "alt-text", "see-through"] as const).flatMap((check) =>
      said(check, emailOf([block]), {}, { derived, pictures }),
    );
  };
  const veil = "look at i: A transparent image may vanish in the dark";

  it("are there, for everybody, with words for each", () => {
    const backing = "sheet";
    expect(of(scene(), { backing })).toEqual([]);
    expect(of(null)).toEqual(["stop at i: A derived tag is gone, or what it is made of"]);
    const words = scene({ kind: "text", cases: [], otherwise: { words: line("x") } });
    expect(of(words, { backing })).toEqual(["stop at i: “Scene” gives no image"]);
    const nothing = scene({ otherwise: { picture: null, alt: line() } });
    expect(of(nothing, { backing })).toEqual(["look at i: Some readers get no image of “Scene”"]);
    const silent = scene({ otherwise: { picture: PICTURE, alt: line() } });
    expect(of(silent, { backing })).toEqual(["look at i: An image of “Scene” has no alt text"]);
    expect(of(silent, { backing, alt: line("A view") })).toEqual([]);
    expect(of(silent, { backing, decorative: true })).toEqual([]);
  });
  it("are looked at in the dark, each of them", () => {
    expect(of(scene())).toEqual([veil]);
  });
});

describe("whole addresses", () => {
  const to = (fallback: string | null = null) =>
    emailOf([
      createBlock("button", () => "b", {
        label: line("Yours"),
        to: { kind: "web", address: line(tag("contact:first", fallback)) },
      }),
    ]);
  const values = new Map([
    [
      "contact:first",
      [
        { value: "https://larkmoor.example/ann", people: 7 },
        { value: "javascript:alert(1)", people: 2 },
        { value: null, people: 1200 },
      ],
    ],
  ]);
  it("say how many readers they lead nowhere, a fallback counted in", () => {
    expect(said("address", to(), { values })).toEqual([
      "look at b: A link leads 1,202 readers nowhere",
    ]);
    expect(said("address", to("https://larkmoor.example"), { values })).toEqual([
      "look at b: A link leads 2 readers nowhere",
    ]);
    const good = new Map([["contact:first", values.get("contact:first")!.slice(0, 1)]]);
    expect(said("address", to(), { values: good })).toEqual([]);
  });
  it("say it without a number where nobody has counted, and leave the rest to the other checks", () => {
    expect(said("address", to())).toEqual(["look at b: “first” is where a link leads"]);
    expect(said("address", to("https://larkmoor.example"))).toEqual([]);
    expect(said("fallback", to(), { values })).toEqual([]);
  });
});
