/** A launch that stands still, goes on or ends: what becomes of it and of each of its recipients. */
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { scheduleCampaign } from "../../campaigns/scheduling.ts";
import { smallCampaign } from "../../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../../testing/services.ts";
import { getCampaign } from "../campaigns.ts";
import {
  cancelLaunch,
  finishLaunch,
  forgetWaits,
  leaveOut,
  pauseLaunch,
  pauseOf,
  resumeLaunch,
  stopLaunch,
  unfinishedLaunches,
  waitsOf,
} from "./pause.ts";
import { progressOf } from "./progress.ts";

const STATES = ["waiting", "deferred", "claimed", "unsure", "refused", "accepted", "rest"] as const;
const NOW = new Date("2026-03-02T10:00:00Z");
const LATER = new Date("2026-03-02T11:00:00Z");
const asked = { why: "person" as const, reason: "", resumeAt: null };

let services: TestServices;
let launch: string;

/** A launch that is due, with one recipient in each of some states. */
beforeEach(async () => {
  services = await startTestServices();
  const { sql } = services.database;
  services.clock.set(NOW);
  const addresses = STATES.map((state) => `${state}@x.example`);
  const { campaign, member } = await smallCampaign(services, addresses);
  await scheduleCampaign(services, campaign, LATER, "UTC", member.id);
  launch = (await getCampaign(sql, campaign.id))!.launchId!;
  await sql`insert into recipients (launch_id, contact_id, email, state, next_try_at)
    select ${launch}, id, email, split_part(email, '@', 1), ${NOW} from contacts`;
});
afterEach(() => services.close());

const sql: TestServices["database"]["sql"] = (...given) => services.database.sql(...given);
const put = (state: string) => sql`update launches set state = ${state} where id = ${launch}`;
const row = async () =>
  (
    await sql<
      Record<string, unknown>
    >`select state, pause, pause_reason as reason, paused_at as since,
      resume_at as again, waits, bounces_allowed as allowed, finished_at as ended
      from launches where id = ${launch}`
  )[0]!;
const states = async () =>
  Object.fromEntries(
    (
      await sql<{ was: string; state: string }>`
        select split_part(email, '@', 1) as was, state from recipients where launch_id = ${launch}`
    ).map(({ was, state }) => [was, state]),
  );
const AS_THEY_WERE = Object.fromEntries(STATES.map((state) => [state, state]));

describe("a launch that has not begun", () => {
  it("can be cancelled once, and no more once it has begun", async () => {
    expect(await cancelLaunch(sql, launch)).toBe(true);
    expect((await row()).state).toBe("cancelled");
    expect(await cancelLaunch(sql, launch)).toBe(false);
    await put("sending");
    expect(await cancelLaunch(sql, launch)).toBe(false);
    expect((await row()).state).toBe("sending");
  });
  it("can neither be paused, resumed, stopped nor finished", async () => {
    expect(await pauseLaunch(sql, launch, asked, NOW)).toBe(false);
    expect(await resumeLaunch(sql, launch, NOW)).toBeNull();
    expect(await stopLaunch(sql, launch, NOW)).toBeNull();
    expect(await finishLaunch(sql, launch, NOW)).toBe(false);
    expect((await row()).state).toBe("scheduled");
    expect(await states()).toEqual(AS_THEY_WERE);
  });
});

describe("a launch that is being sent", () => {
  beforeEach(() => put("sending"));
  it("stands still with its reason, and counts how often it does until messages are taken again", async () => {
    const why = { why: "service" as const, reason: "421 come back", resumeAt: LATER };
    expect(await pauseLaunch(sql, launch, why, NOW)).toBe(true);
    expect(await row()).toMatchObject({
      ...{ state: "paused", pause: "service", reason: "421 come back", since: NOW, again: LATER },
    });
    expect(await pauseOf(sql, launch)).toBe("service");
    // It stands still already.
    expect(await pauseLaunch(sql, launch, asked, LATER)).toBe(false);
    expect(await waitsOf(sql, launch)).toBe(1);
    expect(await resumeLaunch(sql, launch, LATER)).toBe("service");
    expect(await pauseOf(sql, launch)).toBeNull();
    await pauseLaunch(sql, launch, asked, LATER);
    expect(await waitsOf(sql, launch)).toBe(2);
    await forgetWaits(sql, launch);
    expect(await waitsOf(sql, launch)).toBe(0);
    expect(await waitsOf(sql, "no such launch")).toBe(0);
  });
  it("goes on as it was: nobody is tried again who was refused, unless their message was the reason", async () => {
    await pauseLaunch(sql, launch, asked, NOW);
    expect(await resumeLaunch(sql, launch, LATER)).toBe("person");
    expect(await row()).toMatchObject({
      ...{ state: "sending", pause: null, reason: null, since: null, again: null, allowed: false },
    });
    expect(await states()).toEqual(AS_THEY_WERE);
    await pauseLaunch(sql, launch, { ...asked, why: "message" }, NOW);
    expect(await resumeLaunch(sql, launch, LATER)).toBe("message");
    expect(await states()).toEqual({ ...AS_THEY_WERE, refused: "waiting" });
    const [again] = await sql`select next_try_at as at, settled_at as settled from recipients
      where launch_id = ${launch} and email = 'refused@x.example'`;
    expect(again).toEqual({ at: LATER, settled: null });
  });
  it("is let go on past its bounces, and keeps that", async () => {
    await pauseLaunch(sql, launch, { ...asked, why: "bounces" }, NOW);
    expect(await resumeLaunch(sql, launch, NOW)).toBe("bounces");
    expect((await row()).allowed).toBe(true);
    await pauseLaunch(sql, launch, asked, NOW);
    await resumeLaunch(sql, launch, NOW);
    expect((await row()).allowed).toBe(true);
  });
  it("ends with all that have not got it left out piece by piece, and what is unsure left as it is", async () => {
    expect(await stopLaunch(sql, launch, LATER)).toBe(4);
    expect(await row()).toMatchObject({ state: "done", ended: LATER, pause: null, again: null });
    expect(await states()).toEqual({ ...AS_THEY_WERE, unsure: "left" });
    const jobs = await sql`select 1 from jobs where kind = 'leaveOut'`;
    expect(jobs).toHaveLength(1);
    expect(await leaveOut(sql, launch, 3, LATER)).toBe(3);
    expect(await leaveOut(sql, launch, 3, LATER)).toBe(1);
    expect(await leaveOut(sql, launch, 3, LATER)).toBe(0);
    const { total, cancelled, left, accepted, refused, waiting } = {
      waiting: 0,
      ...(await progressOf(sql, launch)),
    };
    expect({ total, cancelled, left, accepted, refused, waiting }).toEqual({
      ...{ total: 7, cancelled: 4, left: 1, accepted: 1, refused: 1, waiting: 0 },
    });
    // It has ended.
    expect(await stopLaunch(sql, launch, LATER)).toBeNull();
  });
  it("leaves nobody out of one that goes on", async () => {
    expect(await leaveOut(sql, launch, 10, NOW)).toBe(0);
    expect(await states()).toEqual(AS_THEY_WERE);
  });
  it("is finished once", async () => {
    expect(await finishLaunch(sql, launch, LATER)).toBe(true);
    expect(await row()).toMatchObject({ state: "done", ended: LATER });
    expect(await finishLaunch(sql, launch, NOW)).toBe(false);
    expect((await row()).ended).toEqual(LATER);
  });
});

it("what has to be worked on is what waits for a time, and nothing that waits for a person or has ended", async () => {
  const at = async () => (await unfinishedLaunches(sql)).map((one) => one.at.toISOString());
  expect(await at()).toEqual([LATER.toISOString()]);
  await put("sending");
  await pauseLaunch(sql, launch, asked, NOW);
  expect(await at()).toEqual([]);
  const again = new Date("2026-03-02T12:00:00Z");
  await resumeLaunch(sql, launch, NOW);
  await pauseLaunch(sql, launch, { ...asked, why: "service", resumeAt: again }, NOW);
  expect(await at()).toEqual([again.toISOString()]);
  await stopLaunch(sql, launch, NOW);
  expect(await at()).toEqual([]);
});
