/** What is known of a person, saved by several hands: nothing goes over what somebody has not seen. */
import { afterAll, beforeAll, beforeEach, expect, it } from "vitest";
import { addContacts, getContact } from "#server/store/contacts.ts";
import { addFields } from "#server/store/fields.ts";
import type { Member } from "#server/store/team.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { aDesigner, answered, routeArgs } from "../testing/route.ts";
import { action as saveCell } from "./api.contact-values.ts";
import { action } from "./people.contact.tsx";

let services: TestServices;
let member: Member;
let id = 0;
let n = 0;
beforeAll(async () => {
  services = await startTestServices();
  member = await aDesigner(services);
  await addFields(services.database.sql, [
    { id: "town", label: "Town", type: "text" },
    { id: "visits", label: "Visits", type: "number" },
  ]);
});
afterAll(() => services.database.close());
beforeEach(async () => {
  const email = `ada${++n}@example.org`;
  const who = { email, values: { town: "Saltmere" }, createdAt: services.clock.now() };
  [id] = (await addContacts(services.database.sql, [who])) as [number];
});

interface Answer {
  readonly problems: Record<string, string>;
  readonly seen: Record<string, string>;
}
const args = (form: Record<string, string>) =>
  routeArgs(services, member, { form: { do: "save", ...form } }, { contact: String(id) });
const save = async (form: Record<string, string>) => answered<Answer>(await action(args(form)));
const stored = async () => (await getContact(services.database.sql, id))!;
/** A page that was opened, and what it says after words are written over what it showed. */
const page = (email = `ada${n}@example.org`) => {
  const shown: Record<string, string> = { email, town: "Saltmere", visits: "" };
  return (written: Record<string, string>) =>
    Object.fromEntries(
      Object.entries(shown).flatMap(([key, was]) => [
        [key === "email" ? key : `f.${key}`, written[key] ?? was],
        [`was.${key}`, was],
      ]),
    );
};

it("two who change different fields of one person keep what both wrote", async () => {
  const [one, two] = [page(), page()];
  expect((await save(one({ town: "Brook" }))).problems).toEqual({});
  expect((await save(two({ visits: "4" }))).problems).toEqual({});
  expect((await stored()).values).toMatchObject({ town: "Brook", visits: 4 });
});

it("who writes over what they have not seen is told, and may then", async () => {
  const two = page();
  await save(page()({ town: "Brook", visits: "2" }));
  const late = await save(two({ town: "Hill", visits: "4" }));
  expect(late.status).toBe(400);
  expect(late.problems.town).toContain("changed to “Brook” meanwhile");
  expect(late.seen).toEqual({ town: "Brook", visits: "2" });
  expect((await stored()).values).toMatchObject({ town: "Brook", visits: 2 });
  const known = Object.entries(late.seen).map(([key, now]) => [`was.${key}`, now]);
  const again = { ...two({ town: "Hill", visits: "4" }), ...Object.fromEntries(known) };
  expect((await save(again)).problems).toEqual({});
  expect((await stored()).values).toMatchObject({ town: "Hill", visits: 4 });
});

it("the same words from both are no matter, and a cleared field is told as such", async () => {
  const [two, three] = [page(), page()];
  await save(page()({ town: "Brook" }));
  expect((await save(two({ town: "Brook" }))).problems).toEqual({});
  await save({ "f.town": "", "was.town": "Brook" });
  expect((await save(three({ town: "Hill" }))).problems.town).toContain("cleared meanwhile");
});

it("a wrong value saves nothing, and counts as seen by nobody", async () => {
  const wrong = await save(page()({ town: "Hill", visits: "many" }));
  expect([wrong.status, Object.keys(wrong.problems), wrong.seen]).toEqual([400, ["visits"], {}]);
  expect((await stored()).values).toMatchObject({ town: "Saltmere" });
});

it("an address is not put back to what it was, nor over one that is new", async () => {
  const [one, two, three] = [page(), page(), page()];
  const moved = await save(one({ email: `moved${n}@example.org` }));
  expect(moved.seen.email).toBe(`moved${n}@example.org`);
  expect((await save(two({ town: "Hill" }))).problems).toEqual({});
  expect((await stored()).email).toBe(`moved${n}@example.org`);
  const late = await save(three({ email: `other${n}@example.org` }));
  expect(late.problems.email).toContain(`changed to “moved${n}@example.org” meanwhile`);
  await save({ ...three({ email: `other${n}@example.org` }), "was.email": late.seen.email! });
  expect((await stored()).email).toBe(`other${n}@example.org`);
});

it("a cell of the table is saved over what its writer saw", async () => {
  const cell = async (form: Record<string, string>) => {
    const response = await saveCell(args(form));
    return { status: response.status, ...((await response.json()) as Answer) };
  };
  expect((await cell({ "f.town": "Brook", "was.town": "Saltmere" })).status).toBe(200);
  const late = await cell({ "f.town": "Hill", "was.town": "Saltmere" });
  expect([late.status, late.seen]).toEqual([400, { town: "Brook" }]);
  expect((await cell({ "f.town": "Hill", "was.town": "Brook" })).status).toBe(200);
  expect((await stored()).values.town).toBe("Hill");
});
