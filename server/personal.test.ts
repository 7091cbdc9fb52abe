import fc from "fast-check";
import { simpleParser } from "mailparser";
import { afterEach, beforeEach, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, type DocNode } from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import { translatables, withTranslation } from "#core/languages/index.ts";
import { linkAddress } from "#core/merge/index.ts";
import type { Rule } from "#core/rules/index.ts";
import { doc, line, paragraph, tag } from "#core/text/index.ts";
import { launchReader, readyLaunchById } from "./emails.ts";
import { runLaunch } from "./jobs/sender.ts";
import { knownReaders, worldFor } from "./readers.ts";
import { scheduleCampaign } from "./scheduling.ts";
import { createCampaign, getCampaign } from "./store/campaigns.ts";
import {
  addCodes,
  addRoll,
  changeRoll,
  getRoll,
  givenCodes,
  removeRoll,
  tearCodes,
} from "./store/codes.ts";
import { bitsFor } from "./store/conditions.ts";
import { changeValues, getContact } from "./store/contacts.ts";
import { addDerived } from "./store/derived.ts";
import { loadDocument } from "./store/documents.ts";
import { addFields, addTable } from "./store/fields.ts";
import { createLaunch, getLaunch, getRecipient } from "./store/launches.ts";
import { messageSource, pageOfMessages } from "./store/outbox.ts";
import { addRecords } from "./store/records.ts";
import { smallCampaign } from "./testing/newsletter.ts";
import { startTestServices, type TestServices } from "./testing/services.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

const named: Rule = { type: "field", field: "first_name", op: "hasValue", argument: null };
const ADDRESSES = ["one@example.org", "two@example.org", "three@example.org"];
const ids = () => {
  let n = 0;
  return () => `p${++n}`;
};

/** A campaign to everybody of `smallCampaign` with these blocks. */
async function campaignOf(
  blocks: (id: () => string) => DocNode[],
  envelope: object = {},
  addresses: readonly string[] = ADDRESSES,
) {
  const { sql } = services.database;
  const made = await smallCampaign(services, addresses);
  const id = ids();
  const nodes = [...blocks(id), createBlock("footer", id)];
  const document = createDocument([createBand(id, [createColumn(id, nodes)])], {
    envelope: {
      fromName: line("Larkmoor"),
      fromAddress: "news@larkmoor.example",
      replyTo: "",
      subject: line("A letter"),
      preview: line(),
      ...envelope,
    },
  });
  const audience = made.campaign.audience;
  const campaign = await createCampaign(sql, "Personal", document, services.clock.now(), audience);
  return { ...made, campaign: (await getCampaign(sql, campaign))! };
}

async function sent({ campaign, member }: Awaited<ReturnType<typeof campaignOf>>) {
  const { sql } = services.database;
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  const { launchId } = (await getCampaign(sql, campaign.id))!;
  await runLaunch(services, launchId!);
  return { launch: launchId!, messages: await received() };
}
/** What the outbox has, by address. */
async function received() {
  const { sql } = services.database;
  const { messages } = await pageOfMessages(sql, "", 1);
  const found = await Promise.all(
    messages.map(async ({ id, to }) => {
      const parsed = await simpleParser((await messageSource(sql, id))!);
      return [to, parsed] as const;
    }),
  );
  return new Map(found);
}

it("sends each reader their own version, as the rules stood at the start", async () => {
  const made = await campaignOf((id) => [
    createBlock("text", id, { words: doc("For the named"), seenBy: named, chain: "c" }),
    createBlock("text", id, { words: doc("For the others"), chain: "c" }),
  ]);
  const { messages } = await sent(made);
  const texts = ADDRESSES.map((address) => messages.get(address)!.text!);
  expect(texts.map((text) => text.split("\n")[0])).toEqual([
    "For the named",
    "For the others",
    "For the named",
  ]);
  for (const address of ADDRESSES) {
    const { html, text } = messages.get(address)!;
    const [own, other] = text!.startsWith("For the named")
      ? ["For the named", "For the others"]
      : ["For the others", "For the named"];
    expect(html).toContain(own);
    expect(html).not.toContain(other);
  }
});

it("counts readers by conditions as looking at each of them does", async () => {
  const { campaign, contacts } = await campaignOf(() => []);
  const rules: Rule[] = [
    named,
    { type: "none", rules: [named] },
    { type: "field", field: "email", op: "contains", argument: "t" },
    { type: "list", list: "gone", is: true },
  ];
  const conditions = rules.map((rule) => JSON.stringify(rule));
  const world = await worldFor(services, conditions);
  const { groups, problems } = await knownReaders(services, campaign, conditions, world);
  const brute = new Map<string, number>();
  const one = (id: number) => bitsFor(services.database.sql, id, conditions, world);
  for (const id of contacts) {
    const bits = await one(id);
    brute.set(bits, (brute.get(bits) ?? 0) + 1);
  }
  expect(new Map(groups.map(({ bits, people }) => [bits, people]))).toEqual(brute);
  for (const { sample, bits } of groups) {
    expect(await one(sample)).toBe(bits);
  }
  expect(problems).toEqual([null, null, null, "This rule names a list that is gone."]);
});

it("lets the person in charge of a reader's site be the sender, and a fixed one where there is none", async () => {
  const { sql } = services.database;
  const now = services.clock.now();
  const id = await addDerived(
    sql,
    {
      name: "The warden",
      kind: "sender",
      cases: [
        {
          rule: { type: "field", field: "warden", op: "hasValue", argument: null },
          value: {
            name: line(tag("contact:warden"), " at Larkmoor"),
            address: line(tag("contact:warden.mail")),
          },
        },
      ],
      otherwise: { name: line("Larkmoor"), address: line("news@larkmoor.example") },
    },
    now,
  );
  const made = await campaignOf(() => [], {
    fromName: line(tag(`derived:${id}.name`)),
    fromAddress: `derived:${id}`,
    replyTo: "contact:warden.mail",
  });
  await addTable(sql, "wardens", "Wardens", now);
  await addFields(sql, [{ id: "mail", label: "Mail", type: "text" }], "wardens");
  await addFields(sql, [{ id: "warden", label: "Warden", type: "record", table: "wardens" }]);
  const fields = new Map([["mail", { id: "mail", label: "Mail", type: "text" as const }]]);
  const [maud, zed] = await addRecords(
    sql,
    "wardens",
    fields,
    [
      { name: "Maud", values: { mail: "maud@larkmoor.example" } },
      { name: "Zed", values: { mail: "no address" } },
    ],
    now,
  );
  await changeValues(sql, made.contacts[0]!, { warden: maud! });
  await changeValues(sql, made.contacts[1]!, { warden: zed! });
  const { messages } = await sent(made);
  const from = (address: string) => messages.get(address)!.from!.text;
  expect(from(ADDRESSES[0]!)).toBe('"Maud at Larkmoor" <maud@larkmoor.example>');
  // What is no mail address never becomes one.
  expect(from(ADDRESSES[1]!)).toBe('"Zed at Larkmoor" <news@larkmoor.example>');
  expect(from(ADDRESSES[2]!)).toBe('"Larkmoor" <news@larkmoor.example>');
  expect(messages.get(ADDRESSES[0]!)!.replyTo!.text).toBe("maud@larkmoor.example");
  expect(messages.get(ADDRESSES[1]!)!.replyTo).toBeUndefined();
});

it("sends each reader their language, its links counted under the numbers of the main one", async () => {
  const { sql } = services.database;
  const made = await campaignOf((id) => [
    createBlock("button", id, {
      label: line("Visit"),
      to: { kind: "web", address: line("https://larkmoor.example/en") },
    }),
    createBlock("text", id, { words: doc("Good morning") }),
  ]);
  await addFields(sql, [{ id: "language", label: "Language", type: "text" }]);
  await changeValues(sql, made.contacts[0]!, { language: "French" });
  await changeValues(sql, made.contacts[1]!, { language: "Klingon" });
  const { documentId } = made.campaign;
  let { doc: email } = (await loadDocument(sql, documentId))!;
  const set = (node: string, path: string, value: unknown) => {
    email = apply(email, { type: "set", node, path: [path], value: value as never });
  };
  set(email.root.id, "others", ["fr"]);
  set(email.root.id, "languageField", "language");
  const translate = (path: string, value: unknown) => {
    const one = translatables(email).find((found) => found.path.join(".") === path)!;
    set(one.node.id, "tr", withTranslation(one, "fr", value as never));
  };
  translate("to", { kind: "web", address: line("https://larkmoor.example/fr") });
  translate("words", doc("Bonjour"));
  await sql`update documents set body = ${canonical(email)} where id = ${documentId}`;
  const { launch, messages } = await sent(made);
  const [french, english] = [messages.get(ADDRESSES[0]!)!, messages.get(ADDRESSES[1]!)!];
  expect(french.html).toContain("Bonjour");
  expect(french.text).toContain("Se désabonner");
  expect(french.html).toContain('lang="fr"');
  expect(english.html).toContain("Good morning");
  expect(english.text).toContain("Unsubscribe");
  const ready = (await readyLaunchById(sql, launch, services.signer))!;
  const leads = async (contact: number) => {
    const [row] = await sql<{ id: number }>`
      select id from recipients where launch_id = ${launch} and contact_id = ${contact}`;
    const reader = launchReader(ready, (await getRecipient(sql, row!.id))!, "t");
    return linkAddress(ready.forReader(reader).compiled, 1, reader);
  };
  expect(await leads(made.contacts[0]!)).toBe("https://larkmoor.example/fr");
  expect(await leads(made.contacts[1]!)).toBe("https://larkmoor.example/en");
});

const FRESH = { name: "Autumn", emptyText: "at the till", warnAt: 0, expires: null, again: false };

it("tears a code off for each reader, the same if the message is made again, and says so when it is empty", async () => {
  const { sql } = services.database;
  const roll = await addRoll(sql, FRESH, services.clock.now());
  expect(await addCodes(sql, roll, ["A-1", "A-2", "A-1"])).toBe(2);
  const made = await campaignOf((id) => [
    createBlock("coupon", id, { code: line(tag(`code:${roll}`)) }),
    createBlock("text", id, { words: doc(paragraph("Or say ", tag(`code:${roll}`))) }),
  ]);
  const { launch, messages } = await sent(made);
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
  expect(await removeRoll(sql, roll)).toBe(false);
});

it("gives no code twice and loses none, however the claims of several senders fall", async () => {
  const { sql } = services.database;
  const made = await campaignOf(
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
  const made = await campaignOf((id) => [
    createBlock("coupon", id, { code: line(tag(`code:${roll}`)) }),
  ]);
  const { messages } = await sent(made);
  for (const address of ADDRESSES) expect(messages.get(address)!.text).toContain("Code: SAME");
  expect((await getContact(sql, made.contacts[0]!))!.email).toBe(ADDRESSES[0]);
});
