/** Random emails with rules over fields, merged by Liquid engines and by us: the same messages. */
import { execFileSync, spawnSync } from "node:child_process";
import fc from "fast-check";
import { Liquid } from "liquidjs";
import { parse, serialize } from "parse5";
import { describe, expect, it } from "vitest";
import { createBlock } from "../../blocks/index.ts";
import { type Key, keysOf } from "../../fields/index.ts";
import { mergeText, prepare } from "../../merge/index.ts";
import { type CompiledEmail, compile } from "../../render/index.ts";
import { compileRule, type Rule, type Subject, type World } from "../../rules/index.ts";
import { nowIn } from "../../schedule/index.ts";
import { conditionalArbitrary } from "../../testing/arbitrary-conditions.ts";
import { documentArbitrary } from "../../testing/arbitrary-documents.ts";
import {
  personArbitrary,
  type RandomPerson,
  ruleArbitrary,
  SCHEMA,
  SEGMENTS,
} from "../../testing/arbitrary-rules.ts";
import { nastyText } from "../../testing/arbitrary-texts.ts";
import { DIRECT, emailOf, ids, SURROUNDINGS } from "../../testing/rendered.ts";
import { doc, paragraph, type TextJson, tag } from "../../text/index.ts";
import { type LiquidTemplate, toLiquid } from "./index.ts";

const WORLD: World = {
  ...SCHEMA,
  segments: SEGMENTS,
  now: nowIn("Europe/London", new Date("2026-03-02T10:00:00Z")),
  names: new Map([["list:a", "Volunteers"]]),
};

const RECORDS: Record<string, Record<number, Record<string, Key>>> = {
  sites: { 1: { name: "hill", beds: 4, warden: 1 }, 2: { name: "ile", warden: 2 } },
  wardens: { 1: { name: "ada", born: "1970-02-28", at: 2 }, 2: { name: "elodie" } },
};
const subjectOf = ({ values, lists, held }: RandomPerson): Subject => ({
  keys: {
    ...{ email: "a@x.example", added: "2026-01-09", standing: held ?? "can be mailed" },
    ...keysOf(values, WORLD.fields),
  },
  ...{ lists: new Set(lists), activity: [] },
  record: (table, id) => RECORDS[table]?.[id] ?? null,
});

/** What is compared at the end of a path. */
function factOf(who: Subject, path: string): unknown {
  const [first, ...rest] = path.split(".") as [string, ...string[]];
  let table = WORLD.fields.get(first)?.table;
  let value: unknown = who.keys[first];
  for (const id of rest) {
    const keys: Record<string, unknown> | null =
      table && typeof value === "number" ? who.record(table, value) : null;
    value = keys?.[id];
    table = WORLD.tables.get(table ?? "")?.fields.get(id)?.table;
  }
  return value ?? undefined;
}

const readerOf = (email: CompiledEmail, who: Subject, words: readonly string[]) => ({
  values: { "contact:first": words[0], "contact:visits": 7, "contact:joined": words[1] },
  token: "t",
  bits: email.conditions
    .map((key) => (compileRule(JSON.parse(key) as Rule, WORLD)(who) ? "1" : "0"))
    .join(""),
});

const conditional = documentArbitrary.chain((document) =>
  conditionalArbitrary(document, ruleArbitrary),
);
const cases = fc.tuple(conditional, personArbitrary, fc.tuple(nastyText, nastyText));

/** A case as an engine gets it, and what it has to give. */
function caseOf([document, person, words]: typeof cases extends fc.Arbitrary<infer T> ? T : never) {
  const email = compile(document, SURROUNDINGS);
  const who = subjectOf(person);
  const reader = readerOf(email, who, words);
  const template = toLiquid(email, { links: "direct", sign: () => "-", world: WORLD });
  const facts = Object.fromEntries(template.facts.map((path) => [path, factOf(who, path)]));
  const ours = prepare(email, DIRECT);
  return {
    template,
    variables: template.variables(reader, facts),
    html: mergeText(ours.html, reader),
    subject: mergeText(ours.subject, reader),
  };
}

const engine = new Liquid({ outputEscape: undefined });

it("gives our own bytes by liquidjs, whatever the rules", () => {
  fc.assert(
    fc.property(cases, (one) => {
      const { template, variables, html, subject } = caseOf(one);
      expect(engine.parseAndRenderSync(template.html, variables)).toBe(html);
      expect(engine.parseAndRenderSync(template.subject, variables)).toBe(subject);
    }),
    { numRuns: 200 },
  );
});

const hasReference = spawnSync("ruby", ["-e", 'require "liquid"']).status === 0;
const MOST_BYTES = 512 * 1024 * 1024;
const REFERENCE = `
require "json"
require "liquid"
cases = JSON.parse(STDIN.read)
puts JSON.generate(cases.map { |c|
  Liquid::Template.parse(c["template"], error_mode: :strict).render!(c["variables"])
})`;

/** What the reference engine makes of some templates. */
function byReference(cases: readonly { template: string; variables: object }[]): string[] {
  const said = execFileSync("ruby", ["-E", "UTF-8:UTF-8", "-e", REFERENCE], {
    input: JSON.stringify(cases),
    maxBuffer: MOST_BYTES,
  });
  return JSON.parse(said.toString());
}

/** The same HTML as parsed: engines spell a quotation mark in different ways, in comments too. */
const parsed = (html: string) => serialize(parse(html.replaceAll("&quot;", "&#34;")));

/** Two long texts from shortly before where they part. */
function apart(a: string, b: string): [string, string] {
  let at = 0;
  while (at < a.length && a[at] === b[at]) at++;
  return [a.slice(Math.max(0, at - 80), at + 160), b.slice(Math.max(0, at - 80), at + 160)];
}

it.skipIf(!hasReference)(
  "gives the same HTML by the reference engine, for 300 emails and readers",
  () => {
    // Told where it fails, to have the same emails again.
    const seed = Math.trunc(Math.random() * 2 ** 31);
    const sampled = fc.sample(cases, { numRuns: 300, seed }).map(caseOf);
    const said = byReference(
      sampled.map(({ template, variables }) => ({ template: template.html, variables })),
    );
    for (const [i, html] of said.entries()) {
      const [theirs, ours] = apart(parsed(html), parsed(sampled[i]!.html));
      expect(theirs, `seed ${seed}, email ${i}`).toBe(ours);
    }
  },
  120_000,
);

const rule = (field: string, op: string, argument: unknown = null): Rule =>
  ({ type: "field", field, op, argument }) as Rule;
const group = (type: "all" | "any" | "none", ...rules: Rule[]): Rule => ({ type, rules });
/** The template of a text that some see. */
function templateFor(seenBy: Rule, words: TextJson = doc("Seen")): LiquidTemplate {
  const block = createBlock("text", ids(), { words, seenBy } as never);
  return toLiquid(compile(emailOf([block]), SURROUNDINGS), {
    ...{ links: "direct", sign: () => "-", world: WORLD },
  });
}

describe("a rule over fields", () => {
  const tagsOf = (seenBy: Rule) =>
    [...templateFor(seenBy).text.matchAll(/\{%-? (.*?) -?%\}/g)].map(([, tag]) => tag);
  it("is written where it stands, in the standard's own operators", () => {
    expect(tagsOf(rule("kind", "is", "Friend"))).toEqual(['if facts["kind"] == "friend"', "endif"]);
    expect(tagsOf(group("any", rule("donor", "yes"), rule("likes", "includes", ["Thé"])))).toEqual([
      'if facts["donor"] == true or facts["likes"] contains "the"',
      "endif",
    ]);
  });
  it("is turned round where all of it can be, and by unless where not", () => {
    expect(tagsOf(group("none", rule("kind", "is", "Friend")))).toEqual([
      'if facts["kind"] != "friend"',
      "endif",
    ]);
    expect(tagsOf(group("none", rule("name", "contains", "x")))).toEqual([
      'unless facts["name"] contains "x"',
      "endunless",
    ]);
  });
  it("is worked out above, once, where it needs brackets", () => {
    const both = group(
      "any",
      rule("donor", "yes"),
      group("all", rule("count", "above", 2), rule("kind", "is", "Patron")),
    );
    expect(tagsOf(both)).toEqual([
      "assign rule_1 = false",
      ...['if facts["donor"] == true', "assign rule_1 = true", "endif"],
      ...[
        'if facts["count"] != nil and facts["count"] > 2 and facts["kind"] == "patron"',
        "assign rule_1 = true",
        "endif",
      ],
      ...["if rule_1", "endif"],
    ]);
  });
});

describe("the contract", () => {
  it("names what Liquid cannot say by its words, and tells the type of all that is asked for", () => {
    const { contract, text } = templateFor(
      group("all", rule("since", "withinLast", 30), rule("donor", "yes")),
    );
    expect(text).toContain("{% if since_is_within_the_last_30_days_and_donor_is_ye %}");
    expect(contract).toContainEqual({
      name: "since_is_within_the_last_30_days_and_donor_is_ye",
      type: "true or false",
      about: "Since is within the last 30 days and Donor is yes",
    });
    expect(templateFor(rule("count", "above", 2)).contract).toContainEqual({
      name: 'facts["count"]',
      type: "number; left out where there is none",
      about: "Count, as rules compare it",
    });
  });
});

it("writes what stands for a missing value without braces in a literal", () => {
  const words = doc(paragraph(tag("contact:first", `{{ "it's" }}`)));
  const { html, text } = templateFor(rule("donor", "yes"), words);
  expect(html).not.toMatch(/default: ["'][^"']*[{}]/);
  expect(engine.parseAndRenderSync(text, { facts: { donor: true } })).toContain(`{{ "it's" }}`);
});

it("takes a backslash for a backslash, in what stands for a missing value and in a rule", () => {
  const fallback = "one\\ntwo \\";
  const words = doc(paragraph(tag("contact:first", fallback)));
  const { text, html } = templateFor(rule("name", "is", "a\\b"), words);
  expect(html).not.toMatch(/["'][^"'{}]*\\[^"'{}]*["'] *(\| escape)? *\}\}/);
  const [holds] = [...templateFor(rule("name", "is", "a\\b")).contract].filter(
    ({ type }) => type === "true or false",
  );
  const variables = { facts: {}, contact: {}, [holds!.name]: true };
  expect(engine.parseAndRenderSync(text, variables)).toContain(fallback);
  if (!hasReference) return;
  expect(byReference([{ template: text, variables }])[0]).toContain(fallback);
});

it("keeps a blank that only some see", () => {
  const seen = (text: string, seenBy: Rule): TextJson => ({
    ...{ type: "text", text, marks: [{ type: "who", attrs: { seenBy, chain: null } as never }] },
  });
  const content = [
    ...[{ type: "text", text: "one" }, seen(" ", rule("donor", "yes"))],
    { type: "text", text: "two" },
  ];
  const { text } = templateFor(rule("count", "above", 2), doc({ type: "paragraph", content }));
  const variables = { facts: { donor: true, count: 3 } };
  expect(engine.parseAndRenderSync(text, variables)).toContain("one two");
  const without = { facts: { donor: false, count: 3 } };
  expect(engine.parseAndRenderSync(text, without)).toContain("onetwo");
  if (!hasReference) return;
  const [shown, left] = byReference([
    { template: text, variables },
    { template: text, variables: without },
  ]);
  expect(shown).toContain("one two");
  expect(left).toContain("onetwo");
});
