import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { DateTime, IANAZone } from "luxon";
import { useEffect, useState } from "react";
import { data, Form, Link, useRevalidator } from "react-router";
import { z } from "zod";
import { cancelSchedule, ScheduleError, scheduleCampaign } from "#server/scheduling.ts";
import { progressOf } from "#server/store/launches/progress.ts";
import { sentForm, submissionOf } from "../form.ts";
import { standingOf } from "../readiness.ts";
import { at, campaignOf, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { FormErrors, SelectField, TextField } from "../ui/field.tsx";
import { Figure } from "../ui/page.tsx";
import { Segmented } from "../ui/segmented.tsx";
import { count, dayAndTime, readers } from "../ui/words.ts";
import type { Route } from "./+types/campaign.schedule.ts";

const scheduleSchema = z
  .object({
    when: z.enum(["now", "later"]),
    date: z.iso.date("Choose a day.").optional(),
    time: z
      .string()
      .regex(/^([01]\d|2[0-3]):[0-5]\d$/, "Write a time, for example 09:00.")
      .optional(),
    zone: z
      .string()
      .refine((zone) => IANAZone.isValidZone(zone), "Choose a zone from the list.")
      .optional(),
  })
  .superRefine((value, ctx) => {
    if (value.when === "now") return;
    for (const name of ["date", "time", "zone"] as const) {
      if (!value[name])
        ctx.addIssue({ code: "custom", path: [name], message: `Choose a ${name}.` });
    }
  });

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, sql, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const zone = campaign.zone ?? (await zoneOf(context));
  const { audience, findings } = await standingOf(services, campaign);
  const local = DateTime.fromJSDate(now, { zone });
  const launched = campaign.launchId !== null && campaign.state !== "scheduled";
  return {
    id: campaign.id,
    state: campaign.state,
    leaves: campaign.sendAt ? `${dayAndTime(campaign.sendAt, zone)} (${zone})` : null,
    readers: audience.readers,
    stops: findings.filter((f) => f.severity === "stop").map((f) => f.message),
    looks: findings.filter((f) => f.severity === "look").length,
    dueIn: campaign.sendAt ? campaign.sendAt.getTime() - now.getTime() : 0,
    progress: launched ? await progressOf(sql, campaign.launchId!) : null,
    zone,
    zones: Intl.supportedValuesOf("timeZone"),
    tomorrow: local.plus({ days: 1 }).toISODate()!,
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { services, member } = at(context);
  const form = await sentForm(request);
  const campaign = await campaignOf(context, params.campaign);
  if (form.get("what") === "cancel") {
    try {
      await cancelSchedule(services, campaign.id);
      return null;
    } catch (error) {
      if (!(error instanceof ScheduleError)) throw error;
      return data({ status: "error" as const, error: { "": [error.message] } }, 409);
    }
  }
  const submission = await submissionOf(form, scheduleSchema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { when, date, time, zone = await zoneOf(context) } = submission.value;
  const sendAt = when === "now" ? null : DateTime.fromISO(`${date}T${time}`, { zone });
  try {
    await scheduleCampaign(services, campaign, sendAt?.toJSDate() ?? null, zone, member.id);
    return submission.reply({ resetForm: true });
  } catch (error) {
    if (!(error instanceof ScheduleError)) throw error;
    const late = sendAt && sendAt < DateTime.fromJSDate(at(context).now);
    const reply = late
      ? { fieldErrors: { date: [error.message] } }
      : { formErrors: [error.message] };
    return data(submission.reply(reply), 409);
  }
}

// A refusal often means that the campaign has moved on elsewhere: show it as it is.
export const shouldRevalidate = () => true;

type Data = Route.ComponentProps["loaderData"];

function Plan({ loaded, result }: { loaded: Data; result: Route.ComponentProps["actionData"] }) {
  const [when, setWhen] = useState<"now" | "later">("later");
  const [form, fields] = useForm({
    lastResult: result ?? undefined,
    defaultValue: { date: loaded.tomorrow, time: "09:00", zone: loaded.zone },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: scheduleSchema }),
    shouldRevalidate: "onInput",
  });
  const [sure, setSure] = useState(false);
  const nobody = loaded.readers === 0;
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-4">
      <FormErrors errors={form.errors} />
      <Segmented
        label="When"
        value={when}
        onChange={(value) => {
          setWhen(value);
          setSure(false);
        }}
        options={[
          { value: "now", label: "Now" },
          { value: "later", label: "At a time" },
        ]}
      />
      <input type="hidden" name="when" value={when} />
      {when === "later" && (
        <div className="grid grid-cols-[1fr_110px] gap-3">
          <TextField meta={fields.date} label="Day" type="date" />
          <TextField meta={fields.time} label="Time" type="time" />
          <SelectField
            className="col-span-2"
            meta={fields.zone}
            label="Time zone"
            options={loaded.zones.map((zone) => ({
              value: zone,
              label: zone.replaceAll("_", " "),
            }))}
          />
        </div>
      )}
      <div className="border-t pt-4">
        <h2 className="text-[18px]">The last look</h2>
        <ul className="mt-1.5 text-ink-2">
          <li>
            {nobody ? (
              <>
                Nobody would get it:{" "}
                <Link className="link" to={`/campaigns/${loaded.id}/readers`}>
                  choose its readers
                </Link>
              </>
            ) : (
              `${readers(loaded.readers)}, as things are now; those who leave until then get nothing.`
            )}
          </li>
          {loaded.stops.map((stop) => (
            <li key={stop} className="font-semibold text-rust">
              {stop}
            </li>
          ))}
          <li>
            <Link className="link" to={`/campaigns/${loaded.id}/proof`}>
              {loaded.stops.length + loaded.looks === 0
                ? "The checks found nothing"
                : `The checks found ${loaded.stops.length + loaded.looks}`}
            </Link>
          </li>
        </ul>
      </div>
      {sure ? (
        // Its own key: the first button must not turn into this one under the same click.
        <div key="sure" className="flex items-center gap-2.5">
          <Button type="submit" primary>
            {when === "now"
              ? `Yes, send to ${readers(loaded.readers)}`
              : `Yes, schedule for ${readers(loaded.readers)}`}
          </Button>
          <Button onClick={() => setSure(false)}>Not yet</Button>
        </div>
      ) : (
        <div key="ask">
          <Button primary onClick={() => setSure(true)}>
            {when === "now" ? "Send it now" : "Schedule it"}
          </Button>
        </div>
      )}
    </Form>
  );
}

/** How often the page asks how far it is, ms. */
const ASK_MS = 700;
/** The longest that a browser's timer can wait, ms. */
const LONGEST_TIMER = 2 ** 31 - 1;

function Waiting({ loaded, result }: { loaded: Data; result: Route.ComponentProps["actionData"] }) {
  const { revalidate } = useRevalidator();
  useEffect(() => {
    // From the moment it is due, the page asks until it has started.
    const wait = Math.min(LONGEST_TIMER, Math.max(ASK_MS, loaded.dueIn));
    const timer = setTimeout(() => void revalidate(), wait);
    return () => clearTimeout(timer);
  }, [loaded, revalidate]);
  return (
    <div className="flex flex-col gap-4">
      <p className="text-[15px]">
        Leaves on <strong>{loaded.leaves}</strong> to {readers(loaded.readers)}.
      </p>
      <p className="text-ink-2">
        It goes out as it was when it was scheduled. Where it is changed after that, Compose and
        Readers say so, and offer to replace what goes out.
      </p>
      <FormErrors errors={result?.error?.[""] ?? null} />
      <Form method="post">
        <input type="hidden" name="what" value="cancel" />
        <Button type="submit">Call it back</Button>
      </Form>
    </div>
  );
}

function Sending({ loaded }: { loaded: Data }) {
  const { revalidate } = useRevalidator();
  const progress = loaded.progress!;
  const settled = progress.accepted + progress.bounced + progress.held + progress.unsure;
  const done = loaded.state === "sent";
  useEffect(() => {
    if (done) return;
    const timer = setInterval(() => void revalidate(), ASK_MS);
    return () => clearInterval(timer);
  }, [done, revalidate]);
  const share = progress.total ? Math.round((100 * settled) / progress.total) : 0;
  return (
    <div className="flex flex-col gap-5">
      <p className="text-[15px]" role="status">
        {done ? "It has gone out." : `Being sent: ${count(settled)} of ${count(progress.total)}.`}
      </p>
      <div
        role="progressbar"
        aria-label="Sent"
        aria-valuenow={share}
        aria-valuemin={0}
        aria-valuemax={100}
        className="h-2 overflow-hidden rounded-full bg-bench"
      >
        <div className="h-full bg-leaf" style={{ width: `${share}%` }} />
      </div>
      <div className="flex gap-8">
        <Figure value={count(progress.accepted)} label="accepted" />
        <Figure value={count(progress.bounced)} label="bounced" />
        <Figure value={count(progress.deferred)} label="tried again later" />
        <Figure value={count(progress.held)} label="held back" note="left since it was started" />
      </div>
      {progress.unsure > 0 && (
        <p className="text-rust">
          {count(progress.unsure)} may or may not have arrived: the mail service was cut off. They
          are not sent again.
        </p>
      )}
      {done && (
        <Link className="link" to={`/campaigns/${loaded.id}/results`}>
          See the results
        </Link>
      )}
    </div>
  );
}

const TITLES = {
  draft: "When it leaves",
  scheduled: "Set to leave",
  sending: "On its way",
  sent: "Gone",
} as const;

export default function Schedule({ loaderData, actionData }: Route.ComponentProps) {
  const { state } = loaderData;
  return (
    <main className="mx-auto max-w-[520px] px-6 py-7">
      <h1 className="mb-4 text-[30px]">{TITLES[state]}</h1>
      {state === "draft" && <Plan loaded={loaderData} result={actionData} />}
      {state === "scheduled" && <Waiting loaded={loaderData} result={actionData} />}
      {(state === "sending" || state === "sent") && <Sending loaded={loaderData} />}
    </main>
  );
}
