import { DateTime } from "luxon";
import { data, type RouterContextProvider } from "react-router";
import { linkedItems } from "#core/blocks/article.ts";
import { choicesIn } from "#core/blocks/choices.ts";
import type { EmailProps } from "#core/blocks/layout.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { zoneFieldOf } from "#core/fields/index.ts";
import { hourTime, type ZoneCount } from "#core/schedule/index.ts";
import { wordsOf } from "#core/text/index.ts";
import { worldOf } from "#server/audience/world.ts";
import { clashesOf } from "#server/campaigns/clashes.ts";
import { ScheduleError, scheduleCampaign } from "#server/campaigns/scheduling.ts";
import { planSplit } from "#server/campaigns/splitting.ts";
import { missingWords } from "#server/reviews/deciding.ts";
import { attachmentsOf } from "#server/store/attachments.ts";
import { rulesOfAudience } from "#server/store/audience.ts";
import type { Campaign } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { getSchema } from "#server/store/fields.ts";
import { paceOf as paceOfLaunch } from "#server/store/launches/freeze.ts";
import { type HoursSeen, hoursSeen } from "#server/store/launches/hours.ts";
import { usualRate } from "#server/store/launches/progress.ts";
import { knownZones, zonesNamed } from "#server/store/launches/zones.ts";
import { readersSql } from "#server/store/readers.ts";
import { getSettings, quietOf } from "#server/store/settings.ts";
import { lookOf } from "../desk/look.tsx";
import { sentForm, submissionOf } from "../form.ts";
import { missingFor, standingOf } from "../readiness.ts";
import { at, campaignOf, late, zoneOf } from "../request.ts";
import { ACTIONS, actionSchema } from "../schedule/actions.ts";
import type { Found } from "../schedule/last-look.tsx";
import { Plan } from "../schedule/plan.tsx";
import { itemsPlanOf, momentOf, paceOf, planSchema } from "../schedule/plan-schema.ts";
import { Sending } from "../schedule/sending.tsx";
import { sendingOf } from "../schedule/sending-data.ts";
import { splitDataOf } from "../schedule/split-data.ts";
import { Waiting } from "../schedule/waiting.tsx";
import { dayAndTime, time } from "../ui/words.ts";
import type { Route } from "./+types/campaign.schedule.ts";

type Context = Readonly<RouterContextProvider>;

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const zone = campaign.zone ?? (await zoneOf(context));
  // Once it is on its way, what would be checked has been.
  const sending = await sendingOf(context, campaign, zone);
  const { sql } = services.database;
  const email = sending ? null : ((await loadDocument(sql, campaign.documentId))?.doc ?? null);
  const zoneField = zoneFieldOf((await getSchema(sql)).fields.values());
  return {
    id: campaign.id,
    state: campaign.state,
    paced: sending ? [] : await pacedOf(context, campaign),
    // Where nothing says in which zones readers are, there is nothing to choose.
    readerZones:
      zoneField !== null && email
        ? late(context, () => readerZones(context, campaign, zoneField))
        : null,
    hours:
      campaign.state === "draft"
        ? late(context, () => readerHours(context, campaign, zone, zoneField))
        : null,
    quiet: quietOf((await getSettings(sql)).sending),
    envelope: email && envelopeOf(email),
    rate: email && (await usualRate(sql)),
    clashes:
      campaign.state === "draft"
        ? late(context, async () =>
            (await clashesOf(services, campaign)).map(({ at: moment, ...clash }) => ({
              ...clash,
              day: DateTime.fromJSDate(moment, { zone }).toISODate()!,
              time: time(moment, zone),
            })),
          )
        : null,
    leaves: campaign.sendAt ? `${dayAndTime(campaign.sendAt, zone)} (${zone})` : null,
    found: email && late(context, () => foundOf(context, campaign)),
    showsItems: email !== null && (choicesIn(email).length > 0 || linkedItems(email).length > 0),
    dueIn: campaign.sendAt ? campaign.sendAt.getTime() - now.getTime() : 0,
    sending,
    now: now.getTime(),
    zone,
    zones: Intl.supportedValuesOf("timeZone"),
    language: (await getSettings(at(context).sql)).sender.language,
    look: campaign.state === "draft" ? lookOf(campaign) : null,
    files: await attachmentsOf(sql, campaign.id),
    split: await splitDataOf(context, campaign, email),
    tomorrow: DateTime.fromJSDate(now, { zone }).plus({ days: 1 }).toISODate()!,
  };
}

/** To how many it would go, and what keeps it from going. */
async function foundOf(context: Context, campaign: Campaign): Promise<Found> {
  const { findings, audience } = await standingOf(context, campaign);
  const missing = await missingFor(context, campaign);
  return {
    readers: audience.readers,
    stops: [
      ...findings.filter((f) => f.severity === "stop").map((f) => f.message),
      ...(missing.length > 0 ? [missingWords(missing)] : []),
    ],
    looks: findings.filter((f) => f.severity === "look").length,
  };
}

/** Who it is from and what it is about, as most readers see it: tags as their fallbacks. */
function envelopeOf({ root }: EmailDocument) {
  const { fromName, fromAddress, subject } = (root.props as unknown as EmailProps).envelope;
  return { from: wordsOf(fromName), address: fromAddress, subject: wordsOf(subject) };
}

/** In which zones its readers are. */
async function readerZones(
  context: Context,
  campaign: Campaign,
  field: string,
): Promise<readonly ZoneCount[]> {
  const { services, sql } = at(context);
  const world = await worldOf(sql, services.clock, rulesOfAudience(campaign.audience));
  return zonesNamed(sql, field, world, readersSql(campaign, world));
}

/** In which hours its readers read. */
async function readerHours(
  context: Context,
  campaign: Campaign,
  zone: string,
  field: string | null,
): Promise<HoursSeen> {
  const { services, sql, now } = at(context);
  const world = await worldOf(sql, services.clock, rulesOfAudience(campaign.audience));
  const quiet = quietOf((await getSettings(sql)).sending);
  const zones = await knownZones(sql, field, world);
  return hoursSeen(sql, { field, zones, zone }, world, readersSql(campaign, world), quiet, now);
}

/** How one that is scheduled is spread over time, in sentences. */
async function pacedOf(context: Context, { launchId }: Campaign): Promise<string[]> {
  if (!launchId) return [];
  const { own, best, perHour, quiet } = await paceOfLaunch(at(context).sql, launchId);
  return [
    ...(best ? ["Each reader gets it in the hour in which they read."] : []),
    ...(quiet ? [`Nobody gets it between ${hourTime(quiet.from)} and ${hourTime(quiet.to)}.`] : []),
    ...(own ? [`Each reader gets it when their own clock shows ${own.time}.`] : []),
    ...(perHour ? [`It goes in waves of ${perHour.toLocaleString("en-GB")} an hour.`] : []),
  ];
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
    const { split, splitWas } = submission.value;
    // What goes out is what stood there when somebody said yes, kept already or not.
    if (split) await planSplit(services, campaign, split, splitWas);
    await scheduleCampaign(
      services,
      split ? await campaignOf(context, params.campaign) : campaign,
      sendAt,
      zone,
      member.id,
      itemsPlanOf(submission.value),
      paceOf(submission.value),
    );
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
  scheduled: "Scheduled",
  sending: "On its way",
  sent: "Gone",
} as const;

export default function Schedule({ loaderData, actionData }: Route.ComponentProps) {
  const { state, sending } = loaderData;
  if (state === "draft") {
    return (
      <main className="flex min-h-full flex-col">
        <Plan loaded={loaderData} result={actionData} />
      </main>
    );
  }
  return (
    <main className="mx-auto max-w-[520px] px-6 py-7">
      <h1 className="mb-4 text-display">{sending?.standing.why ? "Paused" : TITLES[state]}</h1>
      {state === "scheduled" && <Waiting loaded={loaderData} result={actionData} />}
      {sending && <Sending data={sending} result={actionData} />}
    </main>
  );
}
