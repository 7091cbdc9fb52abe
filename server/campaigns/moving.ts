/** A scheduled campaign on another day, at the same time; what it has frozen stays as it is. */
import { DateTime } from "luxon";
import { ownDay, readLocalTime, startOf } from "#core/schedule/index.ts";
import type { Services } from "../services.ts";
import { getCampaign } from "../store/campaigns.ts";
import { moveJob } from "../store/jobs.ts";
import { getLaunch, moveLaunch } from "../store/launches/freeze.ts";
import { ScheduleError } from "./schedule-error.ts";

/** Moves a campaign to a day (ISO date). Throws a ScheduleError. */
export async function moveTo(services: Services, campaignId: string, day: string): Promise<void> {
  const { database, clock } = services;
  const now = clock.now();
  const campaign = await getCampaign(database.sql, campaignId);
  const launch =
    campaign?.state === "scheduled" && campaign.launchId
      ? await getLaunch(database.sql, campaign.launchId)
      : null;
  if (!launch) throw new ScheduleError("It is not scheduled any more.");
  const { pace, zone } = launch;
  const time = DateTime.fromJSDate(launch.sendAt, { zone }).toFormat("HH:mm");
  const local = readLocalTime(day, time, zone);
  if (local === null) throw new ScheduleError("There is no such day.");
  if (local.is === "never") {
    throw new ScheduleError(
      `Clocks go forward that night: there is no ${time}. Schedule it anew at another time.`,
    );
  }
  const sendAt = local.is === "twice" ? local.first : local.at;
  const ends = ownDay(pace) === null ? sendAt : new Date(sendAt.getTime() + 86_400_000);
  if (ends <= now) throw new ScheduleError("That time has passed. Choose a day that is to come.");
  const moved = {
    ...pace,
    own: pace.own && { ...pace.own, date: day },
    best: pace.best === null ? null : day,
  };
  await database.tx(async (sql) => {
    const startsAt = startOf(sendAt, moved, now);
    if (!(await moveLaunch(sql, launch.id, { sendAt, pace: moved, startsAt }))) {
      throw new ScheduleError("It is too late: it has started.");
    }
    await moveJob(sql, "launch", { launch: launch.id }, startsAt);
  });
  services.wake();
}
