/** What has gone out and what is to, by months. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { DateTime } from "luxon";
import { useCallback, useEffect, useState } from "react";
import { data, Link, useFetcher } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { dayIn, isoDayOf } from "#core/schedule/index.ts";
import { clashesByDay } from "#server/campaigns/clashes.ts";
import { moveTo } from "#server/campaigns/moving.ts";
import { ScheduleError } from "#server/campaigns/schedule-error.ts";
import { type Dated, launchesBetween } from "#server/store/launches/freeze.ts";
import { type Entry, Month, type MonthDay } from "../calendar/month.tsx";
import { submissionOf } from "../form.ts";
import { at, late, zoneOf } from "../request.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { DayField } from "../ui/day-field.tsx";
import { Dialog } from "../ui/dialog.tsx";
import { FormErrors } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { time } from "../ui/words.ts";
import type { Route } from "./+types/calendar.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Calendar · Septima" }];

const MONTH = /^\d{4}-(0[1-9]|1[0-2])$/;

const entryOf =
  (zone: string) =>
  ({ campaignId, name, sendAt, state }: Dated): Entry => ({
    ...{ campaign: campaignId, name, time: time(sendAt, zone) },
    state: state === "scheduled" ? "scheduled" : state === "done" ? "sent" : "sending",
  });

/** The weeks that a month is in, from their first day to their last. */
function daysOf(month: DateTime, now: Date, zone: string, launches: readonly Dated[]): MonthDay[] {
  const first = month.startOf("week");
  const weeks = Math.ceil(month.endOf("month").diff(first, "days").days / 7);
  const today = dayIn(now, zone);
  const dated = launches.map((launch) => ({ ...launch, day: dayIn(launch.sendAt, zone) }));
  return Array.from({ length: weeks * 7 }, (_, i) => {
    const day = first.plus({ days: i });
    const iso = day.toISODate()!;
    return {
      ...{ iso, number: day.day, within: day.month === month.month },
      ...{ today: iso === today, past: iso < today },
      entries: dated.filter((one) => one.day === iso).map(entryOf(zone)),
    };
  });
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, sql, now } = at(context);
  const zone = await zoneOf(context);
  const asked = new URL(request.url).searchParams.get("month") ?? "";
  const month = DateTime.fromISO(MONTH.test(asked) ? asked : dayIn(now, zone).slice(0, 7), {
    zone,
  });
  const from = month.startOf("week");
  const to = month.endOf("month").endOf("week");
  const launches = await launchesBetween(
    sql,
    from.toJSDate(),
    to.toJSDate(),
    LIMITS.calendarEntries,
  );
  return {
    title: month.setLocale("en-GB").toFormat("LLLL yyyy"),
    before: month.minus({ months: 1 }).toFormat("yyyy-MM"),
    after: month.plus({ months: 1 }).toFormat("yyyy-MM"),
    days: daysOf(month, now, zone, launches),
    clashes: late(context, () => clashesByDay(services, zone)),
  };
}

const schema = z.object({
  campaign: z.string().max(LIMITS.nameLength),
  day: z.string("Write a day.").transform((text, ctx) => {
    const iso = isoDayOf(text);
    if (!iso) ctx.addIssue({ code: "custom", message: "Write a day, for example 30/03/2031." });
    return iso ?? z.NEVER;
  }),
});

/** Moves what is scheduled to another day. */
export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { campaign, day } = submission.value;
  try {
    await moveTo(at(context).services, campaign, day);
    return submission.reply();
  } catch (error) {
    if (!(error instanceof ScheduleError)) throw error;
    return data(submission.reply({ fieldErrors: { day: [error.message] } }), 409);
  }
}

/** Asks to which day something is moved: the way without a mouse. */
function MoveDialog({ entry, day, onClose }: { entry: Entry; day: string; onClose: () => void }) {
  const fetcher = useFetcher<typeof action>();
  const [form, fields] = useForm({
    lastResult: fetcher.state === "idle" ? fetcher.data : undefined,
    defaultValue: { day },
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
  });
  const moved = fetcher.state === "idle" && fetcher.data?.status === "success";
  useEffect(() => {
    if (moved) onClose();
  }, [moved, onClose]);
  return (
    <Dialog title={`Move ${entry.name}`} open onOpenChange={(open) => !open && onClose()}>
      <Form fetcher={fetcher} method="post" {...getFormProps(form)} className="flex flex-col gap-3">
        <FormErrors errors={form.errors} />
        <input type="hidden" name="campaign" value={entry.campaign} />
        <DayField meta={fields.day} label="To the day" />
        <p className="text-small text-ink-2">
          At the same time, {entry.time}; what goes out stays as it is.
        </p>
        <div>
          <Button type="submit" primary>
            Move it
          </Button>
        </div>
      </Form>
    </Dialog>
  );
}

export default function CalendarPage({ loaderData }: Route.ComponentProps) {
  const { title, before, after, days, clashes } = loaderData;
  const move = useFetcher<typeof action>();
  const [asking, setAsking] = useState<{ entry: Entry; day: string } | null>(null);
  const close = useCallback(() => setAsking(null), []);
  const onMove = (campaign: string, day: string) =>
    void move.submit({ campaign, day }, { method: "post" });
  const problem = move.state === "idle" ? move.data?.error?.day?.[0] : null;
  const month = (known: Awaited<typeof clashes>) => (
    <Month
      days={days}
      clashes={known}
      onMove={onMove}
      onAsk={(entry) =>
        setAsking({ entry, day: days.find(({ entries }) => entries.includes(entry))?.iso ?? "" })
      }
    />
  );
  return (
    <Page>
      <PageTitle
        title={title}
        about="What has been sent and what is scheduled. Drag a scheduled email to another day."
      >
        <Buttonlike asChild>
          <Link to={`?month=${before}`}>Previous month</Link>
        </Buttonlike>
        <Buttonlike asChild>
          <Link to="?">Today</Link>
        </Buttonlike>
        <Buttonlike asChild>
          <Link to={`?month=${after}`}>Next month</Link>
        </Buttonlike>
      </PageTitle>
      {problem && (
        <p role="alert" className="mb-3 font-semibold text-rust">
          {problem}
        </p>
      )}
      <div className="overflow-x-auto">
        <div className="min-w-[820px]">
          <Later of={clashes} until={month([])}>
            {month}
          </Later>
        </div>
      </div>
      {asking && <MoveDialog entry={asking.entry} day={asking.day} onClose={close} />}
    </Page>
  );
}
