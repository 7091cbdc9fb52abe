/** Launches that are spread over time: at readers' own clocks, in waves; nobody early, nobody twice. */
import { afterEach, beforeEach, expect, it } from "vitest";
import { constantSql } from "#core/rules/index.ts";
import { AT_ONCE, awake } from "#core/schedule/index.ts";
import { readersOf } from "../campaigns/draft.ts";
import { scheduleCampaign } from "../campaigns/scheduling.ts";
import { addList } from "../store/audience.ts";
import { createCampaign, getCampaign } from "../store/campaigns.ts";
import { addContacts } from "../store/contacts.ts";
import { addFields } from "../store/fields.ts";
import { dueSql } from "../store/launches/due.ts";
import { getLaunch } from "../store/launches/freeze.ts";
import { usualRate } from "../store/launches/progress.ts";
import { messageSource, pageOfMessages } from "../store/outbox.ts";
import { saveSetting, sendingSchema } from "../store/settings.ts";
import { smallCampaign, smallNewsletter } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { runLaunch } from "./sender.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

const accepted = async () =>
  (
    await services.database.sql<{
      email: string;
    }>`select email from recipients where state = 'accepted' order by email`
  ).map(({ email }) => email);

/** Works on the launch whenever it is due until it is done; gives when who got it. */
async function through(launch: string): Promise<Record<string, string>> {
  const got: Record<string, string> = {};
  for (let rounds = 0; rounds < 100; rounds++) {
    const next = await runLaunch(services, launch);
    for (const email of await accepted()) got[email] ??= services.clock.now().toISOString();
    if (!next) return got;
    services.clock.set(next);
  }
  throw new Error("It does not end");
}

async function scheduled(
  addresses: readonly string[],
  pace: Parameters<typeof scheduleCampaign>[6],
  sendAt: Date | null,
): Promise<string> {
  const { member } = await smallCampaign(services, ["first@x.example"]);
  const { sql } = services.database;
  const now = services.clock.now();
  await addFields(sql, [{ id: "zone", label: "Zone", type: "zone" }]);
  const contacts = await addContacts(
    sql,
    addresses.map((email) => ({
      email,
      values: email.startsWith("tokyo")
        ? { zone: "Asia/Tokyo" }
        : email.startsWith("york")
          ? { zone: "America/New_York" }
          : ({} as Record<string, string>),
      createdAt: now,
    })),
  );
  const list = await addList(sql, "Readers", contacts, now);
  const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
  const id = await createCampaign(sql, "Spread", smallNewsletter(), now, audience);
  const campaign = (await getCampaign(sql, id))!;
  const zone = "Europe/London";
  await scheduleCampaign(services, campaign, sendAt, zone, member.id, undefined, pace);
  return (await getCampaign(sql, id))!.launchId!;
}

const NINE = { date: "2026-03-05", time: "09:00" };

it("each reader gets it when their own clock shows the time, those without a zone by the sender's", async () => {
  const addresses = ["york@x.example", "tokyo@x.example", "none@x.example"];
  const sendAt = new Date("2026-03-05T09:00:00Z");
  const launch = await scheduled(addresses, { ...AT_ONCE, own: NINE, perHour: null }, sendAt);
  const [job] = await services.database.sql<{ at: Date }>`
    select run_at as at from jobs where kind = 'launch'`;
  expect(job!.at.toISOString()).toBe("2026-03-04T19:00:00.000Z");
  services.clock.set(job!.at);
  // Until the first of them is due it has not begun, and can be called back.
  services.clock.set((await runLaunch(services, launch))!);
  expect((await getLaunch(services.database.sql, launch))!.state).toBe("scheduled");
  expect(await through(launch)).toEqual({
    "tokyo@x.example": "2026-03-05T00:00:00.000Z",
    "none@x.example": "2026-03-05T09:00:00.000Z",
    "york@x.example": "2026-03-05T14:00:00.000Z",
  });
  // Each bears the date on which it was due.
  const { sql } = services.database;
  const { messages } = await pageOfMessages(sql, "tokyo", 1);
  expect((await messageSource(sql, messages[0]!.id))!.toString()).toMatch(
    /^Date: Thu, 5 Mar 2026 00:00:00 \+0000/m,
  );
});

it("whose clocks have passed it get it as soon as it starts", async () => {
  services.clock.set(new Date("2026-03-05T02:00:00Z"));
  const sendAt = new Date("2026-03-05T09:00:00Z");
  const addresses = ["tokyo@x.example", "none@x.example"];
  const launch = await scheduled(addresses, { ...AT_ONCE, own: NINE, perHour: null }, sendAt);
  expect(await through(launch)).toEqual({
    "tokyo@x.example": "2026-03-05T02:00:00.000Z",
    "none@x.example": "2026-03-05T09:00:00.000Z",
  });
});

it("tells how quickly launches went that were not spread over a time", async () => {
  const { sql } = services.database;
  expect(await usualRate(sql)).toBeNull();
  const ended = async (launch: string, seconds: number, accepted: number) => {
    await runLaunch(services, launch);
    await sql`update launches set finished_at = started_at + make_interval(secs => ${seconds})
      where id = ${launch}`;
    await sql`update launch_totals set accepted = ${accepted} where launch_id = ${launch}`;
  };
  await ended(await scheduled(["a@x.example"], undefined, null), 10, 1_000);
  expect(await usualRate(sql)).toBe(100);
  // Too few tell nothing.
  await sql`update launch_totals set accepted = 3`;
  expect(await usualRate(sql)).toBeNull();
});

it("goes in waves of so many an hour, each reader once", async () => {
  const addresses = Array.from({ length: 7 }, (_, i) => `r${i}@x.example`);
  const launch = await scheduled(addresses, { ...AT_ONCE, own: null, perHour: 3 }, null);
  const start = services.clock.now().getTime();
  const got = await through(launch);
  const hours = Object.values(got).map((at) => (new Date(at).getTime() - start) / 3_600_000);
  expect(hours.toSorted()).toEqual([0, 0, 0, 1, 1, 1, 2]);
  const { sql } = services.database;
  const [{ n } = { n: 0 }] = await sql<{ n: number }>`select count(*)::int as n from recipients`;
  expect(n).toBe(7);
});

it("who has had as many emails as there may be gets no other, until days have passed", async () => {
  const { sql } = services.database;
  const { campaign, member, contacts } = await smallCampaign(services, [
    "one@x.example",
    "two@x.example",
    "three@x.example",
  ]);
  await saveSetting(sql, "sending", sendingSchema.parse({ bounceShare: 8, capEmails: 1 }));
  const to = async (name: string, who: readonly number[]) => {
    const now = services.clock.now();
    const list = await addList(sql, name, who, now);
    const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
    const id = await createCampaign(sql, name, smallNewsletter(), now, audience);
    return (await getCampaign(sql, id))!;
  };
  const send = async (one: typeof campaign) => {
    await scheduleCampaign(services, one, null, "UTC", member.id);
    await runLaunch(services, (await getCampaign(sql, one.id))!.launchId!);
    const [{ n } = { n: 0 }] = await sql<{ n: number }>`select count(*)::int as n
      from recipients r join launches l on l.id = r.launch_id where l.campaign_id = ${one.id}`;
    return n;
  };
  expect(await send(await to("First", contacts.slice(0, 2)))).toBe(2);
  expect(await readersOf(services, campaign)).toMatchObject({ readers: 1, enough: 2 });
  // Whoever has got a campaign is counted among its readers still.
  expect(await send(campaign)).toBe(1);
  const again = (await getCampaign(sql, campaign.id))!;
  expect(await readersOf(services, again)).toMatchObject({ readers: 1, enough: 2 });
  const other = await to("Other", contacts);
  expect(await readersOf(services, other)).toMatchObject({ readers: 0, enough: 3 });
  await expect(scheduleCampaign(services, other, null, "UTC", member.id)).rejects.toThrow(
    "Nobody would get it",
  );
  services.clock.advance(7 * 24 * 3_600_000 + 1);
  expect(await send(other)).toBe(3);
});

it("nobody gets anything in quiet hours of their own clock: what is due then waits for their end", async () => {
  const { sql } = services.database;
  await saveSetting(sql, "sending", sendingSchema.parse({ quietFrom: 21, quietTo: 7 }));
  services.clock.set(new Date("2026-03-05T20:30:00Z"));
  const addresses = ["york@x.example", "tokyo@x.example", "none@x.example"];
  const launch = await scheduled(addresses, AT_ONCE, null);
  expect(await through(launch)).toEqual({
    // 15:30 there: at once. 5:30 there: at 7:00. 20:30 in London.
    "york@x.example": "2026-03-05T20:30:00.000Z",
    "none@x.example": "2026-03-05T20:30:00.000Z",
    "tokyo@x.example": "2026-03-05T22:00:00.000Z",
  });
});

it("reckons with quiet hours as core does, in every zone and over every change of clocks", async () => {
  const { sql } = services.database;
  const zones = ["Europe/London", "America/New_York", "Asia/Kathmandu", "Pacific/Chatham"];
  const days = ["2026-03-08", "2026-03-29", "2026-10-25", "2026-11-01", "2026-04-05", "2026-07-01"];
  for (const quiet of [
    { from: 21, to: 7 },
    { from: 1, to: 4 },
    { from: 0, to: 2 },
    { from: 23, to: 0 },
  ]) {
    for (const zone of zones) {
      for (const day of days) {
        for (let hour = 0; hour < 24; hour++) {
          const at = new Date(`${day}T${String(hour).padStart(2, "0")}:20:00Z`);
          const due = { moments: new Map(), quiet, zones, zone: "UTC", all: null };
          const one = (text: string) => constantSql(text as never);
          const when = dueSql(due, {
            ...{ from: at, hour: one("null::int"), later: one("0") },
            zone: one(`'${zone}'::text`),
          });
          const [row] = await sql<{ at: Date }>`select ${when} as at`;
          expect([zone, at, quiet, row!.at]).toEqual([zone, at, quiet, awake(at, zone, quiet)]);
        }
      }
    }
  }
}, 60_000);

it("each reader gets it in the hour in which they read, those who opened nothing in that of the others", async () => {
  const { sql } = services.database;
  const addresses = ["york@x.example", "tokyo@x.example", "none@x.example"];
  services.clock.set(new Date("2026-03-03T10:00:00Z"));
  const best = { ...AT_ONCE, best: "2026-03-05" };
  const launch = await scheduled(addresses, best, new Date("2026-03-05T00:00:00Z"));
  const opened = async (email: string, times: string[]) => {
    for (const at of times) {
      await sql`insert into events (kind, at, contact_id) select 'opened', ${new Date(at)}, id
        from contacts where email = ${email}`;
    }
  };
  // At 18:00 in New York; at 6:00 in Tokyo.
  await opened("york@x.example", [
    "2026-02-20T23:10:00Z",
    "2026-02-22T23:20:00Z",
    "2026-02-24T23:40:00Z",
  ]);
  await opened("tokyo@x.example", [
    "2026-02-20T21:10:00Z",
    "2026-02-21T21:10:00Z",
    "2026-02-22T21:10:00Z",
    "2026-02-23T21:10:00Z",
  ]);
  const [job] = await sql<{ at: Date }>`select run_at as at from jobs where kind = 'launch'`;
  services.clock.set(job!.at);
  expect(await through(launch)).toEqual({
    "tokyo@x.example": "2026-03-04T21:00:00.000Z",
    "none@x.example": "2026-03-05T06:00:00.000Z",
    "york@x.example": "2026-03-05T23:00:00.000Z",
  });
});
