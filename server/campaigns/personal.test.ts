import { afterEach, beforeEach, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { apply } from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import { translatables, translating } from "#core/languages/index.ts";
import { linkAddress } from "#core/merge/index.ts";
import type { Rule } from "#core/rules/index.ts";
import { doc, line, tag } from "#core/text/index.ts";
import { knownReaders, worldFor } from "../audience/readers.ts";
import { bitsFor } from "../store/conditions.ts";
import { changeValues } from "../store/contacts.ts";
import { addDerived } from "../store/derived.ts";
import { loadDocument } from "../store/documents.ts";
import { addFields, addTable } from "../store/fields.ts";
import { getRecipient } from "../store/launches/progress.ts";
import { addRecords } from "../store/records.ts";
import { ADDRESSES, campaignOf, sent } from "../testing/personal.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { launchReader, readyFor } from "./emails.ts";
import { examine } from "./findings.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

const named: Rule = { type: "field", field: "first_name", op: "hasValue", argument: null };
it("sends each reader their own version, as the rules stood at the start", async () => {
  const made = await campaignOf(services, (id) => [
    createBlock("text", id, { words: doc("For the named"), seenBy: named, chain: "c" }),
    createBlock("text", id, { words: doc("For the others"), chain: "c" }),
  ]);
  const { messages } = await sent(services, made);
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
  const { campaign, contacts } = await campaignOf(services, () => []);
  const rules: Rule[] = [
    named,
    { type: "none", rules: [named] },
    { type: "field", field: "email", op: "contains", argument: "t" },
    { type: "list", list: "gone", is: true },
  ];
  const conditions = rules.map((rule) => JSON.stringify(rule));
  const world = await worldFor(services, conditions, campaign.audience);
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
  const made = await campaignOf(services, () => [], {
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
  const { messages } = await sent(services, made);
  const from = (address: string) => messages.get(address)!.from!.text;
  expect(from(ADDRESSES[0]!)).toBe('"Maud at Larkmoor" <maud@larkmoor.example>');
  // What is no mail address never becomes one.
  expect(from(ADDRESSES[1]!)).toBe('"Zed at Larkmoor" <news@larkmoor.example>');
  expect(from(ADDRESSES[2]!)).toBe('"Larkmoor" <news@larkmoor.example>');
  expect(messages.get(ADDRESSES[0]!)!.replyTo!.text).toBe("maud@larkmoor.example");
  expect(messages.get(ADDRESSES[1]!)!.replyTo).toBeUndefined();
});

it("counts the readers whom a link leads nowhere, since their value is no address", async () => {
  const made = await campaignOf(services, (id) => [
    createBlock("button", id, {
      label: line("Your page"),
      to: { kind: "web", address: line(tag("contact:page")) },
    }),
  ]);
  await addFields(services.database.sql, [{ id: "page", label: "Page", type: "text" }]);
  const [ann, bo] = made.contacts;
  await changeValues(services.database.sql, ann!, { page: "https://larkmoor.example/ann" });
  await changeValues(services.database.sql, bo!, { page: "my page" });
  const { findings } = (await examine(services, made.campaign))!;
  expect(findings.filter(({ check }) => check === "address").map(({ message }) => message)).toEqual(
    ["A link leads 2 readers nowhere"],
  );
});

it("sends each reader their language, its links counted under the numbers of the main one", async () => {
  const { sql } = services.database;
  const made = await campaignOf(services, (id) => [
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
    email = apply(email, translating(one, "fr", value as never));
  };
  translate("to", { kind: "web", address: line("https://larkmoor.example/fr") });
  translate("words", doc("Bonjour"));
  await sql`update documents set body = ${canonical(email)} where id = ${documentId}`;
  const { launch, messages } = await sent(services, made);
  const [french, english] = [messages.get(ADDRESSES[0]!)!, messages.get(ADDRESSES[1]!)!];
  expect(french.html).toContain("Bonjour");
  expect(french.text).toContain("Se désabonner");
  expect(french.html).toContain('lang="fr"');
  expect(english.html).toContain("Good morning");
  expect(english.text).toContain("Unsubscribe");
  const ready = (await readyFor(sql, { launchId: launch, variant: 0 }, services.signer))!;
  const leads = async (contact: number) => {
    const [row] = await sql<{ id: number }>`
      select id from recipients where launch_id = ${launch} and contact_id = ${contact}`;
    const reader = launchReader(ready, (await getRecipient(sql, row!.id))!, "t");
    return linkAddress(ready.forReader(reader).compiled, 1, reader);
  };
  expect(await leads(made.contacts[0]!)).toBe("https://larkmoor.example/fr");
  expect(await leads(made.contacts[1]!)).toBe("https://larkmoor.example/en");
});
