import { DateTime } from "luxon";
import { data } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { ScheduleError, scheduleCampaign } from "#server/campaigns/scheduling.ts";
import { progressOf, standingOfLaunch, unsureReaders } from "#server/store/launches/progress.ts";
import { getSettings } from "#server/store/settings.ts";
import { sentForm, submissionOf } from "../form.ts";
import { standingOf } from "../readiness.ts";
import { at, campaignOf, zoneOf } from "../request.ts";
import { ACTIONS, actionSchema } from "../schedule/actions.ts";
import { Plan } from "../schedule/plan.tsx";
import { momentOf, planSchema } from "../schedule/plan-schema.ts";
import { Sending, type SendingData } from "../schedule/sending.tsx";
import { Waiting } from "../schedule/waiting.tsx";
import { dayAndTime } from "../ui/words.ts";
import type { Route } from "./+types/campaign.schedule.ts";

/** How a launch that has begun stands, or null where none has. */
async function sendingOf(
  context: Route.LoaderArgs["context"],
  campaign: Awaited<ReturnType<typeof campaignOf>>,
  zone: string,
): Promise<SendingData | null> {
  const { id, state, launchId } = campaign;
  if (launchId === null || (state !== "sending" && state !== "sent")) return null;
  const { sql } = at(context);
  const { resumeAt, ...standing } = (await standingOfLaunch(sql, launchId))!;
  return {
    id,
    state,
    progress: await progressOf(sql, launchId),
    standing: {
      why: standing.why,
      reason: standing.reason,
      again: resumeAt && `at ${DateTime.fromJSDate(resumeAt, { zone }).toFormat("H:mm:ss")}`,
      starting: standing.starting,
      trouble: standing.trouble,
    },
    bounceShare: (await getSettings(sql)).sending.bounceShare,
    unsure: standing.why === "unsure" ? await unsureReaders(sql, launchId, LIMITS.unsureShown) : [],
  };
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const zone = campaign.zone ?? (await zoneOf(context));
  const { audience, findings } = await standingOf(services, campaign);
  return {
    id: campaign.id,
    state: campaign.state,
    leaves: campaign.sendAt ? `${dayAndTime(campaign.sendAt, zone)} (${zone})` : null,
    readers: audience.readers,
    stops: findings.filter((f) => f.severity === "stop").map((f) => f.message),
    looks: findings.filter((f) => f.severity === "look").length,
    dueIn: campaign.sendAt ? campaign.sendAt.getTime() - now.getTime() : 0,
    sending: await sendingOf(context, campaign, zone),
    zone,
    zones: Intl.supportedValuesOf("timeZone"),
    tomorrow: DateTime.fromJSDate(now, { zone }).plus({ days: 1 }).toISODate()!,
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { services, member } = at(context);
  const form = await sentForm(request);
  const campaign = await campaignOf(context, params.campaign);
  const asked = actionSchema.safeParse({ what: form.get("what") });
  if (asked.success) {
    try {
      await ACTIONS[asked.data.what](services, campaign.id);
      return null;
    } catch (error) {
      if (!(error instanceof ScheduleError)) throw error;
      return data({ status: "error" as const, error: { "": [error.message] } }, 409);
    }
  }
  const submission = await submissionOf(form, planSchema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { zone = await zoneOf(context) } = submission.value;
  const sendAt = momentOf(submission.value);
  try {
    await scheduleCampaign(services, campaign, sendAt, zone, member.id);
    return submission.reply({ resetForm: true });
  } catch (error) {
    if (!(error instanceof ScheduleError)) throw error;
    const late = sendAt && sendAt < at(context).now;
    const reply = late
      ? { fieldErrors: { date: [error.message] } }
      : { formErrors: [error.message] };
    return data(submission.reply(reply), 409);
  }
}

// A refusal often means that the campaign has moved on elsewhere: show it as it is.
export const shouldRevalidate = () => true;

const TITLES = {
  draft: "When it leaves",
  scheduled: "Set to leave",
  sending: "On its way",
  sent: "Gone",
} as const;

export default function Schedule({ loaderData, actionData }: Route.ComponentProps) {
  const { state, sending } = loaderData;
  return (
    <main className="mx-auto max-w-[520px] px-6 py-7">
      <h1 className="mb-4 text-[30px]">
        {sending?.standing.why ? "Standing still" : TITLES[state]}
      </h1>
      {state === "draft" && <Plan loaded={loaderData} result={actionData} />}
      {state === "scheduled" && <Waiting loaded={loaderData} result={actionData} />}
      {sending && <Sending data={sending} result={actionData} />}
    </main>
  );
}
