/** How a launch that has begun stands, as its page shows it. */
import { DateTime } from "luxon";
import type { RouterContextProvider } from "react-router";
import { LIMITS } from "#core/limits.ts";
import {
  nextDue,
  progressOf,
  standingOfLaunch,
  unsureReaders,
} from "#server/store/launches/progress.ts";
import { getSettings } from "#server/store/settings.ts";
import { at, type campaignOf } from "../request.ts";
import { dayAndTime } from "../ui/words.ts";
import type { SendingData } from "./sending.tsx";

/** What goes out within this time is being sent, ms. */
const SOON_MS = 60_000;

/** Null where none has begun. */
export async function sendingOf(
  context: Readonly<RouterContextProvider>,
  campaign: Awaited<ReturnType<typeof campaignOf>>,
  zone: string,
): Promise<SendingData | null> {
  const { id, state, launchId } = campaign;
  if (launchId === null || (state !== "sending" && state !== "sent")) return null;
  const { sql, now } = at(context);
  const { resumeAt, ...standing } = (await standingOfLaunch(sql, launchId))!;
  const due = state === "sending" && !standing.starting ? await nextDue(sql, launchId, now) : null;
  return {
    id,
    at: now.getTime(),
    state,
    progress: await progressOf(sql, launchId),
    standing: {
      why: standing.why,
      reason: standing.reason,
      again: resumeAt && `at ${DateTime.fromJSDate(resumeAt, { zone }).toFormat("H:mm:ss")}`,
      starting: standing.starting,
      trouble: standing.trouble,
    },
    next: due && due.getTime() > now.getTime() + SOON_MS ? dayAndTime(due, zone) : null,
    bounceShare: (await getSettings(sql)).sending.bounceShare,
    unsure: standing.why === "unsure" ? await unsureReaders(sql, launchId, LIMITS.unsureShown) : [],
  };
}
