/** Code rolls: torn off by a send, by several at once, and given again. */
import fc from "fast-check";
import { afterEach, beforeEach, expect, it } from "vitest";
import { createBlock, createDocument } from "#core/blocks/index.ts";
import { doc, line, paragraph, tag } from "#core/text/index.ts";
import { ADDRESSES, campaignOf, sent } from "../testing/personal.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { addCodes, addRoll, changeRoll, getRoll, givenCodes, isGiven, tearCodes } from "./codes.ts";
import { getContact } from "./contacts.ts";
import { createLaunch, getLaunch } from "./launches/freeze.ts";

/** What a coupon says beside its code. */
const COUPON = { title: line("Ten per cent off"), terms: line("Once per person.") };

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

const FRESH = { name: "Autumn", emptyText: "at the till", warnAt: 0, expires: null, again: false };

it("tears a code off for each reader, the same if the message is made again, and says so when it is empty", async () => {
  const { sql } = services.database;
  const roll = await addRoll(sql, FRESH, services.clock.now());
  expect(await addCodes(sql, roll, ["A-1", "A-2", "A-1"])).toBe(2);
  const made = await campaignOf(services, (id) => [
    createBlock("coupon", id, { ...COUPON, code: line(tag(`code:${roll}`)) }),
    createBlock("text", id, { words: doc(paragraph("Or say ", tag(`code:${roll}`))) }),
  ]);
  const { launch, messages } = await sent(services, made);
  const codes = ADDRESSES.map((address) => /Code: (.+)/.exec(messages.get(address)!.text!)![1]);
  expect(codes).toEqual(["A-1", "A-2", "at the till"]);
  for (const [i, address] of ADDRESSES.entries()) {
    expect(messages.get(address)!.text).toContain(`Or say ${codes[i]}`);
  }
  expect((await getRoll(sql, roll))!.left).toBe(0);
  expect((await givenCodes(sql, roll, 9)).map(({ code }) => code).sort()).toEqual(["A-1", "A-2"]);
  const rows = await sql<{
    id: number;
  }>`select id from recipients where launch_id = ${launch} order by id`;
  const values = () => sql`select values -> ${`code:${roll}`} as code from recipients
    where launch_id = ${launch} order by id`;
  const before = await values();
  await addCodes(sql, roll, ["A-3"]);
  await tearCodes(
    sql,
    launch,
    roll,
    rows.slice(0, 2).map(({ id }) => id),
    services.clock.now(),
  );
  expect(await values()).toEqual(before);
  expect((await getRoll(sql, roll))!.left).toBe(1);
  expect(await isGiven(sql, roll)).toBe(true);
});

it("gives no code twice and loses none, however the claims of several senders fall", async () => {
  const { sql } = services.database;
  const made = await campaignOf(
    services,
    () => [],
    {},
    Array.from({ length: 40 }, (_, i) => `r${i}@example.org`),
  );
  const roll = await addRoll(sql, FRESH, services.clock.now());
  await addCodes(
    sql,
    roll,
    Array.from({ length: 30 }, (_, i) => `C-${i}`),
  );
  const launch = await createLaunch(
    sql,
    {
      campaignId: made.campaign.id,
      name: "x",
      sendAt: services.clock.now(),
      zone: "UTC",
      seq: 0,
      doc: createDocument([]),
      audience: made.campaign.audience,
      segments: [],
      surroundings: {
        brand: { name: "", postalAddress: "" },
        publicAddress: "",
        pictures: new Map(),
      },
      member: made.member.id,
    },
    services.clock.now(),
  );
  expect((await getLaunch(sql, launch))!.conditions).toEqual([]);
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(fc.nat(39), { maxLength: 12 }), { maxLength: 12 }),
      async (claims) => {
        await sql`delete from recipients where launch_id = ${launch}`;
        await sql`update codes set launch_id = null, contact_id = null where roll_id = ${roll}`;
        const rows = await sql<{
          id: number;
        }>`insert into recipients (launch_id, contact_id, email, next_try_at)
        select ${launch}, c.id, c.email, now() from contacts c order by c.id returning id`;
        const ids = rows.map(({ id }) => id);
        await Promise.all(
          claims.map((claim) =>
            tearCodes(
              sql,
              launch,
              roll,
              claim.map((i) => ids[i]!),
              services.clock.now(),
            ),
          ),
        );
        const given = await sql<{ code: string | null }>`
        select values ->> ${`code:${roll}`} as code from recipients where launch_id = ${launch}`;
        const codes = given.flatMap(({ code }) =>
          code === null || code === FRESH.emptyText ? [] : code,
        );
        expect(new Set(codes).size).toBe(codes.length);
        const asked = new Set(claims.flat()).size;
        expect(codes).toHaveLength(Math.min(asked, 30));
        const [taken] = await sql<{ n: number }>`
        select count(*)::int as n from codes where roll_id = ${roll} and launch_id is not null`;
        expect(taken!.n).toBe(codes.length);
      },
    ),
    { numRuns: 25 },
  );
}, 60_000);

it("gives codes of a roll again where the roll says so, each reader the same one", async () => {
  const { sql } = services.database;
  const roll = await addRoll(sql, FRESH, services.clock.now());
  await addCodes(sql, roll, ["SAME"]);
  await changeRoll(sql, roll, { ...FRESH, again: true });
  const made = await campaignOf(services, (id) => [
    createBlock("coupon", id, { ...COUPON, code: line(tag(`code:${roll}`)) }),
  ]);
  const { messages } = await sent(services, made);
  for (const address of ADDRESSES) expect(messages.get(address)!.text).toContain("Code: SAME");
  expect((await getContact(sql, made.contacts[0]!))!.email).toBe(ADDRESSES[0]);
});

it("leaves the codes for those who see one", async () => {
  const { sql } = services.database;
  const roll = await addRoll(sql, FRESH, services.clock.now());
  await addCodes(sql, roll, ["A-1", "A-2", "A-3"]);
  const seenBy = { type: "field", field: "first_name", op: "hasValue", argument: null };
  const made = await campaignOf(services, (id) => [
    createBlock("text", id, { words: doc("Hello") }),
    createBlock("coupon", id, { ...COUPON, code: line(tag(`code:${roll}`)), seenBy }),
  ]);
  const { messages } = await sent(services, made);
  const found = ADDRESSES.map((address) => /A-\d/.exec(messages.get(address)!.text!)?.[0] ?? null);
  expect(found).toEqual(["A-1", null, "A-2"]);
  expect((await getRoll(sql, roll))!.left).toBe(1);
});
