import { ITEMS_PLAN, type ItemsPlan } from "#core/items/index.ts";
import { conditionsOf } from "#core/render/index.ts";
import { AT_ONCE, dayIn, type Pace, startOf } from "#core/schedule/index.ts";
import { DatabaseError, type Sql } from "../db/database.ts";
import { missingApprovals, missingWords } from "../reviews/deciding.ts";
import type { Services } from "../services.ts";
import { rulesOfAudience, segmentsBehind } from "../store/audience.ts";
import { type Campaign, getCampaign } from "../store/campaigns.ts";
import { rulesOf } from "../store/conditions.ts";
import { enqueue, hurry } from "../store/jobs.ts";
import { createLaunch, getLaunch } from "../store/launches/freeze.ts";
import {
  cancelLaunch,
  pauseLaunch,
  pauseOf,
  resumeLaunch,
  stopLaunch,
} from "../store/launches/pause.ts";
import { decideUnsure } from "../store/launches/settle.ts";
import { chooseWinner } from "../store/launches/split.ts";
import { countAudience } from "../store/readers.ts";
import { getSettings, quietOf } from "../store/settings.ts";
import { examine } from "./findings.ts";
import { bringCampaignUpToDate } from "./linking.ts";
import { ScheduleError } from "./schedule-error.ts";
import { splitOf, variantsOf } from "./splitting.ts";
import { toTell } from "./telling.ts";

export { ScheduleError };

/** Minutes a time may lie in the past and still count as now (somebody read the page for a while). */
const GRACE_MINUTES = 2;

/** Freezes a campaign and sets it to leave. `sendAt` null sends now. Throws a ScheduleError. */
export async function scheduleCampaign(
  services: Services,
  campaign: Campaign,
  sendAt: Date | null,
  zone: string,
  member: string,
  itemsPlan: ItemsPlan = ITEMS_PLAN,
  pace: Pace = AT_ONCE,
): Promise<void> {
  const now = services.clock.now();
  if (campaign.variantOf !== null) {
    throw new ScheduleError("This is a variant: it goes out with the campaign it belongs to.");
  }
  if (campaign.state === "scheduled" || campaign.state === "sending") {
    throw new ScheduleError("This campaign is on its way already.");
  }
  if (campaign.state === "sent") {
    throw new ScheduleError("This campaign has been sent. Start another from it.");
  }
  const today = pace.best !== null && dayIn(now, zone) === pace.best;
  if (sendAt && !today && sendAt.getTime() < now.getTime() - GRACE_MINUTES * 60_000) {
    throw new ScheduleError("This time has passed. Choose one that is still to come.");
  }
  await freeze(services, campaign, {
    // Of a day that has begun, hours that have passed are over: those readers get it at once.
    sendAt: today ? now : (sendAt ?? now),
    zone,
    member,
    itemsPlan,
    pace,
    instead: null,
  });
}

export interface Freezing {
  readonly sendAt: Date;
  readonly zone: string;
  readonly member: string;
  readonly itemsPlan: ItemsPlan;
  readonly pace: Pace;
  /** The launch that this one takes the place of. */
  readonly instead: string | null;
}

/** Freezes a campaign as it is now, once everything has been looked at. Throws a ScheduleError. */
export async function freeze(
  services: Services,
  campaign: Campaign,
  { sendAt, zone, member, itemsPlan, pace: wanted, instead }: Freezing,
): Promise<void> {
  const { database, clock } = services;
  const { sql } = database;
  const pace = { ...wanted, quiet: quietOf((await getSettings(sql)).sending) };
  const now = clock.now();
  const outdated = await bringCampaignUpToDate(services, campaign, member, true);
  if (outdated !== null)
    throw new ScheduleError(`A linked block cannot be brought up to date: ${outdated}`);
  const examined = await examine(services, campaign);
  if (!examined) throw new ScheduleError("The email of this campaign is gone.");
  const { stored, around, world, findings } = examined;
  if (stored.trouble) throw new ScheduleError(stored.trouble.reason);
  const stops = findings.filter((f) => f.severity === "stop");
  if (stops.length > 0) {
    throw new ScheduleError(`Something stops it: ${stops.map((f) => f.message).join("; ")}.`);
  }
  const missing = await missingApprovals(services, campaign, examined);
  if (missing.length > 0) throw new ScheduleError(`${missingWords(missing)}.`);
  const { readers } = await countAudience(
    sql,
    campaign.audience,
    world,
    campaign.topic,
    campaign.id,
  );
  if (readers === 0) throw new ScheduleError("Nobody would get it. Choose its readers first.");
  const split = splitOf(campaign, readers);
  const variants = split ? await variantsOf(services, campaign, split, stored.doc) : [];
  const conditions = [stored, ...variants].flatMap(({ doc }) => conditionsOf(doc, around.derived));
  const rules = rulesOf([...new Set(conditions)]).filter((rule) => rule !== null);
  try {
    await database.tx(async (tx) => {
      if (instead !== null && !(await cancelLaunch(tx, instead))) {
        throw new ScheduleError("It is too late: it has started.");
      }
      if (!(await getCampaign(tx, campaign.id))) {
        throw new ScheduleError("This campaign has been deleted.");
      }
      const launch = await createLaunch(
        tx,
        {
          campaignId: campaign.id,
          name: campaign.name,
          sendAt,
          zone,
          doc: stored.doc,
          seq: stored.seq,
          audience: campaign.audience,
          segments: await segmentsBehind(tx, [...rulesOfAudience(campaign.audience), ...rules]),
          surroundings: around,
          member,
          itemsPlan,
          pace,
          split,
          variants,
        },
        now,
      );
      await enqueue(tx, "launch", { launch }, startOf(sendAt, pace, now));
    });
  } catch (error) {
    if (error instanceof DatabaseError && error.code === "23505") {
      throw new ScheduleError("This campaign is on its way already.");
    }
    throw error;
  }
  services.wake();
}

/** Does something with the launch of a campaign; `refused` says why it was no use. Throws a ScheduleError. */
async function withLaunch<T>(
  { database, wake }: Services,
  campaignId: string,
  refused: string,
  work: (sql: Sql, launch: string) => Promise<T | null>,
): Promise<T> {
  const campaign = await getCampaign(database.sql, campaignId);
  const done =
    campaign?.launchId && (await database.tx((sql) => work(sql, campaign.launchId as string)));
  if (done === null || done === undefined || done === "") throw new ScheduleError(refused);
  wake();
  return done;
}

/** Has a launch worked on now. */
const takeUp = (sql: Sql, launch: string, now: Date) => hurry(sql, "launch", { launch }, now);

/** Lets a launch stand still from the next message on. Throws a ScheduleError. */
export async function pauseByHand(services: Services, campaignId: string): Promise<void> {
  const now = services.clock.now();
  const pause = { why: "person", reason: "", resumeAt: null } as const;
  await withLaunch(services, campaignId, "It is not being sent any more.", async (sql, launch) =>
    (await pauseLaunch(sql, launch, pause, now)) ? true : null,
  );
}

/** Lets a launch that stands still go on. Throws a ScheduleError. */
export async function goOn(services: Services, campaignId: string): Promise<void> {
  const now = services.clock.now();
  await withLaunch(services, campaignId, "It does not stand still.", async (sql, launch) => {
    const stood = await resumeLaunch(sql, launch, now);
    if (stood) await takeUp(sql, launch, now);
    return stood;
  });
}

/** Ends a launch half-way; gives how many do not get it. Throws a ScheduleError. */
export function cancelRest(services: Services, campaignId: string): Promise<number> {
  const now = services.clock.now();
  return withLaunch(services, campaignId, "It has ended already.", async (sql, launch) => {
    const left = await stopLaunch(sql, launch, now);
    if (left !== null) await toTell(sql, launch, "ended", now);
    return left;
  });
}

/** What becomes of messages of which nobody knows whether they arrived; gives how many. Throws a ScheduleError. */
export function decideOnUnsure(
  services: Services,
  campaignId: string,
  what: "again" | "leave",
): Promise<number> {
  const now = services.clock.now();
  const refused = "Somebody has decided on them already.";
  return withLaunch(services, campaignId, refused, async (sql, launch) => {
    const decided = await decideUnsure(sql, launch, what === "again", now);
    if (decided === 0) return null;
    await resumeLaunch(sql, launch, now);
    await takeUp(sql, launch, now);
    return decided;
  });
}

/** A person's word on which variant the rest gets. Throws a ScheduleError where it has been decided already. */
export async function chooseVariant(
  services: Services,
  campaignId: string,
  variant: number,
  member: string,
): Promise<void> {
  const now = services.clock.now();
  const refused = "It has been decided already, or it is not being tried.";
  await withLaunch(services, campaignId, refused, async (sql, id) => {
    const launch = await getLaunch(sql, id);
    if (!launch?.split || variant > launch.variants.length) return null;
    if (!(await chooseWinner(sql, id, variant, member, now))) return null;
    if ((await pauseOf(sql, id)) === "split") await resumeLaunch(sql, id, now);
    await takeUp(sql, id, now);
    return true;
  });
}

/** Calls a scheduled campaign back. Throws a ScheduleError when it has started. */
export async function cancelSchedule(services: Services, campaignId: string): Promise<void> {
  const campaign = await getCampaign(services.database.sql, campaignId);
  const cancelled = campaign?.launchId
    ? await cancelLaunch(services.database.sql, campaign.launchId)
    : false;
  if (!cancelled) throw new ScheduleError("It is too late: it has started.");
}
