import { describe, expect, it } from "vitest";
import { checkDocument } from "#core/blocks/index.ts";
import { runChecks } from "#core/checks/index.ts";
import { mergeText, prepare, unsigned } from "#core/merge/index.ts";
import { chance } from "#core/random.ts";
import { compile } from "#core/render/index.ts";
import { calmNewsletter } from "#core/templates/calm-newsletter.ts";
import { CONTACTS, FIELDS, makeContacts } from "./contacts.ts";
import { monthlyNewsletter, notebook, seedList } from "./emails/index.ts";

const today = new Date("2026-03-02T10:00:00Z");
const picture = "a".repeat(64);
const pictures = {
  "early-flowers": picture,
  "brook-walk": picture,
  glasshouse: picture,
  "seed-packets": picture,
};

describe("the demo's people", () => {
  const people = makeContacts(today);
  it("are the same at every run, and as many as promised", () => {
    expect(people).toHaveLength(CONTACTS);
    expect(makeContacts(today)).toEqual(people);
    expect(new Set(people.map((p) => p.email)).size).toBe(CONTACTS);
  });
  it("live at example domains only, with gaps as in life", () => {
    for (const { email } of people) expect(email).toMatch(/@example\.(org|com|net)$/);
    const without = people.filter((p) => !p.values.first_name).length;
    expect(without).toBeGreaterThan(15);
    expect(without).toBeLessThan(80);
    const known = new Set(FIELDS.map((field) => field.id));
    for (const { values } of people)
      for (const key of Object.keys(values)) expect(known).toContain(key);
    expect(people.filter((p) => p.values.birthday).length).toBeGreaterThan(1_400);
  });
  it("have dates relative to the day", () => {
    const later = makeContacts(new Date("2026-03-03T10:00:00Z"));
    expect(later[5]!.values.joined).not.toBe(people[5]!.values.joined);
    expect(later[5]!.email).toBe(people[5]!.email);
  });
});

describe("the demo's emails", () => {
  const around = {
    brand: { name: "Larkmoor", postalAddress: "Brook Lane 7" },
    publicAddress: "https://mail.larkmoor.example",
    rolls: new Map([
      ["roll", { id: "roll", name: "Roll", emptyText: "", left: 9, warnAt: 0, expires: null }],
    ]),
    pictures: new Map([
      [
        picture,
        { id: picture, file: `${picture}.png`, width: 1200, height: 500, name: "x", alpha: false },
      ],
    ]),
  };
  const fields = new Map(FIELDS.map((field) => [field.id, field]));
  const emails = {
    monthly: monthlyNewsletter(pictures, "March", "roll"),
    seeds: seedList(pictures),
    notebook: notebook(pictures),
    template: calmNewsletter(),
  };
  it.each(Object.entries(emails))("%s is a valid document of a fair size", (_name, doc) => {
    checkDocument(doc);
    const body = prepare(compile(doc, around), {
      links: "tracked",
      marks: false,
      sign: unsigned,
    }).html;
    expect(mergeText(body, { values: {}, token: "t" }).length).toBeLessThan(60_000);
  });
  it("can be sent as they are; the draft has something to look at", () => {
    const stops = (doc: typeof emails.monthly) =>
      runChecks(doc, around, fields).filter((f) => f.severity === "stop");
    for (const doc of [emails.monthly, emails.seeds, emails.notebook])
      expect(stops(doc)).toEqual([]);
    const found = runChecks(emails.monthly, around, fields).map((f) => `${f.severity} ${f.check}`);
    expect(found).toEqual(["look alt-text", "look fallback", "hint link-name"]);
  });
});

it("chance is fair enough and repeats from its seed", () => {
  const draws = (seed: number) => {
    const luck = chance(seed);
    return Array.from({ length: 1_000 }, () => luck.next());
  };
  expect(draws(3)).toEqual(draws(3));
  expect(draws(3)).not.toEqual(draws(4));
  const mean = draws(5).reduce((a, b) => a + b) / 1_000;
  expect(mean).toBeGreaterThan(0.45);
  expect(mean).toBeLessThan(0.55);
});
