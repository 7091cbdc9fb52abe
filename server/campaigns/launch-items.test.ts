/** Items at the moment a launch starts: looked at again, kept or taken fresh, and what each reader got. */
import { afterEach, beforeEach, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { type Choice, ITEMS_PLAN, type ItemsPlan, newChoice } from "#core/items/index.ts";
import { line } from "#core/text/index.ts";
import { leaveRest, runLaunch } from "../jobs/sender.ts";
import { getCampaign } from "../store/campaigns.ts";
import { changeOffers, takeItems } from "../store/items.ts";
import { getLaunch } from "../store/launches/freeze.ts";
import { progressOf } from "../store/launches/progress.ts";
import { messageSource, pageOfMessages } from "../store/outbox.ts";
import { addSource, removeSource } from "../store/sources.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { examine } from "./findings.ts";
import { sentItemsOf } from "./launch-items.ts";
import { cancelRest, goOn, scheduleCampaign } from "./scheduling.ts";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
let shop: string;
const sql = () => services.database.sql;
const PEOPLE = ["one@example.org", "two@example.org", "three@example.org"];
beforeEach(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, PEOPLE);
  shop = await services.database.tx((tx) =>
    addSource(
      tx,
      { kind: "catalogue", name: "Shop", address: null, home: "" },
      services.clock.now(),
    ),
  );
  await stock({ bean: { price: 2.1, stock: 4 }, pea: { price: 3 }, leek: { price: 1 } });
});
afterEach(() => services.close());

/** What the shop has from now on. */
async function stock(products: Record<string, object>): Promise<void> {
  const items = Object.entries(products).map(([key, values], i) => ({
    ...{ key, title: `The ${key}`, picture: "" },
    at: new Date(Date.UTC(2026, 1, 20 - i)),
    values: { link: `https://shop.example/${key}`, currency: "GBP", ...values } as never,
  }));
  await services.database.tx((tx) =>
    takeItems(tx, { id: shop, kind: "catalogue" }, items, services.clock.now(), true),
  );
}

function emailWith(choice: Partial<Choice>): EmailDocument {
  let n = 0;
  const id = () => `n${++n}`;
  const blocks = [
    createBlock("shelf", id, { choice: newChoice({ sources: [shop], count: 2, ...choice }) }),
    createBlock("footer", id),
  ];
  return createDocument([createBand(id, [createColumn(id, blocks)])], {
    envelope: {
      ...{ fromName: line("Larkmoor"), fromAddress: "news@larkmoor.example", replyTo: "" },
      ...{ subject: line("From the shop"), preview: line("Come and see") },
    },
  });
}

/** Schedules the campaign with such a shelf; gives its launch. */
async function scheduled(choice: Partial<Choice>, plan: ItemsPlan = ITEMS_PLAN): Promise<string> {
  await sql()`update documents set body = ${JSON.stringify(emailWith(choice))} where id = ${made.campaign.documentId}`;
  await scheduleCampaign(services, made.campaign, null, "Europe/London", made.member.id, plan);
  return (await getCampaign(sql(), made.campaign.id))!.launchId!;
}
const stateOf = async (id: string) => (await getLaunch(sql(), id))!.state;
async function arrived(): Promise<string[]> {
  const { messages } = await pageOfMessages(sql(), "", 1);
  const sources = await Promise.all(messages.map(({ id }) => messageSource(sql(), id)));
  return sources.map((source) =>
    source!.toString().replace(/=\r\n/g, "").replaceAll("=C2=A3", "£"),
  );
}

it("sends what was looked at where nothing has become of it", async () => {
  const launch = await scheduled({ order: "newest" });
  await runLaunch(services, launch);
  const mails = await arrived();
  expect(mails).toHaveLength(3);
  for (const mail of mails) {
    expect(mail).toContain("The bean");
    expect(mail).toContain("£2.10");
    expect(mail).not.toContain("The leek");
  }
  // What has gone out is not new any more.
  expect(await sql()`select item_key as key from sent_items order by 1`).toEqual([
    { key: "bean" },
    { key: "pea" },
  ]);
});

it("stands still where a price has changed, says so, and goes on with what was looked at when told to", async () => {
  const launch = await scheduled({ order: "newest" });
  await changeOffers(sql(), shop, [
    { key: "bean", price: 2.8, sale_price: null, currency: null, stock: 4 },
  ]);
  expect(await runLaunch(services, launch)).toBeNull();
  expect(await stateOf(launch)).toBe("paused");
  expect(await sql()`select pause, pause_reason as reason from launches`).toEqual([
    { pause: "items", reason: "“The bean” costs £2.80, not £2.10." },
  ]);
  expect(await arrived()).toEqual([]);
  // Nobody has been written down, and it does not go on by itself.
  expect(await progressOf(sql(), launch)).toMatchObject({ total: 0 });
  services.clock.advance(3_600_000);
  await runLaunch(services, launch);
  expect(await stateOf(launch)).toBe("paused");
  await goOn(services, made.campaign.id);
  await runLaunch(services, launch);
  const mails = await arrived();
  expect(mails).toHaveLength(3);
  expect(mails[0]).toContain("£2.10");
  expect(mails[0]).not.toContain("£2.80");
});

it("takes what is there when it leaves where that is wanted, and stops only at what was named", async () => {
  const launch = await scheduled({ order: "newest" }, { take: "fresh", stopAt: ["gone", "stock"] });
  await stock({ new: { price: 9 }, bean: { price: 2.8, stock: 4 }, pea: { price: 3 }, leek: {} });
  await runLaunch(services, launch);
  const [mail, ...others] = await arrived();
  expect(others).toHaveLength(2);
  expect(mail).toContain("The new");
  expect(mail).toContain("£2.80");
  expect(mail).not.toContain("The pea");
  const frozen = (await getLaunch(sql(), launch))!;
  expect(JSON.stringify(frozen.links)).toContain("https://shop.example/new");
  const sent = await sentItemsOf(sql(), frozen);
  expect(sent).toContainEqual({ source: shop, key: "new", readers: null, title: "The new" });
});

it("stands still where something is sold out or gone, and can be ended then", async () => {
  const launch = await scheduled({ order: "newest" });
  await stock({ pea: { price: 3, stock: 0 }, leek: {} });
  await runLaunch(services, launch);
  const [{ reason }] = (await sql()`select pause_reason as reason from launches`) as [
    { reason: string },
  ];
  expect(reason).toBe("“The bean” is gone from its source. “The pea” is sold out.");
  await cancelRest(services, made.campaign.id);
  await runLaunch(services, launch);
  expect(await arrived()).toEqual([]);
  await leaveRest(services, launch);
  expect(await sentItemsOf(sql(), (await getLaunch(sql(), launch))!)).toEqual([]);
});

it("tells what the first readers had where the others were left out", async () => {
  const launch = await scheduled({ order: "newest", count: 1 });
  await runLaunch(services, launch);
  // As if one had got it when it was ended.
  await sql()`delete from sent_items`;
  await sql()`update recipients set state = 'waiting' where contact_id <> ${made.contacts[0]}`;
  await leaveRest(services, launch);
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 1, cancelled: 2 });
  expect(await sentItemsOf(sql(), (await getLaunch(sql(), launch))!)).toEqual([
    { source: shop, key: "bean", readers: null, title: "The bean" },
  ]);
});

it("goes on where nothing was named that stops it, though the source itself is gone", async () => {
  const launch = await scheduled({ order: "newest" }, { take: "kept", stopAt: [] });
  await services.database.tx((tx) => removeSource(tx, shop));
  await runLaunch(services, launch);
  expect((await arrived())[0]).toContain("The bean");
});

it("gives each reader their own, keeps what they got, and shows it on the web as it was", async () => {
  const rows = [
    [made.contacts[0], "viewed", "leek"],
    [made.contacts[1], "viewed", "pea"],
  ] as const;
  for (const [contact, kind, key] of rows) {
    await sql()`insert into events (kind, at, contact_id, item)
      values (${kind}, ${services.clock.now()}, ${contact}, ${`${shop}:${key}`})`;
  }
  const launch = await scheduled({ order: "viewed", count: 1 });
  await runLaunch(services, launch);
  const recipients = await sql()<{ contact: number; values: Record<string, unknown> }>`
    select contact_id as contact, values from recipients order by contact_id`;
  expect(recipients.map(({ values }) => values["live:n1"])).toEqual([
    [`${shop}:leek`],
    [`${shop}:pea`],
    [],
  ]);
  expect(await sentItemsOf(sql(), (await getLaunch(sql(), launch))!)).toEqual([
    { source: shop, key: "leek", readers: 1, title: "The leek" },
    { source: shop, key: "pea", readers: 1, title: "The pea" },
  ]);
  const mails = (await arrived()).map((mail) =>
    ["leek", "pea", "bean"].filter((key) => mail.includes(`The ${key}`)),
  );
  expect(mails.sort()).toEqual([[], ["leek"], ["pea"]]);
  // Links are those of the whole email, so that clicks lead where they did.
  const links = (await getLaunch(sql(), launch))!.links!;
  expect(JSON.stringify(links)).toContain("/leek");
  expect(JSON.stringify(links)).toContain("/pea");
});

it("chooses once for a reader, however often the message is tried", async () => {
  const launch = await scheduled({ order: "viewed", fill: "newest", count: 1 });
  await sql()`update contacts set email = 'later@example.org', email_folded = 'later@example.org',
    email_key = 'later@example.org' where id = ${made.contacts[0]}`;
  await runLaunch(services, launch);
  await sql()`insert into events (kind, at, contact_id, item)
    values ('viewed', ${services.clock.now()}, ${made.contacts[0]}, ${`${shop}:leek`})`;
  const own = async () =>
    (
      await sql()<{ values: Record<string, unknown> }>`select values from recipients
      where contact_id = ${made.contacts[0]}`
    )[0]!.values["live:n1"];
  expect(await own()).toEqual([`${shop}:bean`]);
  services.clock.advance(24 * 3_600_000);
  await runLaunch(services, launch);
  expect(await own()).toEqual([`${shop}:bean`]);
});

it("is found by the checks: who gets nothing, and what stops it before it is scheduled", async () => {
  await sql()`update documents set body = ${JSON.stringify(emailWith({ order: "viewed" }))} where id = ${made.campaign.documentId}`;
  const found = async () =>
    (await examine(services, made.campaign))!.findings
      .filter(({ check }) => check === "live")
      .map(({ message }) => message);
  expect(await found()).toEqual(["Shelf: nothing fits for 3 readers"]);
  await sql()`insert into events (kind, at, contact_id, item)
    values ('viewed', ${services.clock.now()}, ${made.contacts[0]}, ${`${shop}:leek`})`;
  expect(await found()).toEqual(["Shelf: nothing fits for 2 readers"]);
  await expect(scheduled({ picked: [] })).rejects.toThrow("No product is picked");
  await expect(scheduled({ picked: [{ source: shop, key: "lost" }] })).rejects.toThrow(
    "gone from its source",
  );
});
