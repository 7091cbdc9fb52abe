import { data, Link, type RouterContextProvider, redirect } from "react-router";
import type { EmailProps } from "#core/blocks/layout.ts";
import { variantName } from "#core/splits/index.ts";
import { plainLine, wordsOf } from "#core/text/index.ts";
import { sendAgain } from "#server/campaigns/again.ts";
import { answeredIn } from "#server/campaigns/answers.ts";
import { readyLaunch } from "#server/campaigns/emails.ts";
import { sentItemsOf } from "#server/campaigns/launch-items.ts";
import { chooseVariant, ScheduleError } from "#server/campaigns/scheduling.ts";
import { splitResultOf } from "#server/campaigns/split-result.ts";
import type { Sql } from "#server/db/database.ts";
import { getLaunch, type Launch } from "#server/store/launches/freeze.ts";
import { eachVariant } from "#server/store/launches/variants.ts";
import { byHour, clicksByLink, machinesIn, measuresOf } from "#server/store/results.ts";
import { getSettings } from "#server/store/settings.ts";
import { signedUpAfter } from "#server/store/signups.ts";
import type { Signer } from "#server/tracking/signer.ts";
import { sentForm, submissionOf } from "../form.ts";
import { at, campaignOf, zoneOf } from "../request.ts";
import { Again } from "../results/again.tsx";
import { againSchema, chooseSchema } from "../results/again-schema.ts";
import { Answers } from "../results/answers.tsx";
import { HourChart, LinkChart } from "../results/charts.tsx";
import { Share } from "../results/share.tsx";
import { SplitResultSection } from "../results/split-result.tsx";
import { Empty, Figure } from "../ui/page.tsx";
import { usePolling } from "../ui/polling.ts";
import { Table } from "../ui/table.tsx";
import { count, counted, dayAndTime, people, percent } from "../ui/words.ts";
import type { Route } from "./+types/campaign.results.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

const HOURS = 48;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const launch = campaign.launchId ? await getLaunch(sql, campaign.launchId) : null;
  if (!launch?.startedAt) return { id: campaign.id, results: null };
  const links = await linksOf(sql, launch, services.signer);
  const found = new Map((await byHour(sql, launch.id, HOURS)).map((row) => [row.hour, row]));
  return {
    id: campaign.id,
    results: {
      sent: dayAndTime(launch.startedAt, await zoneOf(context)),
      done: launch.state === "done",
      subject: wordsOf((launch.doc.root.props as unknown as EmailProps).envelope.subject),
      measures: await measuresOf(sql, launch.id),
      signedUp: await signedUpAfter(sql, launch.id),
      links,
      items: await sentItemsOf(sql, launch),
      split: await shownSplit(context, launch),
      answers: await answeredIn(sql, launch),
      shared: `${services.config.publicAddress}/s/${services.signer.sign({ kind: "launch", launch: launch.id })}`,
      machines: await machinesIn(sql, launch.id),
      hours: Array.from({ length: HOURS }, (_, hour) => ({
        hour,
        opened: found.get(hour)?.opened ?? 0,
        clicked: found.get(hour)?.clicked ?? 0,
      })),
    },
  };
}

/** The links of an email that lead into the web, those that most followed first; each email's own, where variants have several. */
async function linksOf(sql: Sql, launch: Launch, signer: Signer) {
  const all = eachVariant(launch);
  const own = all.filter((_, i) => i === 0 || launch.split?.variants[i - 1]?.content);
  const found = await Promise.all(
    own.map(async (one) => {
      // Variants that say something else in the head alone share the links of the first.
      const same =
        one.variant === 0 ? all.filter((other) => !own.includes(other) || other === one) : [one];
      const rows = await clicksByLink(
        sql,
        launch.id,
        same.map(({ variant }) => variant),
      );
      const clicks = new Map(rows.map((row) => [row.link, row]));
      return readyLaunch(one, signer).compiled.links.map((link, i) => ({
        link: `${one.variant}.${i + 1}`,
        words: link.words,
        variant: own.length > 1 ? variantName(one.variant) : null,
        address:
          link.to.kind === "web"
            ? plainLine(link.to.address, () => "…")
            : link.to.kind === "file"
              ? link.to.name
              : "",
        people: clicks.get(i + 1)?.people ?? 0,
        clicks: clicks.get(i + 1)?.clicks ?? 0,
        kind: link.to.kind,
      }));
    }),
  );
  return found
    .flat()
    .filter((link) => link.kind === "web" || link.kind === "file")
    .sort((a, b) => b.people - a.people);
}

/** What came of its A/B test, as it is shown. */
async function shownSplit(context: Readonly<RouterContextProvider>, launch: Launch) {
  const { sql, now } = at(context);
  const { orderDays } = (await getSettings(sql)).sending;
  const found = await splitResultOf(sql, launch, orderDays);
  if (!found) return null;
  const zone = await zoneOf(context);
  const { decision, decidedAt, ...split } = found;
  return {
    ...split,
    days: orderDays,
    decided:
      decision &&
      `${decision.by ? `${decision.by} said so` : "it was decided by itself"} on ${dayAndTime(decision.at, zone)}`,
    decides: decidedAt && decidedAt > now ? `on ${dayAndTime(decidedAt, zone)}` : null,
  };
}

/** How long the page rests before it asks for news, ms. */
const NEWS_MS = 5_000;

export async function action({ request, params, context }: Route.ActionArgs) {
  const form = await sentForm(request);
  const campaign = await campaignOf(context, params.campaign);
  const { services, member } = at(context);
  if (form.has("choose")) {
    const chosen = await submissionOf(form, chooseSchema);
    if (chosen.status !== "success") return data(chosen.reply(), 400);
    try {
      await chooseVariant(services, campaign.id, chosen.value.choose, member.id);
      return chosen.reply();
    } catch (error) {
      if (!(error instanceof ScheduleError)) throw error;
      return data(chosen.reply({ formErrors: [error.message] }), 409);
    }
  }
  const submission = await submissionOf(form, againSchema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const made = await sendAgain(services, campaign, submission.value.subject);
  if (made) return redirect(`/campaigns/${made}`);
  const formErrors = ["It has not been sent to everybody yet."];
  return data(submission.reply({ formErrors }), 409);
}

export default function CampaignResults({ loaderData, actionData }: Route.ComponentProps) {
  const { results, id } = loaderData;
  // News comes in while the page is open; nobody has to reload.
  usePolling(results ? NEWS_MS : null);
  if (!results) {
    return (
      <main className="mx-auto max-w-[640px] px-6 py-10">
        <h1 className="sr-only">Results</h1>
        <Empty title="Nothing to read yet">
          How it is read stands here once it is sent.{" "}
          <Link className="link" to={`/campaigns/${id}/schedule`}>
            Schedule it
          </Link>
        </Empty>
      </main>
    );
  }
  const {
    measures: m,
    signedUp,
    links,
    items,
    hours,
    sent,
    done,
    subject,
    split,
    machines,
    shared,
    answers,
  } = results;
  return (
    <main
      className="h-full overflow-auto"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard
      tabIndex={0}
      aria-label="Results"
    >
      <div className="mx-auto max-w-[1080px] px-10 py-7 max-md:px-4 2xl:max-w-[1280px]">
        <h1 className="text-display">What came of it</h1>
        <p className="mb-6 text-ink-2">
          Sent on {sent}
          {done ? "." : ", and is still being sent."}
        </p>
        <div className="mb-8 grid grid-cols-6 gap-6 max-md:grid-cols-2 border-y py-5">
          <Figure
            value={count(m.accepted)}
            label="delivered"
            note={`of ${count(m.readers)}, ${percent(m.accepted, m.readers)}`}
          />
          <Figure value={percent(m.opened, m.accepted)} label="opened" note={people(m.opened)} />
          <Figure value={percent(m.clicked, m.accepted)} label="clicked" note={people(m.clicked)} />
          <Figure
            value={percent(m.ordered, m.accepted)}
            label="ordered"
            note={
              signedUp > 0
                ? `${people(m.ordered)} after a click; ${count(signedUp)} signed up`
                : `${people(m.ordered)}, after a click`
            }
          />
          <Figure
            value={percent(m.unsubscribed, m.accepted)}
            label="unsubscribed"
            note={
              m.complained > 0
                ? `${people(m.unsubscribed)}; ${count(m.complained)} called it spam`
                : `${people(m.unsubscribed)}`
            }
          />
          <Figure
            value={percent(m.bounced, m.readers)}
            label="bounced"
            note={counted(m.bounced, "address", "addresses")}
          />
        </div>
        {split && (
          <SplitResultSection split={split} problem={actionData?.error?.[""]?.[0] ?? null} />
        )}
        {answers.length > 0 && <Answers questions={answers} />}
        <div className="grid grid-cols-2 gap-10 max-lg:grid-cols-1">
          <section aria-label="Links">
            <h2 className="mb-2 text-head">Links by people</h2>
            <LinkChart links={links} />
            <Table
              label="Links by people"
              rows={links}
              keyOf={(row) => row.link}
              columns={[
                {
                  title: "Link",
                  cell: (row) => (
                    <>
                      <div className="font-semibold">
                        {row.variant && `${row.variant}: `}
                        {row.words || "Image"}
                      </div>
                      <div className="text-small break-all text-ink-2">{row.address}</div>
                    </>
                  ),
                },
                { title: "People", right: true, cell: (row) => count(row.people) },
                { title: "Clicks", right: true, cell: (row) => count(row.clicks) },
              ]}
            />
          </section>
          <div className="flex flex-col gap-8">
            <section aria-label="Over time">
              <h2 className="mb-2 text-head">The first two days</h2>
              <HourChart hours={hours} />
              <p className="mt-2 text-small text-ink-2">
                <span className="font-semibold text-plum">Opens</span> and{" "}
                <span className="font-semibold text-leaf">clicks</span> by the hour since it was
                sent. Opens are counted by an image, which some mail programs fetch by themselves
                and others not at all: take them as a hint.
              </p>
              {machines.messages > 0 && (
                <p className="mt-2 text-small text-ink-2">
                  Not counted: {counted(machines.opens, "open")} and{" "}
                  {counted(machines.clicks, "click")} of machines in{" "}
                  {counted(machines.messages, "message")}. They open in the moment a message
                  arrives, follow its links all at once, or name themselves as programs.
                </p>
              )}
            </section>
            <Share subject={subject} address={shared} />
            {done && m.accepted > m.opened && (
              <Again unopened={m.accepted - m.opened} subject={subject} result={actionData} />
            )}
          </div>
          {items.length > 0 && (
            <section aria-label="Items">
              <h2 className="mb-2 text-head">Items it brought</h2>
              <Table
                label="Items it brought"
                rows={items}
                keyOf={({ source, key }) => `${source}:${key}`}
                columns={[
                  { title: "Item", cell: ({ title }) => title },
                  {
                    title: "Chosen for",
                    right: true,
                    cell: ({ readers }) =>
                      readers === null ? "all readers" : counted(readers, "reader"),
                  },
                ]}
              />
            </section>
          )}
        </div>
      </div>
    </main>
  );
}
