import { FilePlus2 } from "lucide-react";
import { DateTime } from "luxon";
import { useEffect } from "react";
import { data, Link, useRevalidator } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { addSamples, countSamples, removeSamples } from "#server/audience/samples.ts";
import { readersOf } from "#server/campaigns/draft.ts";
import { firstSteps, tryDelivery } from "#server/campaigns/first-steps.ts";
import { countCampaigns, listCampaigns } from "#server/store/campaigns.ts";
import { progressOf } from "#server/store/launches/progress.ts";
import { measuresOfAll } from "#server/store/results.ts";
import { Calendar, type CalendarDay } from "../desk/calendar.tsx";
import { FirstStepsList } from "../desk/first-steps.tsx";
import { Look, lookOf } from "../desk/look.tsx";
import { submissionOf } from "../form.ts";
import { asking } from "../marks.ts";
import { standingOf } from "../readiness.ts";
import { at, late, zoneOf } from "../request.ts";
import { followSending } from "../schedule/following.ts";
import { Dot } from "../ui/dot.tsx";
import { Later } from "../ui/later.tsx";
import { Page } from "../ui/page.tsx";
import { Table } from "../ui/table.tsx";
import {
  ago,
  count,
  counted,
  day,
  dayShort,
  percent,
  readers,
  time,
  weekday,
} from "../ui/words.ts";
import type { Route } from "./+types/desk.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Desk · Septima" }];

/** How many drafts lie on the desk. */
const DRAFTS = 5;
const ROOMS = ["compose", "readers", "proof", "schedule"] as const;

/** Three weeks from the Monday of this one. */
function weeks(now: Date, zone: string, sends: readonly Date[]): CalendarDay[] {
  const today = DateTime.fromJSDate(now, { zone }).startOf("day");
  const out = new Set(sends.map((d) => DateTime.fromJSDate(d, { zone }).toISODate()));
  return Array.from({ length: 21 }, (_, i) => {
    const date = today.startOf("week").plus({ days: i });
    return {
      iso: date.toISODate()!,
      number: date.day,
      today: date.hasSame(today, "day"),
      sends: out.has(date.toISODate()),
    };
  });
}

export async function loader({ context }: Route.LoaderArgs) {
  const { services, sql, now, member } = at(context);
  const zone = await zoneOf(context);
  const written = { states: ["draft"] as const, archived: false };
  const drafts = (await listCampaigns(sql, { ...written, limit: DRAFTS })).map((campaign) => ({
    id: campaign.id,
    name: campaign.name,
    changed: ago(campaign.updatedAt, now, zone),
    look: lookOf(campaign),
    standing: late(context, async () => {
      const { marks, findings } = await standingOf(context, campaign);
      return { marks: ROOMS.map((room) => marks[room]), findings: asking(findings).length };
    }),
  }));
  const waiting = await listCampaigns(sql, {
    states: ["scheduled", "sending"],
    order: "next",
    limit: LIMITS.campaignsPerPage,
  });
  const goingOut = waiting.map((campaign) => ({
    id: campaign.id,
    name: campaign.name,
    sending: campaign.state === "sending",
    paused: campaign.paused !== null,
    day: dayShort(campaign.sendAt!, now, zone),
    time: time(campaign.sendAt!, zone),
    readers: late(context, async () =>
      campaign.state === "sending"
        ? (await progressOf(sql, campaign.launchId!)).total
        : (await readersOf(services, campaign)).readers,
    ),
  }));
  const sent = await listCampaigns(sql, { states: ["sent"], order: "sent", limit: 5 });
  const measures = await measuresOfAll(
    sql,
    sent.map(({ launchId }) => launchId!),
  );
  const gone = sent.map((campaign) => ({
    id: campaign.id,
    name: campaign.name,
    sentOn: day(campaign.sendAt!, now, zone),
    measures: measures.get(campaign.launchId!)!,
  }));
  const next = waiting.find(({ state }) => state === "scheduled")?.sendAt;
  const steps = await firstSteps(services, member);
  return {
    steps,
    samples: steps ? await countSamples(services.database) : 0,
    title: weekday(now, now, zone),
    next: next ? `${weekday(next, now, zone)} at ${time(next, zone)}` : null,
    drafts,
    draftCount: await countCampaigns(sql, written),
    total: await countCampaigns(sql),
    goingOut,
    gone,
    calendar: weeks(
      now,
      zone,
      waiting.map((campaign) => campaign.sendAt!),
    ),
  };
}

const stepSchema = z.object({ do: z.enum(["samples", "noSamples", "deliver"]) });

/** Takes one of the first steps. */
export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, stepSchema);
  if (submission.status !== "success") return data({ said: "This is no step." }, 400);
  const { services, now, member } = at(context);
  switch (submission.value.do) {
    case "samples":
      await addSamples(services.database, now);
      break;
    case "noSamples":
      await removeSamples(services.database);
      break;
    case "deliver": {
      const problem = await tryDelivery(services, member);
      if (problem) return data({ said: `The mail service did not take it: ${problem}` }, 502);
    }
  }
  return { said: null };
}

type Data = Route.ComponentProps["loaderData"];

function Draft({ draft }: { draft: Data["drafts"][number] }) {
  return (
    <Link
      to={`/campaigns/${draft.id}`}
      className="block overflow-hidden rounded-md border bg-sheet hover:border-plum"
    >
      <Look src={draft.look} />
      <div className="border-t px-3 py-2.5">
        <div className="truncate font-display text-title">{draft.name}</div>
        <div className="text-small text-ink-3">Changed {draft.changed}</div>
        <div className="mt-2 flex items-center gap-1.5 text-small text-ink-2">
          <Later of={draft.standing}>
            {({ marks, findings }) => (
              <>
                {marks.map((mark, i) => (
                  <Dot key={ROOMS[i]} mark={mark} />
                ))}
                <span className="ml-0.5">
                  {findings === 0
                    ? "nothing to look at"
                    : `${counted(findings, "finding")} to look at`}
                </span>
              </>
            )}
          </Later>
        </div>
      </div>
    </Link>
  );
}

const emailsWords = (n: number) =>
  n === 0
    ? "Nothing is being worked on."
    : n === 1
      ? "One email is being worked on."
      : `${n} emails are being worked on.`;

export default function Desk({ loaderData, actionData }: Route.ComponentProps) {
  const { steps, samples, title, next, drafts, draftCount, total, goingOut, gone, calendar } =
    loaderData;
  const sending = goingOut.filter((item) => item.sending).slice(0, FOLLOWED);
  const followed = new Set(sending.map(({ id }) => id));
  return (
    <Page wide>
      <div className="grid grid-cols-[minmax(0,1fr)_372px] gap-11 max-lg:grid-cols-1 max-lg:gap-8">
        <div>
          <h1 className="text-display leading-tight">{title}</h1>
          <p className="mt-2 text-body text-ink-2">
            {emailsWords(draftCount)}{" "}
            {next ? `The next one goes out on ${next}.` : "Nothing is scheduled."}
          </p>
          {steps && (
            <div className="mt-5">
              <FirstStepsList steps={steps} samples={samples} said={actionData?.said ?? null} />
            </div>
          )}
          <div className="mt-5 mb-2.5 flex items-baseline justify-between">
            <h2 className="text-head">On the desk</h2>
            {total > 0 && (
              <Link to="/campaigns" className="link">
                All {total}
              </Link>
            )}
          </div>
          <div className="grid grid-cols-3 gap-4 max-md:grid-cols-1 2xl:grid-cols-4">
            {drafts.map((draft) => (
              <Draft key={draft.id} draft={draft} />
            ))}
            <Link
              to="/campaigns/new"
              className="flex min-h-[212px] flex-col items-center justify-center gap-1.5 rounded-md border border-line-strong border-dashed text-ink-2 hover:border-plum hover:text-plum"
            >
              <FilePlus2 className="size-[18px]" />
              <span className="font-display text-title">
                {total === 0 ? "Start the first" : "Start another"}
              </span>
              <span className="text-small text-ink-3">blank · template · earlier email</span>
            </Link>
          </div>
          <h2 className="mt-7 mb-2 text-head">Sent lately</h2>
          {gone.length === 0 ? (
            <p className="text-ink-3">What has been sent stands here, with how it was read.</p>
          ) : (
            <Table
              label="Sent lately"
              rows={gone}
              keyOf={(row) => row.id}
              columns={[
                {
                  title: "Campaign",
                  cell: (row) => (
                    <Link
                      className="font-semibold hover:text-plum"
                      to={`/campaigns/${row.id}/results`}
                    >
                      {row.name}
                    </Link>
                  ),
                },
                { title: "Sent on", cell: (row) => row.sentOn },
                ...(
                  [
                    ["Readers", (m) => count(m.accepted)],
                    ["Opened", (m) => percent(m.opened, m.accepted)],
                    ["Clicked", (m) => percent(m.clicked, m.accepted)],
                  ] as [string, (m: (typeof gone)[number]["measures"]) => string][]
                ).map(([title, value]) => ({
                  title,
                  right: true,
                  cell: (row: (typeof gone)[number]) => (
                    <span className="font-display text-title">{value(row.measures)}</span>
                  ),
                })),
              ]}
            />
          )}
        </div>
        <aside aria-label="Scheduled">
          <div className="mt-1 mb-2.5 flex items-baseline justify-between">
            <h2 className="text-head">Scheduled</h2>
            <Link className="link text-small" to="/calendar">
              Calendar
            </Link>
          </div>
          <Calendar days={calendar} />
          <ul className="mt-3">
            {goingOut.map((item) => (
              <GoingOut key={item.id} item={item} follows={followed.has(item.id)} />
            ))}
          </ul>
          {goingOut.length === 0 && (
            <p className="mt-3 text-ink-3">
              Nothing yet. An email is given its time in its Schedule room.
            </p>
          )}
        </aside>
      </div>
    </Page>
  );
}

type Leaving = Route.ComponentProps["loaderData"]["goingOut"][number];

/** So many sendings are looked at: each takes a line of the few that a browser has. */
const FOLLOWED = 2;

/** An email that goes out. Where it `follows`, the page is loaded anew when it comes to stand, goes on, or is through. */
function GoingOut({ item, follows }: { item: Leaving; follows: boolean }) {
  const { revalidate } = useRevalidator();
  const { id, paused } = item;
  useEffect(() => {
    if (!follows) return;
    return followSending(id, (now) => {
      const stands = (now?.standing.why ?? null) !== null;
      if (now?.state !== "sending" || stands !== paused) void revalidate();
    });
  }, [id, follows, paused, revalidate]);
  return (
    <li className="flex gap-4 border-b py-3">
      <div className="w-[84px]">
        <div className="font-display text-title">{item.sending ? "Now" : item.day}</div>
        <div className="text-small text-ink-2">{item.time}</div>
      </div>
      <div>
        <Link
          to={`/campaigns/${item.id}/schedule`}
          className="text-body font-semibold hover:text-plum"
        >
          {item.name}
        </Link>
        <div className="text-small text-ink-2">
          <Later of={item.readers}>{readers}</Later>
          {item.paused ? (
            <span className="font-semibold text-rust"> · paused</span>
          ) : (
            item.sending && " · being sent"
          )}
        </div>
      </div>
    </li>
  );
}
