/** What somebody brought, beside what becomes of it: a report, the merge tags in it, and the start. */
import { useEffect } from "react";
import { data, Link, redirect } from "react-router";
import { z } from "zod";
import type { Meaning } from "#core/import/emails/index.ts";
import { LIMITS } from "#core/limits.ts";
import { isCategory } from "#core/templates/categories.ts";
import { tagChoices, takenOf } from "#server/arriving/arrive.ts";
import { ArrivalError } from "#server/arriving/error.ts";
import { shownAs } from "#server/arriving/showing.ts";
import { startCampaign } from "#server/campaigns/starting.ts";
import { required } from "#server/forms.ts";
import { type Arrival, getArrival, setMeanings, takeArrival } from "#server/store/arrivals.ts";
import { createTemplate } from "#server/store/templates.ts";
import { submissionOf } from "../form.ts";
import { at } from "../request.ts";
import { Report } from "../starting/report.tsx";
import { StartForm } from "../starting/start-form.tsx";
import { Tabs } from "../starting/tabs.tsx";
import { TagForm } from "../starting/tag-form.tsx";
import { EmailFrame } from "../ui/email-frame.tsx";
import { usePut } from "../ui/put.ts";
import { Segmented } from "../ui/segmented.tsx";
import { useToast } from "../ui/toast.tsx";
import type { Route } from "./+types/campaigns.new.arrived.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Start a campaign · Septima" }];

async function arrivalOf(context: Route.LoaderArgs["context"], id: string): Promise<Arrival> {
  const { sql, member } = at(context);
  const arrival = await getArrival(sql, id, member.id);
  if (!arrival)
    throw data("This is gone: it has become a campaign, or it was too old.", { status: 404 });
  return arrival;
}

/** What an address asks for: its own looks or the theme's, blocks or one of HTML. */
const howIn = (url: URL) => ({
  keepLook: url.searchParams.get("look") !== "theme",
  whole: url.searchParams.get("as") === "whole",
});

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services } = at(context);
  const arrival = await arrivalOf(context, params.arrival);
  const how = howIn(new URL(request.url));
  const { doc, report } = await takenOf(services, arrival, how).catch((error) => {
    if (error instanceof ArrivalError) throw data(error.message, { status: 422 });
    throw error;
  });
  return {
    ...how,
    name: arrival.name,
    foreign: arrival.kind === "foreign",
    draft: arrival.draft,
    notes: arrival.notes,
    tags: arrival.tags,
    meanings: arrival.meanings,
    choices: await tagChoices(services),
    missing: Object.values(arrival.pictures).filter((id) => id === null).length,
    width: Number(doc.root.props.width),
    becomes: await shownAs(services, doc),
    report,
  };
}

const LINKS = ["unsubscribe", "webVersion", "preferences"] as const;
/** Nothing chosen comes as nothing. */
const meaningSchema = z
  .string()
  .default("")
  .transform((written): Meaning => {
    const link = LINKS.find((kind) => written === `link:${kind}`);
    if (link) return { is: "link", kind: link };
    return written.startsWith("contact:") ? { is: "tag", ref: written } : { is: "words" };
  });
const schema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("tags"),
    meanings: z.array(meaningSchema).max(LIMITS.foreignTags),
  }),
  z.object({
    do: z.enum(["start", "template"]),
    name: required("Give it a name that you will find again."),
  }),
]);

export async function action({ request, params, context }: Route.ActionArgs) {
  const { services, sql, now } = at(context);
  const arrival = await arrivalOf(context, params.arrival);
  const how = howIn(new URL(request.url));
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const asked = submission.value;
  if (asked.do === "tags") {
    const known = new Set((await tagChoices(services)).map(({ ref }) => ref));
    const kept = arrival.tags.flatMap(({ name }, i): [string, Meaning][] => {
      const meaning: Meaning = asked.meanings[i] ?? { is: "words" };
      return meaning.is !== "tag" || known.has(meaning.ref) ? [[name, meaning]] : [];
    });
    await setMeanings(sql, arrival.id, Object.fromEntries(kept));
    return submission.reply();
  }
  const { name } = asked;
  try {
    const { doc } = await takenOf(services, arrival, how);
    const path = await services.database.tx(async (tx) => {
      // Pressed twice, it becomes one campaign.
      if (!(await takeArrival(tx, arrival.id))) return null;
      if (asked.do === "start") {
        return `/campaigns/${await startCampaign(tx, { name, start: { doc }, theme: "own" }, now)}`;
      }
      const category = isCategory(arrival.category) ? arrival.category : "news";
      await createTemplate(tx, { name, about: arrival.about, category, doc }, now);
      return `/templates?${new URLSearchParams({ search: name })}`;
    });
    return redirect(path ?? "/campaigns");
  } catch (error) {
    if (!(error instanceof ArrivalError)) throw error;
    return data(submission.reply({ formErrors: [error.message] }), 422);
  }
}

/** Of the frames, px on the page. */
const FRAME = 412;

export default function Arrived({ loaderData, actionData }: Route.ComponentProps) {
  const say = useToast();
  const tagged = actionData?.status === "success" ? actionData : null;
  useEffect(() => {
    if (tagged) say("The merge tags are put in");
  }, [tagged, say]);
  const { becomes, width, name, foreign, draft, keepLook, whole, report } = loaderData;
  const put = usePut();
  return (
    <main className="grid min-h-[calc(100vh-49px)] grid-cols-[1fr_340px] max-lg:grid-cols-1">
      <div className="min-w-0 px-8 py-6 max-md:px-4">
        <h1 className="mb-3 text-display leading-tight">Start a campaign</h1>
        <Tabs on={draft ? "text" : "file"} />
        <div className="mt-4 mb-4 flex flex-wrap items-center gap-4">
          <h2 className="text-head">{name}</h2>
          {foreign && !draft && (
            <>
              <Segmented
                label="In blocks or as it is"
                value={whole ? "whole" : "blocks"}
                onChange={(value) => put("as", value)}
                options={[
                  { value: "blocks", label: "In blocks" },
                  { value: "whole", label: "One HTML block" },
                ]}
              />
              {!whole && (
                <Segmented
                  label="Its look"
                  value={keepLook ? "own" : "theme"}
                  onChange={(value) => put("look", value)}
                  options={[
                    { value: "own", label: "Its own look" },
                    { value: "theme", label: "Your theme" },
                  ]}
                />
              )}
            </>
          )}
        </div>
        <div className="flex flex-wrap items-start gap-6">
          {report?.came && (
            <figure>
              <figcaption className="mb-1.5 text-small text-ink-2">As it came</figcaption>
              <EmailFrame
                html={report.came}
                title="As it came"
                width={680}
                scale={FRAME / 680}
                most={1200}
              />
            </figure>
          )}
          <figure>
            <figcaption className="mb-1.5 text-small text-ink-2">What becomes of it</figcaption>
            <EmailFrame
              html={becomes}
              title="What becomes of it"
              width={width + 80}
              scale={FRAME / (width + 80)}
              most={1200}
            />
          </figure>
        </div>
      </div>
      <aside
        aria-label="Good to know"
        className="flex flex-col gap-6 border-l bg-bench px-5 py-5 max-lg:border-t max-lg:border-l-0"
      >
        <StartForm name={name} result={actionData} />
        {report && (
          <Report
            report={report}
            notes={loaderData.notes}
            missing={loaderData.missing}
            whole={whole}
            draft={draft}
          />
        )}
        {loaderData.tags.length > 0 && (
          <TagForm
            tags={loaderData.tags}
            meanings={loaderData.meanings}
            choices={loaderData.choices}
          />
        )}
        <Link to={`/campaigns/new/arrive?as=${draft ? "text" : "file"}`} className="link text-body">
          Bring something else
        </Link>
      </aside>
    </main>
  );
}
