/** Sending through a service that misbehaves, over real connections. */

import { afterEach, beforeEach, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import {
  cancelRest,
  decideOnUnsure,
  goOn,
  pauseByHand,
  scheduleCampaign,
} from "../campaigns/scheduling.ts";
import { createMailer } from "../mail/mailer.ts";
import { getCampaign } from "../store/campaigns.ts";
import { getLaunch } from "../store/launches/freeze.ts";
import { progressOf, standingOfLaunch, unsureReaders } from "../store/launches/progress.ts";
import { saveSetting, sendingSchema } from "../store/settings.ts";
import { TEST_MAIL_KEYS } from "../testing/mail-keys.ts";
import { type Mood, type MoodyService, startMoodyService } from "../testing/moody-service.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { leaveRest, runLaunch } from "./sender.ts";

let services: TestServices;
let service: MoodyService;
beforeEach(async () => {
  service = await startMoodyService();
  const mailer = createMailer(service.address, TEST_MAIL_KEYS, { connect: 2_000, answer: 1_000 });
  services = await startTestServices(mailer);
});
afterEach(async () => {
  services.mailer.close();
  await service.close();
  await services.close();
});

const sql = () => services.database.sql;
const many = (n: number) => Array.from({ length: n }, (_, i) => `reader.${i}@example.org`);

async function launched(addresses: string[]) {
  const made = await smallCampaign(services, addresses);
  await scheduleCampaign(services, made.campaign, null, "Europe/London", made.member.id);
  const launch = (await getCampaign(sql(), made.campaign.id))!.launchId!;
  return { ...made, launch, run: () => runLaunch(services, launch) };
}
const suppressed = async () => (await sql()`select 1 from suppressions`).length;

const ABOUT_THE_SERVICE: [string, Mood][] = [
  ["a greeting that refuses", { phase: "connect", says: "554 No mail from here" }],
  ["a password that is wrong", { phase: "signIn", says: "535 5.7.8 Wrong" }],
  ["a sender that it does not know", { phase: "sender", says: "550 5.1.8 Not yours" }],
  ["a refusal of DATA", { phase: "data", says: "554 5.5.1 No" }],
  ["a quota that is used up", { phase: "content", says: "552 5.2.2 Quota exceeded" }],
  ["relaying that is denied", { phase: "reader", says: "550 Relaying denied" }],
  ["a line cut before the greeting", { phase: "connect", says: { does: "cut" } }],
  ["a line cut at the reader", { phase: "reader", says: { does: "cut" } }],
];

it.each(ABOUT_THE_SERVICE)(
  "takes %s as the service's, and goes on once it is mended",
  async (_, mood) => {
    const { launch, run } = await launched(many(12));
    service.mood(mood);
    const due = await run();
    expect(due!.getTime() - services.clock.now().getTime()).toBe(LIMITS.serviceWaits[0]);
    expect(await progressOf(sql(), launch)).toMatchObject({ total: 12, bounced: 0, accepted: 0 });
    expect(await suppressed()).toBe(0);
    const standing = (await standingOfLaunch(sql(), launch))!;
    expect(["service", "connection"]).toContain(standing.why);
    expect((await getCampaign(sql(), (await getLaunch(sql(), launch))!.campaignId))!.state).toBe(
      "sending",
    );
    // It waits longer each time, and spends nobody's tries.
    for (let n = 1; n < LIMITS.sendTries + 2; n++) {
      services.clock.set((await getLaunch(sql(), launch))!.resumeAt!);
      const again = await run();
      expect(again!.getTime() - services.clock.now().getTime()).toBe(
        LIMITS.serviceWaits[Math.min(n, LIMITS.serviceWaits.length - 1)],
      );
    }
    service.mood(null);
    services.clock.set((await getLaunch(sql(), launch))!.resumeAt!);
    expect(await run()).toBeNull();
    expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 12, deferred: 0 });
    expect(new Set(service.taken).size).toBe(12);
    expect(service.taken).toHaveLength(12);
  },
);

it("renews a line that the service ends after some messages, without a pause", async () => {
  const { launch, run } = await launched(many(40));
  service.mood({
    phase: "sender",
    says: "421 4.7.0 Enough for this line",
    times: 6,
    to: "reader.2",
  });
  expect(await run()).toBeNull();
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 40 });
});

it("leaves what went without an answer to a person, who sends it again or leaves it", async () => {
  const { launch, run, campaign } = await launched(many(20));
  service.mood({ phase: "content", says: { does: "cut" }, keeps: true, times: 5 });
  let due = await run();
  while (due) {
    services.clock.set(due);
    due = await run();
  }
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 15, unsure: 5 });
  expect(await standingOfLaunch(sql(), launch)).toMatchObject({ why: "unsure" });
  expect(service.taken).toHaveLength(20);
  expect((await unsureReaders(sql(), launch, 50)).map(({ email }) => email)).toHaveLength(5);
  await decideOnUnsure(services, campaign.id, "leave");
  expect(await run()).toBeNull();
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 15, left: 5 });
  expect((await getLaunch(sql(), launch))!.state).toBe("done");
  expect(service.taken).toHaveLength(20);
});

it("sends what is unsure again where a person says so", async () => {
  const { launch, run, campaign } = await launched(many(3));
  service.mood({ phase: "content", says: { does: "cut" }, times: 1 });
  let due = await run();
  while (due) {
    services.clock.set(due);
    due = await run();
  }
  await decideOnUnsure(services, campaign.id, "again");
  expect(await run()).toBeNull();
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 3, unsure: 0 });
  expect(new Set(service.taken).size).toBe(3);
});

it("stops for three messages refused for what is in them, and tries those again after", async () => {
  const { launch, run, campaign } = await launched(many(30));
  service.mood({ phase: "content", says: "554 5.7.1 Looks like spam" });
  expect(await run()).toBeNull();
  const stood = await progressOf(sql(), launch);
  expect(stood.refused).toBeGreaterThanOrEqual(3);
  // Those that were on a line when it stopped are no more than there are lines.
  expect(stood.refused).toBeLessThanOrEqual(3 + LIMITS.sendParallel);
  expect(await standingOfLaunch(sql(), launch)).toMatchObject({
    why: "message",
    reason: "554 5.7.1 Looks like spam",
  });
  expect(await suppressed()).toBe(0);
  service.mood(null);
  await goOn(services, campaign.id);
  expect(await run()).toBeNull();
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 30, refused: 0 });
});

it("asks once more than a share of readers bounced, and goes on when it is told to", async () => {
  const { launch, run, campaign } = await launched(many(90));
  service.mood({ phase: "reader", says: "550 5.1.1 No such mailbox", to: "reader.1" });
  await run();
  expect(await standingOfLaunch(sql(), launch)).toMatchObject({ why: "bounces", resumeAt: null });
  const stood = await progressOf(sql(), launch);
  expect(stood.accepted + stood.bounced).toBeGreaterThanOrEqual(LIMITS.bounceAnswers);
  expect(stood.accepted + stood.bounced).toBeLessThan(90);
  await goOn(services, campaign.id);
  await run();
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 79, bounced: 11 });
  expect(await suppressed()).toBe(11);
});

it("lets as many bounce as the settings say", async () => {
  const { launch, run } = await launched(many(90));
  await saveSetting(sql(), "sending", sendingSchema.parse({ bounceShare: 40 }));
  service.mood({ phase: "reader", says: "550 5.1.1 No such mailbox", to: "reader.1" });
  await run();
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 79, bounced: 11 });
});

it("holds an address back that was full three launches in a row, not before", async () => {
  const { member, campaign } = await launched(["full@example.org", "one@example.org"]);
  service.mood({ phase: "reader", says: "552 5.2.2 Full", to: "full" });
  const held: number[] = [];
  for (let n = 0; n < 3; n++) {
    const { launchId } = (await getCampaign(sql(), campaign.id))!;
    await runLaunch(services, launchId!);
    held.push(await suppressed());
    await sql()`update launches set state = 'cancelled'`;
    const again = (await getCampaign(sql(), campaign.id))!;
    if (n < 2) await scheduleCampaign(services, again, null, "Europe/London", member.id);
  }
  expect(held).toEqual([0, 0, 1]);
});

it("is paused by hand before the next message, goes on, and can be ended half-way", async () => {
  const { launch, run, campaign } = await launched(many(200));
  const running = run();
  while (service.taken.length < 20) await new Promise((ok) => setTimeout(ok, 2));
  await pauseByHand(services, campaign.id);
  expect(await running).not.toBeUndefined();
  const stood = await progressOf(sql(), launch);
  expect(stood.accepted).toBeLessThan(200);
  expect(service.taken).toHaveLength(stood.accepted);
  expect(await run()).toBeNull();
  expect(await progressOf(sql(), launch)).toEqual(stood);
  await goOn(services, campaign.id);
  const second = run();
  while (service.taken.length < stood.accepted + 20) await new Promise((ok) => setTimeout(ok, 2));
  const left = await cancelRest(services, campaign.id);
  await second;
  await leaveRest(services, launch);
  expect(left).toBeGreaterThan(100);
  const ended = await progressOf(sql(), launch);
  expect(ended.accepted + ended.cancelled).toBe(200);
  expect(service.taken).toHaveLength(ended.accepted);
  expect((await getLaunch(sql(), launch))!.state).toBe("done");
  await expect(goOn(services, campaign.id)).rejects.toThrow("does not stand still");
});

it("gives nobody two messages where two senders work on one launch", async () => {
  const { launch } = await launched(many(150));
  await Promise.all([runLaunch(services, launch), runLaunch(services, launch)]);
  const due = await runLaunch(services, launch);
  expect(due).toBeNull();
  expect(service.taken).toHaveLength(150);
  expect(new Set(service.taken).size).toBe(150);
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 150 });
});

it("finishes what is on the line when it is told to end, and claims nothing more", async () => {
  const { launch, run } = await launched(many(150));
  const running = run();
  while (service.taken.length < 10) await new Promise((ok) => setTimeout(ok, 2));
  services.stop();
  await running;
  const rows = await sql()<{ state: string; n: number }>`
    select state, count(*)::int as n from recipients where launch_id = ${launch} group by state`;
  const counts = Object.fromEntries(rows.map(({ state, n }) => [state, n]));
  expect(counts).toEqual({ accepted: service.taken.length, waiting: 150 - service.taken.length });
});

/** How many messages are on the line. */
const handed = async () => (await sql()`select 1 from recipients where state = 'handed'`).length;

it("is not kept by a service that hangs: what is on the line is cut, and nobody knows of it", async () => {
  const { launch, run } = await launched(many(30));
  service.mood({ phase: "content", says: { does: "hang" } });
  const running = run();
  while ((await handed()) < LIMITS.sendParallel) await new Promise((ok) => setTimeout(ok, 5));
  services.stop();
  services.mailer.close();
  await running;
  expect(await progressOf(sql(), launch)).toMatchObject({
    unsure: LIMITS.sendParallel,
    accepted: 0,
  });
});

it("leaves no more unsure after a kill than connections were open", async () => {
  const { launch } = await launched(many(100));
  service.mood({ phase: "content", says: { does: "hang" } });
  void runLaunch(services, launch).catch(() => {});
  while ((await handed()) < LIMITS.sendParallel) await new Promise((ok) => setTimeout(ok, 5));
  await new Promise((ok) => setTimeout(ok, 50));
  expect(await handed()).toBe(LIMITS.sendParallel);
  expect(service.connections).toBe(LIMITS.sendParallel);
});
