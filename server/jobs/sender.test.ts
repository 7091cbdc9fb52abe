import { simpleParser } from "mailparser";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { cancelSchedule, ScheduleError, scheduleCampaign } from "../campaigns/scheduling.ts";
import { addSegment } from "../store/audience.ts";
import { getCampaign } from "../store/campaigns.ts";
import { progressOf } from "../store/launches/progress.ts";
import { messageSource, pageOfMessages } from "../store/outbox.ts";
import { setUncounted } from "../store/reading.ts";
import { measuresOf } from "../store/results.ts";
import { saveSetting, sendingSchema } from "../store/settings.ts";
import { suppress } from "../store/suppressions.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { runLaunch } from "./sender.ts";

let services: TestServices;
afterEach(() => services.close());

async function launched(addresses: string[]) {
  const made = await smallCampaign(services, addresses);
  await scheduleCampaign(services, made.campaign, null, "Europe/London", made.member.id);
  const campaign = (await getCampaign(services.database.sql, made.campaign.id))!;
  return { ...made, campaign, launch: campaign.launchId! };
}

describe("with the outbox", () => {
  beforeEach(async () => {
    services = await startTestServices();
  });

  it("sends each reader one message of their own, and writes down refusals", async () => {
    const { sql } = services.database;
    const { launch, contacts } = await launched([
      "one@example.org",
      "two@example.org",
      "bounce@example.org",
    ]);
    expect(await runLaunch(services, launch)).toBeNull();
    expect(await progressOf(sql, launch)).toMatchObject({ total: 3, accepted: 2, bounced: 1 });
    expect(await measuresOf(sql, launch)).toMatchObject({ accepted: 2, bounced: 1 });
    const { messages } = await pageOfMessages(sql, "", 1);
    const accepted = messages.filter((m) => m.outcome === "accepted");
    expect(accepted.map((m) => m.subject).sort()).toEqual(["Hello Reader 0", "Hello friend"]);
    const source = (await messageSource(sql, accepted[0]!.id))!.toString();
    expect(source).toContain("List-Unsubscribe-Post: List-Unsubscribe=One-Click");
    expect(source).toMatch(/List-Unsubscribe: <http:\/\/127\.0\.0\.1:4999\/u\/m/);
    // Running it again sends nothing.
    expect(await runLaunch(services, launch)).toBeNull();
    expect((await pageOfMessages(sql, "", 1)).total).toBe(messages.length);
    const held =
      await sql`select reason from suppressions where email_folded = 'bounce@example.org'`;
    expect(held).toEqual([{ reason: "bounced" }]);
    expect(contacts).toHaveLength(3);
  });

  it("sends whoever is not to be counted links that lead straight there", async () => {
    const { sql } = services.database;
    const { launch, contacts } = await launched(["one@example.org", "two@example.org"]);
    await setUncounted(sql, contacts[1]!, true);
    await runLaunch(services, launch);
    const { messages } = await pageOfMessages(sql, "", 1);
    for (const { id, to } of messages) {
      const { html } = await simpleParser((await messageSource(sql, id))!);
      const counted = to === "one@example.org";
      expect([to, String(html).includes("/c/m"), String(html).includes("/o/m")]).toEqual([
        to,
        counted,
        counted,
      ]);
      expect(html).toContain("/u/m");
    }
  });

  it("writes the reader's name before their address, where a field says it", async () => {
    const { sql } = services.database;
    await saveSetting(sql, "sending", sendingSchema.parse({ nameField: "first_name" }));
    const { launch } = await launched(["one@example.org", "two@example.org"]);
    await runLaunch(services, launch);
    const { messages } = await pageOfMessages(sql, "", 1);
    const sources = await Promise.all(
      messages.map(async ({ id }) => String(await messageSource(sql, id))),
    );
    expect(sources.join("")).toMatch(/^To: Reader 0 <one@example\.org>\r$/m);
    expect(sources.join("")).toMatch(/^To: two@example\.org\r$/m);
  });

  it("holds back who has left between the start and the claim", async () => {
    const { launch } = await launched(["one@example.org", "two@example.org"]);
    await suppress(services.database.sql, "TWO@example.org", "unsubscribed", services.clock.now());
    await runLaunch(services, launch);
    expect(await progressOf(services.database.sql, launch)).toMatchObject({
      total: 1,
      accepted: 1,
    });
  });

  it("holds back at the claim who left, or was erased, after the start", async () => {
    const addresses = ["later@example.org", "later+b@example.org", "one@example.org"];
    const { launch, contacts } = await launched(addresses);
    const { sql } = services.database;
    await runLaunch(services, launch);
    expect(await progressOf(sql, launch)).toMatchObject({ accepted: 1, deferred: 2 });
    await suppress(sql, "later@example.org", "unsubscribed", services.clock.now());
    await sql`delete from contacts where id = ${contacts[1]}`;
    services.clock.advance(3_600_000);
    expect(await runLaunch(services, launch)).toBeNull();
    expect(await progressOf(sql, launch)).toMatchObject({ accepted: 1, held: 2, deferred: 0 });
  });

  it("keeps the rules it was scheduled with", async () => {
    const made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
    const { sql } = services.database;
    const named = { type: "field", field: "first_name", op: "hasValue", argument: null } as const;
    const id = await addSegment(sql, "Named", named, services.clock.now());
    const audience = { include: [{ kind: "segment" as const, id }], exclude: [] };
    const campaign = { ...made.campaign, audience };
    await scheduleCampaign(services, campaign, null, "Europe/London", made.member.id);
    await sql`update segments set rule = '{"type":"all","rules":[]}'::jsonb`;
    const { launchId } = (await getCampaign(sql, campaign.id))!;
    await runLaunch(services, launchId!);
    expect(await progressOf(sql, launchId!)).toMatchObject({ total: 1, accepted: 1 });
  });

  it("tries again later what is deferred", async () => {
    const { launch } = await launched(["later@example.org", "one@example.org"]);
    const { sql } = services.database;
    const due = await runLaunch(services, launch);
    expect(due!.getTime()).toBe(services.clock.now().getTime() + 60_000);
    expect(await progressOf(sql, launch)).toMatchObject({ accepted: 1, deferred: 1 });
    for (let tries = 0; tries < 5; tries++) {
      services.clock.advance(24 * 3_600_000);
      await runLaunch(services, launch);
    }
    expect(await progressOf(sql, launch)).toMatchObject({ accepted: 1, deferred: 0, bounced: 1 });
    // It may be there all the same: it is not held back for one launch.
    expect(await sql`select * from suppressions`).toEqual([]);
    expect((await getCampaign(sql, (await campaignIds())[0]!))!.state).toBe("sent");
  });

  it("refuses what cannot be sent, with the reason", async () => {
    const made = await smallCampaign(services, ["one@example.org"]);
    const { sql } = services.database;
    const schedule = (at: Date | null) =>
      scheduleCampaign(services, made.campaign, at, "Europe/London", made.member.id);
    await expect(schedule(new Date("2020-01-01"))).rejects.toThrow("This time has passed");
    await expect(
      scheduleCampaign(
        services,
        { ...made.campaign, audience: { include: [], exclude: [] } },
        null,
        "Europe/London",
        made.member.id,
      ),
    ).rejects.toThrow("Nobody would get it");
    await sql`update settings set value = jsonb_set(value, '{postalAddress}', '""') where key = 'sender'`;
    await expect(schedule(null)).rejects.toThrow("The sender has no postal address");
  });

  it("lets a campaign be on its way only once, and be called back", async () => {
    const made = await smallCampaign(services, ["one@example.org"]);
    const later = new Date(services.clock.now().getTime() + 3_600_000);
    const both = await Promise.allSettled(
      [1, 2].map(() =>
        scheduleCampaign(services, made.campaign, later, "Europe/London", made.member.id),
      ),
    );
    expect(both.map((r) => r.status).sort()).toEqual(["fulfilled", "rejected"]);
    await cancelSchedule(services, made.campaign.id);
    const campaign = (await getCampaign(services.database.sql, made.campaign.id))!;
    expect(campaign.state).toBe("draft");
    await expect(cancelSchedule(services, made.campaign.id)).rejects.toThrow(ScheduleError);
  });

  it("goes on where a crash stopped it, and sends nothing twice", async () => {
    const { launch } = await launched(["one@example.org", "two@example.org", "three@example.org"]);
    const { sql } = services.database;
    await runLaunch(services, launch);
    const sent = (await pageOfMessages(sql, "", 1)).total;
    // As if the process had died: one message had arrived without its answer, one was never handed over.
    await sql`update launches set state = 'sending'`;
    await sql`update recipients set state = 'handed' where email = 'one@example.org'`;
    await sql`update recipients set state = 'claimed', lease = 'gone', next_try_at = ${services.clock.now()} where email = 'two@example.org'`;
    await sql`delete from outbox_messages where to_address = 'two@example.org'`;
    await runLaunch(services, launch);
    const { messages } = await pageOfMessages(sql, "", 1);
    expect(messages).toHaveLength(sent);
    expect(messages.map((m) => m.to).sort()).toEqual([
      "one@example.org",
      "three@example.org",
      "two@example.org",
    ]);
    expect(await progressOf(sql, launch)).toMatchObject({ accepted: 3 });
  });
});

async function campaignIds(): Promise<string[]> {
  return (await services.database.sql<{ id: string }>`select id from campaigns`).map((r) => r.id);
}

describe("to one domain", () => {
  beforeEach(async () => {
    services = await startTestServices();
  });

  it("goes at most so many a minute, and others do not wait for it", async () => {
    const { sql } = services.database;
    await saveSetting(sql, "sending", sendingSchema.parse({ perMinute: 4 }));
    const large = Array.from({ length: 10 }, (_, i) => `r${i}@large.example`);
    const { launch } = await launched([...large, "one@small.example"]);
    services.clock.set(new Date("2026-03-02T10:00:05Z"));
    const went = async () => (await pageOfMessages(sql, "", 1)).total;
    let next = await runLaunch(services, launch);
    expect(await went()).toBe(5);
    expect(next!.toISOString()).toBe("2026-03-02T10:01:00.000Z");
    services.clock.set(next!);
    next = await runLaunch(services, launch);
    expect(await went()).toBe(9);
    services.clock.set(next!);
    expect(await runLaunch(services, launch)).toBeNull();
    expect(await went()).toBe(11);
    // Nobody's patience was spent by that.
    expect(await sql`select 1 from recipients where tries > 0`).toEqual([]);
  });

  it("goes ever more slowly where it asks for less haste, over all runs, and gives up in the end", async () => {
    const { sql } = services.database;
    const reply = "450 4.7.1 Too many messages, slow down";
    const verdict = { kind: "reader" as const, lasting: false, gone: false };
    const mailer = {
      ...services.mailer,
      carry: async () => ({ state: "refused" as const, reply, verdict }),
    };
    const { launch } = await launched(["one@hasty.example"]);
    const waits: number[] = [];
    for (;;) {
      const began = services.clock.now();
      const next = await runLaunch({ ...services, mailer }, launch);
      if (!next) break;
      waits.push((next.getTime() - began.getTime()) / 60_000);
      services.clock.set(next);
      expect(waits.length).toBeLessThan(20);
    }
    expect(waits.slice(0, 4)).toEqual([1, 3, 10, 30]);
    expect(await progressOf(sql, launch)).toMatchObject({ bounced: 1 });
  });
});
