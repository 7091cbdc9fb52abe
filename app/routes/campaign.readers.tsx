import { useEffect, useState } from "react";
import { data, useNavigate, useNavigation, useSubmit } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { conditionsOf } from "#core/render/index.ts";
import { describe, KEPT_SEGMENTS } from "#core/rules/index.ts";
import { whoSeesWhat, worldFor } from "#server/audience/readers.ts";
import { surroundings } from "#server/campaigns/emails.ts";
import type { Sql } from "#server/db/database.ts";
import {
  type Audience,
  audienceProblem,
  audienceSchema,
  type Source,
  sourceSchema,
} from "#server/store/audience.ts";
import { getCampaign, setAudience } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { findNamed } from "#server/store/finding.ts";
import { countAudience, countMailable, countSources } from "#server/store/readers.ts";
import { getTopics, inLanguage, setTopic } from "#server/store/topics.ts";
import { DraftBar } from "../draft/draft-bar.tsx";
import { sentForm } from "../form.ts";
import { Suppressed, Total } from "../readers/counted.tsx";
import { SeenBy } from "../readers/seen-by.tsx";
import { at, campaignOf, late } from "../request.ts";
import { finderOf } from "../ui/finder.ts";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { named, Select } from "../ui/select.tsx";
import { people } from "../ui/words.ts";
import type { Route } from "./+types/campaign.readers.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

const keyOf = ({ kind, id }: Source) => `${kind}:${id}`;
function sourceFrom(key: string): Source | undefined {
  const [kind, ...id] = key.split(":");
  return sourceSchema.safeParse({ kind, id: id.join(":") }).data;
}

/** Lists and segments to choose among: those that are chosen, one that was looked for, and the first others. */
async function offered(sql: Sql, { include, exclude }: Audience, wanted: string | null) {
  const firsts: Source[] = [];
  let more = false;
  for (const kind of ["list", "segment"] as const) {
    const found = await findNamed(sql, `${kind}s`, "", "");
    more ||= found.length > LIMITS.sourcesOffered;
    firsts.push(...found.slice(0, LIMITS.sourcesOffered).map(({ id }) => ({ kind, id })));
  }
  const kept = KEPT_SEGMENTS.map(({ id }): Source => ({ kind: "segment", id }));
  const looked = wanted === null ? undefined : sourceFrom(wanted);
  const always = [...firsts, ...kept];
  const known = new Set(always.map(keyOf));
  // The others stand before them; none changes its place by being chosen.
  const others = [...include, ...exclude, ...(looked ? [looked] : [])];
  const all = [...others.filter((source) => !known.has(keyOf(source))), ...always];
  return { sources: [...new Map(all.map((source) => [keyOf(source), source])).values()], more };
}

/** An audience in which one source is used otherwise. */
function using({ include, exclude }: Audience, source: Source, use: string): Audience {
  const others = (list: readonly Source[]) => list.filter((one) => keyOf(one) !== keyOf(source));
  return {
    include: [...others(include), ...(use === "include" ? [source] : [])],
    exclude: [...others(exclude), ...(use === "exclude" ? [source] : [])],
  };
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services, sql, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const { doc } = (await loadDocument(sql, campaign.documentId))!;
  const around = await surroundings(sql, services.config, doc, now, campaign.id);
  const unsent = { doc, around, campaign };
  const { audience, topic } = campaign;
  const { sources, more } = await offered(
    sql,
    audience,
    new URL(request.url).searchParams.get("with"),
  );
  const conditions = conditionsOf(doc, around.derived);
  const own = { include: sources, exclude: [] };
  const world = await worldFor(services, conditions, own);
  const uses = (list: readonly Source[], source: Source) =>
    list.some((one) => keyOf(one) === keyOf(source));
  return {
    id: campaign.id,
    sources: sources.map((source) => ({
      name: world.names.get(keyOf(source)) ?? "(gone)",
      about:
        source.kind === "list"
          ? "list"
          : world.segments.has(source.id)
            ? describe(world.segments.get(source.id)!, world)
            : "segment",
      key: keyOf(source),
      use: uses(audience.include, source)
        ? "include"
        : uses(audience.exclude, source)
          ? "exclude"
          : "none",
    })),
    /** There are others than those. */
    more,
    topic,
    topics: (await getTopics(sql)).map(({ id, name }) => ({ id, name: inLanguage(name, "en") })),
    // The room does not wait for what has to be counted.
    reach: late(context, () => countSources(sql, sources, world)),
    counted: late(context, () =>
      Promise.all([
        countAudience(sql, audience, world, topic, params.campaign),
        countMailable(sql),
      ]),
    ),
    seen: late(context, () => whoSeesWhat(services, unsent, world)),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { state } = await campaignOf(context, params.campaign);
  if (state === "sending" || state === "sent") {
    const problem = "It is being sent, or has been sent: who gets it stays as it was.";
    return data({ problem }, 409);
  }
  const form = await sentForm(request);
  const topic = form.get("topic");
  if (topic !== null) {
    const { sql } = at(context);
    const known = (await getTopics(sql)).some(({ id }) => id === topic);
    if (topic !== "" && !known) return data({ problem: "This topic is gone." }, 400);
    await setTopic(sql, params.campaign, String(topic) || null);
    return { problem: null };
  }
  const { services, now } = at(context);
  const changes = [...form].map(([key, use]) => ({ source: sourceFrom(key), use }));
  // Only what is sent is changed: somebody else may be choosing too.
  const problem = await services.database.tx(async (tx) => {
    let audience = (await getCampaign(tx, params.campaign))?.audience;
    if (!audience) return "This campaign is gone.";
    const taken: Source[] = [];
    for (const { source, use } of changes) {
      if (!source) return "This choice could not be read.";
      if (use !== "none") taken.push(source);
      audience = using(audience, source, String(use));
    }
    const checked = audienceSchema.safeParse(audience);
    if (!checked.success) return checked.error.issues[0]!.message;
    const gone = await audienceProblem(tx, { include: taken, exclude: [] });
    if (!gone) await setAudience(tx, params.campaign, audience, now);
    return gone;
  });
  return problem === null ? { problem } : data({ problem }, 400);
}

const SOURCES = finderOf("sources");

const USES = [
  ["include", "Gets it"],
  ["exclude", "Left out"],
  ["none", "Not used"],
] as const;

export default function Readers({ loaderData, actionData }: Route.ComponentProps) {
  const { sources, more, reach, counted, seen, topics, topic } = loaderData;
  const submit = useSubmit();
  const navigate = useNavigate();
  const { state } = useNavigation();
  /** What was changed here and is on its way. */
  const [changed, setChanged] = useState<Readonly<Record<string, string>>>({});
  useEffect(() => {
    if (state === "idle") setChanged({});
  }, [state]);
  return (
    <>
      <DraftBar campaign={loaderData.id} changed={loaderData} />
      <main className="mx-auto grid max-w-[1080px] grid-cols-[1fr_340px] gap-14 px-10 py-7 max-lg:grid-cols-1 max-md:px-4">
        <div>
          <h1 className="mb-1 text-display">Who gets it</h1>
          <p className="mb-5 text-ink-2">
            Everybody in any list or segment that gets it, without those in one that is left out.
            Each person gets it once.
          </p>
          {actionData?.problem && (
            <p role="alert" className="mb-3 font-semibold text-rust">
              {actionData.problem}
            </p>
          )}
          <Form
            method="post"
            onChange={({ target }) => {
              const { name, value } = target as unknown as HTMLInputElement;
              // What is still on its way is sent again: it may have been cut off by this.
              const all = { ...changed, [name]: value };
              setChanged(all);
              void submit(all, { method: "post" });
            }}
          >
            {sources.map((source, i) => (
              <fieldset
                key={source.key}
                className="flex items-center justify-between gap-6 border-b py-2.5"
              >
                <legend className="sr-only">{source.name}</legend>
                <div className="min-w-0">
                  <div className="text-body font-semibold">{source.name}</div>
                  <div className="text-small text-ink-2">
                    {source.about} · <Later of={reach}>{(counts) => people(counts[i]!)}</Later>
                  </div>
                </div>
                <div className="flex flex-none gap-4">
                  {USES.map(([use, label]) => (
                    <label key={use} className="flex items-center gap-1.5">
                      <input
                        type="radio"
                        name={source.key}
                        value={use}
                        checked={(changed[source.key] ?? source.use) === use}
                        onChange={() => {}}
                        className="accent-plum"
                      />
                      {label}
                    </label>
                  ))}
                </div>
              </fieldset>
            ))}
            {sources.length === 0 && (
              <p className="text-ink-3">There are no lists or segments yet.</p>
            )}
          </Form>
          {more && (
            <div className="mt-4 flex items-center gap-3">
              <span className="text-small text-ink-2">Another list or segment</span>
              <Select
                label="Another list or segment"
                value=""
                hint="Find one…"
                options={[]}
                finder={SOURCES}
                onValue={(key) => {
                  if (key) void navigate(`?with=${key}`, { preventScrollReset: true });
                }}
                className="w-72"
              />
            </div>
          )}
          <Later of={seen} until={null}>
            {(known) => <SeenBy {...known} />}
          </Later>
        </div>
        <aside aria-label="Count" className="border-l pl-8">
          <Later of={counted} until={<Total />}>
            {([audience, mailable]) => <Total audience={audience} mailable={mailable} />}
          </Later>
          {topics.length > 0 && (
            <div className="mt-6">
              <span className="mb-1 block text-small text-ink-2">
                Topic; who has left it gets nothing
              </span>
              <Select
                label="Topic; who has left it gets nothing"
                value={topic ?? ""}
                none="None: for everybody in the choice"
                options={named(topics)}
                onValue={(next) => void submit({ topic: next }, { method: "post" })}
              />
            </div>
          )}
          <Later of={counted} until={null}>
            {([audience]) => <Suppressed audience={audience} topic={topic !== null} />}
          </Later>
        </aside>
      </main>
    </>
  );
}
