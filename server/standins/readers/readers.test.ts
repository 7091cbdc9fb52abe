import { afterEach, beforeEach, expect, it } from "vitest";
import { scheduleCampaign } from "../../campaigns/scheduling.ts";
import { runLaunch } from "../../jobs/sender.ts";
import { startReturns } from "../../mail/returns.ts";
import { getCampaign } from "../../store/campaigns.ts";
import { getContact } from "../../store/contacts.ts";
import { messageSource, pageOfMessages, takeUnread } from "../../store/outbox.ts";
import { smallCampaign } from "../../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../../testing/services.ts";
import { complain } from "./complain.ts";
import { offeredBy } from "./readers.ts";
import { actsOf, draw, type Offered, temperOf } from "./temper.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

const offered = (i: number, subject = "Winter jobs"): Offered => ({
  to: `reader${i}@x.example`,
  from: "b1-abc@x.example",
  subject,
  pixel: "http://s.example/o/t.gif",
  links: ["http://s.example/c/t/1", "http://s.example/c/t/2", "http://s.example/c/t/3"],
  answers: [],
  leave: "http://s.example/u/t",
});
const all = (subject?: string) =>
  Array.from({ length: 2_000 }, (_, i) => actsOf(offered(i, subject)));
const people = (acts: ReturnType<typeof all>, does: string) =>
  acts.filter((one) => one.some((act) => act.does === does && act.by === "person")).length;

it("does the same every time, each by their own temper, and nothing before it has been read", () => {
  expect(actsOf(offered(1))).toEqual(actsOf(offered(1)));
  expect(temperOf("A@x.example")).toEqual(temperOf("a@x.example"));
  for (const acts of all()) {
    expect(acts.map(({ at }) => at)).toEqual(acts.map(({ at }) => at).sort((a, b) => a - b));
    const own = acts.filter(({ by }) => by === "person");
    if (own.length > 0) expect(own[0]!.does).toBe("open");
    for (const { at } of acts) expect(at >= 0 && at <= 1).toBe(true);
  }
});

it("opens more than it clicks, clicks more than it orders, and few leave", () => {
  const acts = all();
  const [opens, clicks, orders] = ["open", "click", "order"].map((does) => people(acts, does));
  expect(opens! / 2_000).toBeGreaterThan(0.3);
  expect(opens! / 2_000).toBeLessThan(0.7);
  expect(clicks).toBeLessThan(opens! / 2);
  expect(orders).toBeLessThan(clicks! / 2);
  expect(orders).toBeGreaterThan(0);
  expect(people(acts, "leave")).toBeLessThan(40);
  expect(acts.flat().some(({ by }) => by === "scanner")).toBe(true);
});

it("is drawn by some subjects more than by others", () => {
  const long = "Everything that is to be done in a garden before the first frost comes at last";
  expect(draw("Frost?")).toBeGreaterThan(draw(long));
  expect(people(all("Frost?"), "open")).toBeGreaterThan(people(all(long), "open") * 1.3);
});

it("finds in a message what it offers, and each message is read once", async () => {
  const { sql } = services.database;
  const { campaign, member } = await smallCampaign(services, ["one@x.example"]);
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  await runLaunch(services, (await getCampaign(sql, campaign.id))!.launchId!);
  const { messages } = await pageOfMessages(sql, "", 1);
  const base = services.config.publicAddress;
  const found = (await offeredBy((await messageSource(sql, messages[0]!.id))!, base))!;
  expect(found.to).toBe("one@x.example");
  expect(found.from).toMatch(/^b1-[0-9a-f]{20}@/);
  expect(found.pixel).toMatch(new RegExp(`^${base}/o/.*\\.gif$`));
  expect(found.links).toEqual([expect.stringMatching(/\/c\/.*\/1$/)]);
  expect(found.leave).toMatch(new RegExp(`^${base}/u/`));
  expect(await takeUnread(sql, 10)).toEqual([messages[0]!.id]);
  expect(await takeUnread(sql, 10)).toEqual([]);
});

it("complains to where the message came from, and who does so gets nothing more", async () => {
  const { sql } = services.database;
  const returns = await startReturns(services, { host: "127.0.0.1" }, 0);
  const { campaign, member, contacts } = await smallCampaign(services, ["one@x.example"]);
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  await runLaunch(services, (await getCampaign(sql, campaign.id))!.launchId!);
  const [message] = (await pageOfMessages(sql, "", 1)).messages;
  const { from } = (await offeredBy((await messageSource(sql, message!.id))!, ""))!;
  const config = { ...services.config, returns: { port: returns.port, domain: "x.example" } };
  expect(await complain(config, from)).toBe(true);
  expect((await getContact(sql, contacts[0]!))!.heldBack).toBe("complained");
  await returns.close();
});
