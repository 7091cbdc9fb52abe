/** What the screens of the proof are answered where what they ask makes no sense. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { getContact } from "#server/store/contacts.ts";
import { getSettings } from "#server/store/settings.ts";
import { listTests, testGroups } from "#server/store/tests.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { type Asked, answered, routeArgs } from "../testing/route.ts";
import { loader as asking } from "./api.asking.ts";
import { action as looked, loader as sights } from "./api.sights.ts";
import { action as spelling } from "./api.spelling.ts";
import { action as groups } from "./api.test-groups.ts";
import { action as words } from "./api.words.ts";
import { action as test } from "./campaign.proof.tsx";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
const args = (asked: Asked) =>
  routeArgs(services, made.member, asked, { campaign: made.campaign.id });
const json = (body: unknown): Asked => ({ body: JSON.stringify(body) });
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
});
afterAll(() => services.close());

it("shows contacts there are, and as many at once as may be", async () => {
  const ask = (query: Record<string, string>) =>
    sights(args({ path: `/sights?${new URLSearchParams(query)}` }));
  const [contact] = made.contacts;
  const found = await (await ask({ contacts: `${contact},${contact},999999` })).json();
  expect(found.sights.map((one: { contact: number }) => one.contact)).toEqual([contact]);
  const many = Array.from({ length: LIMITS.sightsAtOnce + 1 }, (_, i) => i + 1).join(",");
  for (const contacts of ["", "x", "1,", "-1", "1e3", "9".repeat(16), many]) {
    expect((await ask({ contacts })).status, contacts).toBe(400);
  }
  expect((await ask({ contacts: "1", marks: "2" })).status).toBe(400);
  // A family nobody knows is the email as it is sent.
  const sent = await (await ask({ contacts: `${contact}`, as: "nothing" })).json();
  expect(sent.sights[0].html).toContain("welcome.");
});

it("keeps that states were looked at, and nothing that is none", async () => {
  const state = "s".repeat(32);
  expect((await looked(args(json({ states: [state], looked: true })))).status).toBe(200);
  const many = Array.from({ length: LIMITS.sightsAtOnce + 1 }, () => state);
  for (const body of [
    undefined,
    { states: [state] },
    { states: ["x"], looked: true },
    { states: ["' or 1=1 --".padEnd(32)], looked: true },
    { states: many, looked: true },
  ]) {
    expect((await looked(args(json(body)))).status, JSON.stringify(body)).toBe(400);
  }
});

it("takes words of the brand's own, and looks up those that are none", async () => {
  for (const word of ["", "x", "two words", "<b>", "x".repeat(81), 7, null]) {
    expect((await words(args(json({ word })))).status, String(word)).toBe(400);
  }
  expect((await words(args(json({ word: "Saltmere’s" })))).status).toBe(200);
  expect((await getSettings(services.database.sql)).words).toEqual(["saltmere’s"]);
  const look = async (asked: unknown) => spelling(args(json({ words: asked })));
  const found = await (
    await look([
      ["en-GB", ["Saltmere’s", "Larkmoor", "gaate", "gate"]],
      ["xx", ["anything"]],
    ])
  ).json();
  expect(found.words).toEqual([
    ["en-GB", [["gaate", expect.arrayContaining(["gate"])]], true],
    ["xx", [], true],
  ]);
  const several = Array.from(
    { length: LIMITS.spellingFindings + 5 },
    (_, i) => `qqz${"x".repeat(i)}`,
  );
  expect((await (await look([["en-GB", several]])).json()).words[0][2]).toBe(false);
  for (const asked of [undefined, [["en"]], [["en", "gate"]], [["en", ["x".repeat(81)]]]]) {
    expect((await look(asked)).status, JSON.stringify(asked)).toBe(400);
  }
});

it("keeps groups of addresses by a name, as many as there may be", async () => {
  const keep = async (name: string, addresses: string) =>
    (await groups(args(json({ do: "keep", name, addresses })))).status;
  expect(await keep(" Team ", "a@team.example, b@team.example")).toBe(200);
  expect(await testGroups(services.database.sql)).toEqual([
    { name: "Team", addresses: ["a@team.example", "b@team.example"] },
  ]);
  expect(await keep("", "a@team.example")).toBe(400);
  expect(await keep("x".repeat(61), "a@team.example")).toBe(400);
  expect(await keep("Nobody", "")).toBe(400);
  expect(await keep("Wrong", "a@team.example\r\nBcc: c@x.example")).toBe(400);
  for (let i = 1; i < LIMITS.testGroups; i++) await keep(`Team ${i}`, "a@team.example");
  expect(await keep("One more", "a@team.example")).toBe(409);
  expect(await keep("Team", "c@team.example")).toBe(200);
});

it("sends a test as readers that were picked, and to nobody where there are none", async () => {
  const { sql } = services.database;
  const send = async (form: Record<string, string>) =>
    answered<{ sent: number; result: { error?: Record<string, string[]> } }>(
      await test(args({ form: { to: "ines@team.example", ...form } })),
    );
  const [one, two] = made.contacts;
  expect((await getContact(sql, one!))?.id).toBe(one);
  const refused = await send({ whom: "picked", picked: "999999" });
  expect([refused.status, refused.result.error]).toEqual([409, { whom: ["Pick a reader first."] }]);
  expect((await send({ whom: "picked" })).status).toBe(409);
  expect((await send({ whom: "picked", picked: "1;2" })).status).toBe(400);
  expect((await send({ whom: "somebody" })).status).toBe(400);
  expect((await send({ to: "not an address" })).status).toBe(400);
  await test(args({ form: { to: "ines@team.example", whom: "picked", picked: `${one},${two}` } }));
  const [last] = await listTests(sql, made.campaign.id);
  expect(last!.messages.map(({ contact }) => contact)).toEqual([one, two]);
  expect(await (await asking(args({}))).json()).toEqual({ asking: false });
});
