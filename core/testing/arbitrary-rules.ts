/** Random rules and people, for property tests. */
import fc from "fast-check";
import { checkValues, type Field, type Values } from "../fields/index.ts";
import {
  type Asks,
  DEEDS,
  type DeedName,
  OPERATORS_BY_TYPE,
  operatorOf,
  type Rule,
  type Schema,
} from "../rules/index.ts";
import { nastyText } from "./arbitrary-texts.ts";

export const FIELDS: readonly Field[] = [
  { id: "name", label: "Name", type: "text" },
  { id: "page", label: "Page", type: "web" },
  { id: "kind", label: "Kind", type: "choice", options: ["Friend", "Patron", "Élu"] },
  { id: "likes", label: "Likes", type: "choices", options: ["Seeds", "Walks", "Thé"] },
  { id: "count", label: "Count", type: "number" },
  { id: "since", label: "Since", type: "date" },
  { id: "donor", label: "Donor", type: "yesNo" },
  { id: "home", label: "Home", type: "place" },
  { id: "zone", label: "Zone", type: "zone" },
  { id: "site", label: "Site", type: "record", table: "sites" },
];
/** Sites have a warden, wardens a site: pointers may go round. */
export const SITE_FIELDS: readonly Field[] = [
  { id: "beds", label: "Beds", type: "number" },
  { id: "warden", label: "Warden", type: "record", table: "wardens" },
];
export const WARDEN_FIELDS: readonly Field[] = [
  { id: "born", label: "Born", type: "date" },
  { id: "at", label: "At", type: "record", table: "sites" },
];
const byId = (fields: readonly Field[]) => new Map(fields.map((field) => [field.id, field]));
/** The same as rules see them. */
export const SCHEMA = {
  fields: byId(FIELDS),
  tables: new Map([
    ["sites", { id: "sites", name: "Sites", fields: byId(SITE_FIELDS) }],
    ["wardens", { id: "wardens", name: "Wardens", fields: byId(WARDEN_FIELDS) }],
  ]),
} satisfies Schema;
export const SITES = ["Hill", "Saltmere", "Île"] as const;
export const WARDENS = ["Ada", "Élodie"] as const;

const PATHS: readonly { path: string; field: Field }[] = [
  ...FIELDS.map((field) => ({ path: field.id, field })),
  { path: "email", field: { id: "email", label: "", type: "text" } },
  { path: "added", field: { id: "added", label: "", type: "date" } },
  { path: "standing", field: { id: "standing", label: "", type: "choice" } },
  { path: "site.name", field: { id: "name", label: "", type: "text" } },
  { path: "site.beds", field: SITE_FIELDS[0]! },
  { path: "site.warden", field: SITE_FIELDS[1]! },
  { path: "site.warden.born", field: WARDEN_FIELDS[0]! },
  { path: "site.warden.at.beds", field: SITE_FIELDS[0]! },
  { path: "gone", field: FIELDS[0]! },
];

const isoDay = fc
  .oneof(fc.integer({ min: -40, max: 40 }), fc.integer({ min: -4_000, max: 4_000 }))
  .map((n) => new Date(Date.UTC(2026, 2, 2) + n * 86_400_000).toISOString().slice(0, 10));
const leapDay = fc.constantFrom("2024-02-29", "2000-02-29", "2026-02-28", "1999-03-01");
const number = fc.oneof(
  fc.integer({ min: -50, max: 50 }),
  fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e9, max: 1e9 }),
);
const degrees = fc.integer({ min: -900, max: 900 }).map((n) => n / 10);

/** Values as somebody might send them: with gaps, wrong types and unicode. */
const sentValues = fc.record(
  {
    name: fc.oneof(nastyText, fc.constantFrom("", "Éloïse", "eloise", "ELOISE", "Straße", "İpek")),
    page: fc.oneof(fc.webUrl(), fc.constantFrom("larkmoor.example/a", "javascript:x", "")),
    kind: fc.oneof(fc.constantFrom("Friend", "friend", "ÉLU", "other", ""), number),
    likes: fc.oneof(
      fc.subarray(["Seeds", "Walks", "the", "nothing"]),
      fc.constantFrom("Seeds", null, {}),
    ),
    count: fc.oneof(number, fc.constantFrom("7", null, Number.NaN), fc.boolean()),
    since: fc.oneof(isoDay, leapDay, fc.constantFrom("", "2026-1-1", "soon", "2026-02-30"), number),
    donor: fc.oneof(fc.boolean(), fc.constantFrom("yes", 1, null)),
    home: fc.oneof(
      fc.record({ lat: degrees, lon: degrees, name: nastyText }),
      fc.constantFrom(null, "51, 0", { lat: 91, lon: 0, name: "" }),
    ),
    zone: fc.constantFrom(
      "Europe/Paris",
      "europe/london",
      "America/New York",
      "UTC",
      "Mars/Base",
      3,
    ),
    site: fc.oneof(fc.integer({ min: 1, max: 5 }), fc.constantFrom(null, "Hill", -1)),
  },
  { requiredKeys: [] },
) as fc.Arbitrary<Values>;

const fields = new Map(FIELDS.map((field) => [field.id, field]));
/** Values as they are kept. */
export const valuesArbitrary = sentValues.map((values) => checkValues(values, fields));

export interface RandomEvent {
  readonly did: string;
  /** Hours before the moment the rule is read at; below zero afterwards. */
  readonly hoursAgo: number;
  readonly campaign: "one" | "two" | null;
  readonly link: number | null;
  readonly item: string | null;
  readonly group: string | null;
}
export interface RandomPerson {
  readonly values: Values;
  readonly addedDaysAgo: number;
  readonly lists: readonly string[];
  readonly held: "unsubscribed" | "bounced" | "blocked" | null;
  readonly events: readonly RandomEvent[];
}
const emailEvent = fc.record({
  did: fc.constantFrom("accepted", "opened", "clicked", "unsubscribed"),
  hoursAgo: fc.oneof(fc.integer({ min: -30, max: 60 }), fc.integer({ min: 0, max: 9_000 })),
  campaign: fc.constantFrom("one", "two"),
  link: fc.constantFrom(null, 1, 2),
  item: fc.constant(null),
  group: fc.constant(null),
});
const otherEvent = fc.record({
  did: fc.constantFrom("bought", "viewed", "answered"),
  hoursAgo: fc.integer({ min: -10, max: 2_000 }),
  campaign: fc.constant(null),
  link: fc.constant(null),
  item: fc.constantFrom("p1", "p2"),
  group: fc.constantFrom("Seeds", "Yes"),
});
export const personArbitrary: fc.Arbitrary<RandomPerson> = fc.record({
  values: valuesArbitrary,
  addedDaysAgo: fc.integer({ min: 0, max: 400 }),
  lists: fc.subarray(["a", "b"]),
  held: fc.constantFrom(null, null, null, "unsubscribed", "bounced", "blocked"),
  events: fc.array(fc.oneof(emailEvent, otherEvent), { maxLength: 5 }),
}) as fc.Arbitrary<RandomPerson>;

const someText = fc.oneof(
  fc.constantFrom("eloise", "Friend", "é", "ss", "i̇", "unsubscribed", "hill", "example"),
  nastyText
    .map((text) => text.replaceAll("\u0000", "").toWellFormed().trim())
    .filter((text) => text !== "" && text.length <= 200),
);
/** What fits each shape of an argument. */
const ARGUMENTS: Record<Asks, fc.Arbitrary<unknown>> = {
  nothing: fc.constant(null),
  words: someText,
  "several words": fc.constantFrom(
    ["Friend"],
    ["ELOISE", "patron"],
    ["straße", "x"],
    ["Bounced"],
    ["Seeds"],
    ["THE", "walks"],
    ["x"],
  ),
  number,
  "two numbers": fc.tuple(number, number).map(([a, b]) => [Math.min(a, b), Math.max(a, b)]),
  date: fc.oneof(isoDay, leapDay),
  "two dates": fc.tuple(isoDay, isoDay).map(([a, b]) => (a < b ? [a, b] : [b, a])),
  days: fc.oneof(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 4_000 })),
  near: fc.record({
    lat: degrees.filter((d) => Math.abs(d) <= 90),
    lon: degrees.map((d) => d * 2).filter((d) => Math.abs(d) <= 180),
    km: fc.constantFrom(50, 500, 5_000),
    name: fc.constantFrom("", "Larkmoor"),
  }),
  record: fc.integer({ min: 1, max: 4 }),
};
/** An argument that an operator takes: by what it asks for, so that a new one is covered as soon as it is listed. */
export const argumentFor = (op: string): fc.Arbitrary<unknown> =>
  ARGUMENTS[operatorOf(op)?.asks ?? "nothing"];

const fieldTest: fc.Arbitrary<Rule> = fc
  .constantFrom(...PATHS)
  .chain(({ path, field }) =>
    fc
      .constantFrom(...OPERATORS_BY_TYPE[field.type])
      .chain(({ op }) =>
        argumentFor(op).map(
          (argument) => ({ type: "field", field: path, op, argument }) as unknown as Rule,
        ),
      ),
  );
const activityTest: fc.Arbitrary<Rule> = fc
  .record({
    did: fc.constantFrom(...(Object.keys(DEEDS) as DeedName[])),
    campaign: fc.constantFrom(null, null, "one", "two"),
    link: fc.constantFrom(null, null, 1),
    item: fc.constantFrom(null, null, "p1"),
    group: fc.constantFrom(null, null, "Seeds"),
    times: fc.record({
      op: fc.constantFrom("atLeast" as const, "atMost" as const),
      count: fc.integer({ min: 0, max: 3 }),
    }),
    when: fc.oneof(
      fc.constant(null),
      fc.record({ last: fc.integer({ min: 1, max: 200 }) }),
      fc.record({ from: fc.option(isoDay), to: fc.option(isoDay) }),
    ),
  })
  .map((test) => ({ type: "activity" as const, ...test }));
const membership: fc.Arbitrary<Rule> = fc.oneof(
  fc.record({
    type: fc.constant("list" as const),
    list: fc.constantFrom("a", "b", "gone"),
    is: fc.boolean(),
  }),
  fc.record({
    type: fc.constant("segment" as const),
    // `round` and `trip` name each other.
    segment: fc.constantFrom("friends", "round", "trip", "gone"),
    is: fc.boolean(),
  }),
);

/** The segments that random rules name. */
export const SEGMENTS: ReadonlyMap<string, Rule> = new Map<string, Rule>([
  ["friends", { type: "field", field: "kind", op: "is", argument: "Friend" }],
  [
    "round",
    {
      type: "any",
      rules: [
        { type: "segment", segment: "trip", is: true },
        { type: "field", field: "count", op: "above", argument: 3 },
      ],
    },
  ],
  ["trip", { type: "none", rules: [{ type: "segment", segment: "round", is: true }] }],
]);

export const ruleArbitrary: fc.Arbitrary<Rule> = fc.letrec<{ rule: Rule }>((tie) => ({
  rule: fc.oneof(
    { maxDepth: 3 },
    fieldTest,
    activityTest,
    membership,
    fc.record({
      type: fc.constantFrom("all" as const, "any" as const, "none" as const),
      rules: fc.array(tie("rule"), { maxLength: 3 }),
    }),
  ),
})).rule;
