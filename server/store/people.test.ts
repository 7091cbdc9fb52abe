import { afterAll, beforeAll, beforeEach, expect, it } from "vitest";
import type { Field } from "#core/fields/index.ts";
import { createContactViews } from "../audience/contact-views.ts";
import { applyFieldForm, type FieldForm } from "../audience/field-forms.ts";
import { askToJoin, confirmJoin } from "../audience/signing-up.ts";
import { worldOf } from "../audience/world.ts";
import { scheduleCampaign } from "../campaigns/scheduling.ts";
import { viewSchema } from "../store/views.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { addList, addSegment, listsOf, rulesOfAudience } from "./audience.ts";
import { putBack, takeOutRecord } from "./bin.ts";
import { getCampaign } from "./campaigns.ts";
import { addContacts, changeValues, findContacts, getContact, tagValues } from "./contacts.ts";
import { findDuplicates, mergeContacts } from "./duplicates.ts";
import { copyOfData, eraseContact, recallErased } from "./erasing.ts";
import { addFields, addTable, changeField, getFields, getSchema, removeTable } from "./fields.ts";
import { caughtBy, countReach, countRules, missedBy, overlapOf } from "./reach.ts";
import { countAudience } from "./readers.ts";
import { addRecords, changeRecord, searchRecords } from "./records.ts";
import { addSignup, getForm, saveForm, signedUpAfter } from "./signups.ts";
import { pageOfSuppressions, release, suppress, suppressAll } from "./suppressions.ts";
import { addTopic, chooseTopics, consentsOf, leftTopics } from "./topics.ts";

const ALL = { search: "", from: 0, limit: 1_000 };
let services: TestServices;
const sql = () => services.database.sql;
const now = new Date("2026-03-02T10:00:00Z");
const FIELDS: readonly Field[] = [
  { id: "name", label: "Name", type: "text" },
  { id: "kind", label: "Kind", type: "choice", options: ["Friend", "Patron"] },
  { id: "likes", label: "Likes", type: "choices", options: ["Seeds", "Walks"] },
  { id: "gift", label: "Gift", type: "yesNo" },
  { id: "home", label: "Home", type: "place" },
  { id: "site", label: "Site", type: "record", table: "sites" },
];
const SITE: readonly Field[] = [
  { id: "hours", label: "Hours", type: "text" },
  { id: "next", label: "Next", type: "record", table: "sites" },
];

beforeAll(async () => {
  services = await startTestServices();
  await addTable(sql(), "sites", "Sites", now);
  await addFields(sql(), SITE, "sites");
  await addFields(sql(), FIELDS);
  const fields = await getFields(sql(), "sites");
  await addRecords(
    sql(),
    "sites",
    fields,
    [
      { name: "Hill", values: { hours: "10 to 5", next: 2 } },
      { name: "Saltmere", values: { hours: "11 to 4", next: 1 } },
    ],
    now,
  );
});
afterAll(() => services.close());
beforeEach(async () => {
  await sql()`delete from contacts`;
  await sql()`delete from suppressions`;
});

const add = (email: string, values: Record<string, never> | object = {}) =>
  addContacts(sql(), [{ email, values: values as never, createdAt: now }]).then(([id]) => id!);
const test = (field: string, op: string, argument: unknown) =>
  ({ type: "field", field, op, argument }) as never;

it("tags read through records, also where they point round in a circle", async () => {
  const id = await add("ann@example.org", {
    name: "Ann",
    likes: ["Walks", "Seeds"],
    gift: true,
    home: { lat: 1, lon: 2, name: "Brook" },
    site: 1,
  });
  const values = (await tagValues(sql(), [id])).get(id)!;
  expect(values).toMatchObject({
    "contact:email": "ann@example.org",
    "contact:likes": "Seeds, Walks",
    "contact:gift": "yes",
    "contact:home": "Brook",
    "contact:site": "Hill",
    "contact:site.hours": "10 to 5",
    "contact:site.next": "Saltmere",
    "contact:site.next.next.hours": "10 to 5",
  });
  expect(values["contact:site.next.next.next.hours"]).toBeUndefined();
});

it("keeps values of their field's type only", async () => {
  const id = await add("ann@example.org", { kind: "friend", likes: ["nothing"], gift: "yes" });
  expect((await getContact(sql(), id))!.values).toEqual({ kind: "Friend" });
  await changeValues(sql(), id, { kind: null, name: "  Ann\u0000 ", site: 2 });
  expect((await getContact(sql(), id))!.values).toEqual({ name: "Ann", site: 2 });
  await expect(add("ann@EXAMPLE.org")).rejects.toThrow();
  await expect(add("no address")).rejects.toThrow("Not a mail address");
});

it("drops choices that are taken away, and fields with their table", async () => {
  const id = await add("ann@example.org", { kind: "Patron", likes: ["Seeds", "Walks"] });
  const change = { label: "Likes", options: ["Walks"], standard: undefined, format: {} };
  await changeField(sql(), "contacts", "likes", change);
  expect((await getContact(sql(), id))!.values).toEqual({ kind: "Patron", likes: ["Walks"] });
  await changeField(sql(), "contacts", "likes", { ...change, options: ["Seeds", "Walks"] });
  await addTable(sql(), "plots", "Plots", now);
  await addFields(sql(), [{ id: "plot", label: "Plot", type: "record", table: "plots" }]);
  await removeTable(sql(), "plots");
  expect((await getSchema(sql())).tables.has("plots")).toBe(false);
  expect((await getFields(sql())).has("plot")).toBe(false);
});

it("a field that a segment names stays; a new one gets an id of its own", async () => {
  await addSegment(sql(), "Friends", test("kind", "is", "Friend"), now);
  const refused = await applyFieldForm(sql(), "contacts", { do: "removeField", field: "kind" });
  expect(refused?.field?.[0]).toContain("“Friends”");
  const form: FieldForm = { do: "addField", label: "Name", type: "text", options: [], target: "" };
  expect(await applyFieldForm(sql(), "contacts", form)).toBeNull();
  expect((await getFields(sql())).get("name_2")?.label).toBe("Name");
  await applyFieldForm(sql(), "contacts", { do: "removeField", field: "name_2" });
  const choice: FieldForm = { ...form, label: "Colour", type: "choice" };
  expect((await applyFieldForm(sql(), "contacts", choice))?.options).toBeDefined();
});

it("records change, and what pointed to a removed one points nowhere", async () => {
  const fields = await getFields(sql(), "sites");
  const [third] = await addRecords(sql(), "sites", fields, [{ name: "Île", values: {} }], now);
  await changeRecord(sql(), "sites", fields, third!, { name: "Isle", values: { hours: "Never" } });
  const id = await add("ann@example.org", { site: third });
  expect((await searchRecords(sql(), "sites", fields, ALL)).map(({ name }) => name)).toContain(
    "Isle",
  );
  await services.database.tx((tx) => takeOutRecord(tx, "sites", third!, "Isle", now));
  expect((await getContact(sql(), id))!.values).toEqual({});
});

it("a record that was removed comes back with what pointed to it, as far as that is still so", async () => {
  const fields = await getFields(sql(), "sites");
  const [one, other] = await addRecords(
    sql(),
    "sites",
    fields,
    ["Quay", "Mill"].map((name) => ({ name, values: { hours: "9 to 5" } })),
    now,
  );
  const [stays, moves] = [
    await add("stays@example.org", { site: one }),
    await add("moves@example.org", { site: one }),
  ];
  const named = async () =>
    (await searchRecords(sql(), "sites", fields, { ...ALL, search: "Quay" })).map((r) => r.values);
  const remove = () =>
    services.database.tx((tx) => takeOutRecord(tx, "sites", one!, "“Quay”", now));
  const removed = (await remove())!;
  expect(await named()).toEqual([]);
  expect((await getContact(sql(), stays))!.values).toEqual({});
  // Somebody has been moved to another place since: that counts.
  await changeValues(sql(), moves, { site: other! });
  expect(await services.database.tx((tx) => putBack(tx, removed))).toBe("“Quay”");
  expect(await named()).toEqual([{ hours: "9 to 5" }]);
  expect((await getContact(sql(), stays))!.values).toEqual({ site: one });
  expect((await getContact(sql(), moves))!.values).toEqual({ site: other });
  // Another of its name has its place.
  const again = (await remove())!;
  await addRecords(sql(), "sites", fields, [{ name: "quay", values: {} }], now);
  expect(await services.database.tx((tx) => putBack(tx, again))).toBeNull();
  expect(await remove()).toBeNull();
});

it("counts the reach with and without those held back, and says who just misses and why", async () => {
  await add("a@example.org", { kind: "Friend", gift: true });
  await add("b@example.org", { kind: "Friend" });
  await add("c@example.org", { kind: "Patron" });
  await add("d@example.org", { kind: "Friend", gift: true });
  await suppress(sql(), "D@example.org", "unsubscribed", now);
  const world = await worldOf(sql(), services.clock);
  const rule = {
    type: "all" as const,
    rules: [test("kind", "is", "Friend"), test("gift", "yes", null)],
  };
  expect(await countReach(sql(), rule, world)).toEqual({ mailable: 1, all: 2, of: 3 });
  const emails = (list: readonly { email: string }[]) => list.map(({ email }) => email);
  expect(emails(await caughtBy(sql(), rule, world, 10))).toEqual([
    "a@example.org",
    "d@example.org",
  ]);
  const missed = await missedBy(sql(), rule, world, 10);
  expect(missed.map(({ email, misses, parts }) => [email, misses, parts])).toEqual([
    ["b@example.org", 1, [1]],
    ["c@example.org", 2, [0, 1]],
  ]);
  const { shared, all } = await overlapOf(sql(), rule.rules, world);
  expect(shared).toEqual([
    [2, 1],
    [1, 1],
  ]);
  expect(all).toEqual([3, 2]);
});

it("shows any page of a view, in an order that stays while it is open", async () => {
  const emails = Array.from(
    { length: 250 },
    (_, i) => `p${String(i).padStart(3, "0")}@example.org`,
  );
  await addContacts(
    sql(),
    emails.map((email, i) => ({ email, values: { name: `N${i % 7}` }, createdAt: now })),
  );
  const views = createContactViews();
  const world = await worldOf(sql(), services.clock);
  const view = viewSchema.parse({ sort: "name", down: "1" });
  const { token, total } = await views.open(sql(), view, world);
  expect(total).toBe(250);
  const page = await views.rows(sql(), token, view, world.fields, async () => world, 0, 3);
  expect(page.map(({ values }) => values.name)).toEqual(["N6", "N6", "N6"]);
  await changeValues(sql(), page[0]!.id, { name: "A" });
  const again = await views.rows(sql(), token, view, world.fields, async () => world, 0, 3);
  expect(again.map(({ id }) => id)).toEqual(page.map(({ id }) => id));
  expect(again[0]!.values.name).toBe("A");
  const found = viewSchema.parse({ search: "P24" });
  expect((await views.open(sql(), found, world)).total).toBe(10);
});

it("holds back and lets go, whatever the case, and marks the contacts", async () => {
  const id = await add("Ann@example.org");
  expect(await suppressAll(sql(), ["ann@EXAMPLE.org", "x@example.org"], "blocked", now)).toBe(2);
  expect(await suppressAll(sql(), ["ann@example.org"], "bounced", now)).toBe(0);
  expect((await getContact(sql(), id))!.heldBack).toBe("blocked");
  expect((await pageOfSuppressions(sql(), "ANN", 1)).total).toBe(1);
  await release(sql(), "ANN@example.org", ["unsubscribed"]);
  expect((await getContact(sql(), id))!.heldBack).toBe("blocked");
  await release(sql(), "ANN@example.org");
  expect((await getContact(sql(), id))!.heldBack).toBeNull();
  const late = await add("x@example.org");
  expect((await getContact(sql(), late))!.heldBack).toBe("blocked");
});

it("merges two spellings of one mailbox with their lists, choices and consent", async () => {
  const first = await add("Ann@example.org", { name: "A." });
  const second = await add("ann@example.org", { name: "Ann", kind: "Friend" });
  await addList(sql(), "One", [first], now);
  await addList(sql(), "Two", [second], now);
  const topic = await addTopic(sql(), { en: "News" }, {}, now);
  const how = { source: "test", language: "en" as const, at: now };
  await chooseTopics(sql(), second, new Set(), how);
  const groups = await findDuplicates(sql(), await getFields(sql()));
  expect(groups.map((group) => group.map(({ id }) => id))).toEqual([[first, second]]);
  await services.database.tx((tx) =>
    mergeContacts(tx, first, [first, second], { name: "Ann", kind: "Friend" }),
  );
  expect(await findContacts(sql(), "ann")).toHaveLength(1);
  expect((await getContact(sql(), first))!.values).toEqual({ name: "Ann", kind: "Friend" });
  expect((await listsOf(sql(), first)).map(({ name }) => name)).toEqual(["One", "Two"]);
  expect(await leftTopics(sql(), first)).toEqual(new Set([topic]));
  expect(await consentsOf(sql(), first)).toHaveLength(1);
  await sql()`delete from topics`;
});

it("erases a person and leaves the counts; who was held back stays so when added again", async () => {
  const id = await add("gone@example.org", { name: "Gone" });
  await sql()`insert into events (kind, at, contact_id, data)
    values ('bought', ${now}, ${id}, '{"amount": 3}')`;
  await suppress(sql(), "gone@example.org", "unsubscribed", now);
  const copy = (await copyOfData(sql(), id))!;
  expect(copy).toMatchObject({ email: "gone@example.org", values: { name: "Gone" } });
  expect(copy.events).toHaveLength(1);
  await services.database.tx((tx) => eraseContact(tx, id, now));
  expect(await sql()`select contact_id, data from events where kind = 'bought'`).toEqual([
    { contact_id: null, data: {} },
  ]);
  const left = JSON.stringify(await sql()`select * from suppressions`);
  expect(left).not.toContain("gone");
  const again = await add("gone@example.org");
  await recallErased(sql(), [again]);
  expect((await getContact(sql(), again))!.heldBack).toBe("unsubscribed");
});

it("signs up by two steps: nobody is added before, and each token serves once", async () => {
  const list = await addList(sql(), "Letters", [], now);
  const form = await saveForm(
    sql(),
    null,
    {
      name: "Site",
      language: "fr",
      list,
      title: "Lettres",
      wording: "Oui, je veux bien.",
      fields: ["name"],
      topics: [],
    },
    now,
  );
  const asked = { email: "new@Example.org", values: { name: "Néa" }, topics: [] };
  for (let i = 0; i < 5; i++) await askToJoin(services, (await getForm(sql(), form))!, asked);
  expect(await findContacts(sql(), "new@")).toEqual([]);
  const messages = await sql()<{ subject: string }>`
    select subject from outbox_messages where to_address = 'new@example.org'`;
  // Three in a day at most; the others are not told.
  expect(messages.map(({ subject }) => subject)).toEqual(
    Array.from({ length: 3 }, () => "À confirmer : les nouvelles de Our newsletter"),
  );
  expect(await confirmJoin(services, "made up")).toBe(false);
  const token = await addSignup(sql(), {
    form,
    email: "new@example.org",
    values: { name: "Néa" },
    topics: [],
    wording: "Oui, je veux bien.",
    at: now,
  });
  await suppress(sql(), "new@example.org", "unsubscribed", now);
  const blocked = { ...asked, email: "blocked@example.org" };
  await suppress(sql(), "Blocked@example.org", "blocked", now);
  await askToJoin(services, (await getForm(sql(), form))!, blocked);
  expect(await sql()`select 1 from outbox_messages where to_address like 'blocked%'`).toEqual([]);
  expect(await confirmJoin(services, token)).toBe(true);
  expect(await confirmJoin(services, token)).toBe(false);
  const [person] = await findContacts(sql(), "new@");
  expect(person).toMatchObject({ values: { name: "Néa" }, heldBack: null });
  expect(await consentsOf(sql(), person!.id)).toMatchObject([
    { given: true, wording: "Oui, je veux bien.", source: "sign-up form “Site”" },
  ]);
  expect((await listsOf(sql(), person!.id)).map(({ name }) => name)).toEqual(["Letters"]);
});

it("puts a sign-up down to the email in which somebody clicked last, once and within its days", async () => {
  const { campaign, member, contacts } = await smallCampaign(services, ["one@x.example"]);
  await scheduleCampaign(services, campaign, null, "UTC", member.id);
  const launch = (await getCampaign(sql(), campaign.id))!.launchId!;
  const click = (days: number, machine = false) => sql()`
    insert into events (kind, at, contact_id, launch_id, campaign_id, machine)
    values ('clicked', ${new Date(now.getTime() - days * 86_400_000)}, ${contacts[0]}, ${launch}, ${campaign.id}, ${machine})`;
  const list = await addList(sql(), "Letters", [], now);
  const wording = "Yes.";
  const form = await saveForm(
    sql(),
    null,
    { name: "Site", language: "en", list, title: "News", wording, fields: [], topics: [] },
    now,
  );
  const signUp = async () => {
    const asked = { form, email: "one@x.example", values: {}, topics: [], wording, at: now };
    expect(await confirmJoin(services, await addSignup(sql(), asked))).toBe(true);
    return signedUpAfter(sql(), launch);
  };
  await click(8);
  await click(-1);
  await click(1, true);
  expect(await signUp()).toBe(0);
  await click(6);
  expect(await signUp()).toBe(1);
  // Somebody is one person, however often they sign up.
  expect(await signUp()).toBe(1);
});

it("leaves out of an audience who has left its topic", async () => {
  const [a, b] = [await add("a@example.org"), await add("b@example.org")];
  const list = await addList(sql(), "Both", [a, b], now);
  const topic = await addTopic(sql(), { en: "Walks", fr: "Promenades" }, {}, now);
  await chooseTopics(sql(), b, new Set(), { source: "test", language: "fr", at: now });
  const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
  const world = await worldOf(sql(), services.clock, rulesOfAudience(audience));
  expect(await countAudience(sql(), audience, world, topic)).toMatchObject({ readers: 1, left: 1 });
  expect(await countAudience(sql(), audience, world, null)).toMatchObject({ readers: 2, left: 0 });
  expect((await consentsOf(sql(), b))[0]!.wording).toBe("Promenades");
});

it("changes a record's name or its values, each without the other", async () => {
  const fields = await getFields(sql(), "sites");
  const [hill] = await searchRecords(sql(), "sites", fields, { search: "Hill", from: 0, limit: 1 });
  const again = async () =>
    (await searchRecords(sql(), "sites", fields, { search: "", from: 0, limit: 9 })).find(
      ({ id }) => id === hill!.id,
    );
  await changeRecord(sql(), "sites", fields, hill!.id, { values: { hours: "9 to 4" } });
  expect(await again()).toMatchObject({ name: "Hill", values: { hours: "9 to 4" } });
  await changeRecord(sql(), "sites", fields, hill!.id, { name: "Hill top" });
  expect(await again()).toMatchObject({ name: "Hill top", values: { hours: "9 to 4" } });
  await changeRecord(sql(), "sites", fields, hill!.id, { name: "Hill", values: hill!.values });
});

it("changes nothing of somebody where there is nothing to change", async () => {
  const id = await add("still@example.org", { name: "Ann" });
  await changeValues(sql(), id, {});
  expect((await getContact(sql(), id))!.values).toMatchObject({ name: "Ann" });
});

it("counts more rules than go in one pass, each for itself", async () => {
  for (const name of ["Ann", "Ben", "Cy"]) await add(`${name}@example.org`, { name });
  const world = await worldOf(sql(), services.clock);
  const rules = ["Ann", "Ben", "Cy", "Dee", "Ann", "Ben"].map((name) => test("name", "is", name));
  const counts = await countRules(sql(), rules, world);
  expect(counts.map(({ all }) => all)).toEqual([1, 1, 1, 0, 1, 1]);
});

it("gives every value of a record, however many fields it has", async () => {
  await addTable(sql(), "wide", "Wide", now);
  const many = Array.from({ length: 101 }, (_, i): Field => {
    return { id: `part${i}`, label: `Part ${i}`, type: "text" };
  });
  await addFields(sql(), many, "wide");
  const fields = await getFields(sql(), "wide");
  const values = Object.fromEntries(many.map(({ id }, i) => [id, `Value ${i}`]));
  await addRecords(sql(), "wide", fields, [{ name: "All", values }], now);
  const [all] = await searchRecords(sql(), "wide", fields, ALL);
  expect(all!.values).toEqual(values);
});
