import { simpleParser } from "mailparser";
import { afterEach, beforeEach, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import type { Rule } from "#core/rules/index.ts";
import { doc, paragraph, tag } from "#core/text/index.ts";
import { loadDocument } from "../store/documents.ts";
import { messageSource, pageOfMessages } from "../store/outbox.ts";
import {
  keepTestGroup,
  listTests,
  openedTest,
  removeTestGroup,
  testGroups,
} from "../store/tests.ts";
import { campaignOf } from "../testing/personal.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { sendTests } from "./tests.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

const named: Rule = { type: "field", field: "first_name", op: "hasValue", argument: null };
const HOSTILE = `</div><script>alert(1)</script>\n"Look" & say {{ x }}`;

async function order(change: object = {}) {
  const made = await campaignOf(services, (id) => [
    createBlock("text", id, {
      words: doc(paragraph("Dear ", tag("contact:first_name", "you"))),
      seenBy: named,
      chain: "c",
    }),
    createBlock("text", id, { words: doc("For the others"), chain: "c" }),
  ]);
  const stored = (await loadDocument(services.database.sql, made.campaign.documentId))!;
  const outcomes = await sendTests(services, made.campaign, {
    doc: stored.doc,
    to: ["one@team.example", "two@team.example"],
    contacts: [...made.contacts.slice(0, 2), 0],
    note: "",
    table: false,
    member: made.member.id,
    ...change,
  });
  return { ...made, outcomes };
}

async function received(address: string) {
  const { sql } = services.database;
  const { messages } = await pageOfMessages(sql, address, 1);
  return Promise.all(messages.map(async ({ id }) => simpleParser((await messageSource(sql, id))!)));
}

it("goes to each address as each reader, marked, with what was filled in for that reader", async () => {
  const { campaign, contacts } = await order({ note: HOSTILE, table: true });
  const mails = await received("one@team.example");
  expect(mails.map(({ subject }) => subject).sort()).toEqual([
    "[Test 1 of 3] A letter",
    "[Test 2 of 3] A letter",
    "[Test 3 of 3] A letter",
  ]);
  const [first, second] = ["1 of 3", "2 of 3"].map(
    (which) => mails.find(({ subject }) => subject!.includes(which))!,
  );
  expect(first!.text).toContain("Dear Reader 0");
  expect(second!.text).toContain("For the others");
  for (const mail of mails) {
    // The note is words in both parts, whatever stands in it.
    expect(mail.text!.startsWith(HOSTILE)).toBe(true);
    expect(mail.html).toContain("&lt;script&gt;alert(1)&lt;/script&gt;<br>");
    expect(mail.html).not.toContain("<script");
  }
  expect(first!.text).toMatch(/- First name: Reader 0\n/);
  expect(first!.text).toMatch(/- .*[Ff]irst name.*: yes/);
  expect(second!.text).toMatch(/- .*[Ff]irst name.*: no/);

  const { sql } = services.database;
  const [test] = await listTests(sql, campaign.id);
  expect(test!.messages).toHaveLength(6);
  expect(new Set(test!.messages.map(({ contact }) => contact))).toEqual(
    new Set([...contacts.slice(0, 2), null]),
  );
});

it("tells who opened it, and counts nowhere else", async () => {
  const { campaign } = await order({ contacts: [0] });
  const { sql } = services.database;
  const [mail] = await received("two@team.example");
  const token = /\/o\/([^"]+)\.gif/.exec(mail!.html as string)![1]!;
  const said = services.signer.read(token);
  expect(said).toMatchObject({ kind: "test" });
  const id = (said as { message: number }).message;
  await openedTest(sql, id, new Date("2026-05-01T10:00:00Z"));
  await openedTest(sql, id, new Date("2026-05-02T10:00:00Z"));
  const [test] = await listTests(sql, campaign.id);
  const opened = test!.messages.filter(({ openedAt }) => openedAt !== null);
  expect(opened.map(({ address }) => address)).toEqual(["two@team.example"]);
  expect(String(opened[0]!.openedAt)).toContain("2026-05-01");
  expect(await sql`select 1 from events`).toEqual([]);
  expect(await sql`select 1 from recipients`).toEqual([]);
});

it("says whom it did not reach, and reaches the others", async () => {
  const { campaign, outcomes } = await order({
    contacts: [0],
    to: ["bounce@team.example", "ok@team.example"],
  });
  expect(outcomes.map(({ taken }) => taken)).toEqual([false, true]);
  const [test] = await listTests(services.database.sql, campaign.id);
  expect(test!.messages.map(({ failed }) => failed === null)).toEqual([false, true]);
});

it("keeps groups by their names", async () => {
  const { sql } = services.database;
  await keepTestGroup(sql, { name: "Team", addresses: ["a@team.example"] });
  await keepTestGroup(sql, { name: "Team", addresses: ["b@team.example"] });
  expect(await testGroups(sql)).toEqual([{ name: "Team", addresses: ["b@team.example"] }]);
  await removeTestGroup(sql, "Team");
  expect(await testGroups(sql)).toEqual([]);
});
