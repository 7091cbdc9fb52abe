/** A scheduled campaign moved to another day: at the same time, as it was frozen, and never twice. */
import { afterEach, beforeEach, expect, it } from "vitest";
import { AT_ONCE } from "#core/schedule/index.ts";
import { runLaunch } from "../jobs/sender.ts";
import { getCampaign } from "../store/campaigns.ts";
import { getLaunch, launchesBetween } from "../store/launches/freeze.ts";
import { progressOf } from "../store/launches/progress.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { moveTo } from "./moving.ts";
import { cancelSchedule, ScheduleError, scheduleCampaign } from "./scheduling.ts";

let services: TestServices;
let campaign: string;
beforeEach(async () => {
  services = await startTestServices();
  services.clock.set(new Date("2026-03-20T10:00:00Z"));
});
afterEach(() => services.close());

async function scheduled(at: string, pace = AT_ONCE): Promise<string> {
  const made = await smallCampaign(services, ["one@x.example"]);
  campaign = made.campaign.id;
  await scheduleCampaign(
    services,
    made.campaign,
    new Date(at),
    "Europe/London",
    made.member.id,
    undefined,
    pace,
  );
  return (await getCampaign(services.database.sql, campaign))!.launchId!;
}
const launch = async (id: string) => (await getLaunch(services.database.sql, id))!;
const jobs = async () =>
  (
    await services.database.sql<{
      at: Date;
    }>`select run_at as at from jobs where kind = 'launch' and state = 'waiting'`
  ).map(({ at }) => at.toISOString());

it("keeps its time of the day over a change of clocks, and its job goes with it", async () => {
  const id = await scheduled("2026-03-25T09:00:00Z");
  await moveTo(services, campaign, "2026-03-30");
  // 9:00 in London is 8:00 UTC after the 29th.
  expect((await launch(id)).sendAt.toISOString()).toBe("2026-03-30T08:00:00.000Z");
  expect(await jobs()).toEqual(["2026-03-30T08:00:00.000Z"]);
  const { sql } = services.database;
  const [dated] = await launchesBetween(sql, new Date("2026-03-30"), new Date("2026-03-31"), 10);
  expect(dated).toMatchObject({ campaignId: campaign, state: "scheduled" });
  // A job from before finds that it is not its time.
  services.clock.set(new Date("2026-03-25T09:00:00Z"));
  expect(await runLaunch(services, id)).toEqual(new Date("2026-03-30T08:00:00Z"));
  expect(await progressOf(sql, id)).toMatchObject({ total: 0 });
  services.clock.set(new Date("2026-03-30T08:00:00Z"));
  await runLaunch(services, id);
  expect(await progressOf(sql, id)).toMatchObject({ accepted: 1 });
});

it("moves the day of readers' own clocks and hours with it", async () => {
  const own = { date: "2026-03-25", time: "09:00" };
  const id = await scheduled("2026-03-25T09:00:00Z", { ...AT_ONCE, own });
  await moveTo(services, campaign, "2026-03-27");
  expect((await launch(id)).pace.own).toEqual({ ...own, date: "2026-03-27" });
  expect(await jobs()).toEqual(["2026-03-26T19:00:00.000Z"]);
});

it("refuses what has passed, what is no day, a time that does not exist, and what has begun or been called back", async () => {
  const id = await scheduled("2026-03-25T01:30:00Z");
  await expect(moveTo(services, campaign, "2026-03-19")).rejects.toThrow("has passed");
  await expect(moveTo(services, campaign, "2026-02-30")).rejects.toThrow("no such day");
  await expect(moveTo(services, campaign, "2026-03-29")).rejects.toThrow("Clocks go forward");
  expect((await launch(id)).sendAt.toISOString()).toBe("2026-03-25T01:30:00.000Z");
  await cancelSchedule(services, campaign);
  await expect(moveTo(services, campaign, "2026-03-26")).rejects.toThrow(ScheduleError);
});
