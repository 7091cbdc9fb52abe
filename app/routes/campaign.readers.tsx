import { data, Link, useNavigate, useSubmit } from "react-router";
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
  countAudience,
  countLists,
  countMailable,
  countSegments,
  countSources,
  type Source,
  searchLists,
  searchSegments,
  sourceSchema,
} from "#server/store/audience.ts";
import { setAudience } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { getTopics, inLanguage, setTopic } from "#server/store/topics.ts";
import { DraftBar } from "../draft/draft-bar.tsx";
import { sentForm } from "../form.ts";
import { at, campaignOf, late } from "../request.ts";
import { finderOf } from "../ui/finder.ts";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { named, Select } from "../ui/select.tsx";
import { count, people, percent } from "../ui/words.ts";
import type { Route } from "./+types/campaign.readers.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

/** Lists and segments to choose among: those that are chosen, the first others, and one that was looked for. */
async function offered(sql: Sql, { include, exclude }: Audience, wanted: string | null) {
  const [kind, id] = wanted?.split(":") ?? [];
  const looked = sourceSchema.safeParse({ kind, id }).data;
  const limit = LIMITS.sourcesOffered;
  const lists = await searchLists(sql, { search: "", from: 0, limit });
  const segments = await searchSegments(sql, { search: "", from: 0, limit });
  const first: Source[] = [
    ...lists.map(({ id }) => ({ kind: "list" as const, id })),
    ...[...segments, ...KEPT_SEGMENTS].map(({ id }) => ({ kind: "segment" as const, id })),
  ];
  const all = [...include, ...exclude, ...(looked ? [looked] : []), ...first];
  return [...new Map(all.map((source) => [`${source.kind}:${source.id}`, source])).values()];
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const { doc } = (await loadDocument(sql, campaign.documentId))!;
  const around = await surroundings(sql, services.config, doc);
  const unsent = { doc, around, campaign };
  const { audience, topic } = campaign;
  const sources = await offered(sql, audience, new URL(request.url).searchParams.get("with"));
  const conditions = conditionsOf(doc, around.derived);
  const own = { include: sources, exclude: [] };
  const world = await worldFor(services, conditions, own);
  const uses = (list: readonly Source[], { kind, id }: Source) =>
    list.some((one) => one.kind === kind && one.id === id);
  const ofKind = (wanted: Source["kind"]) => sources.filter(({ kind }) => kind === wanted).length;
  return {
    id: campaign.id,
    sources: sources.map((source) => ({
      name: world.names.get(`${source.kind}:${source.id}`) ?? "(gone)",
      about:
        source.kind === "list"
          ? "list"
          : world.segments.has(source.id)
            ? describe(world.segments.get(source.id)!, world)
            : "segment",
      key: `${source.kind}:${source.id}`,
      use: uses(audience.include, source)
        ? "include"
        : uses(audience.exclude, source)
          ? "exclude"
          : "none",
    })),
    /** There are others than those. */
    more:
      (await countLists(sql)) > ofKind("list") ||
      (await countSegments(sql)) + KEPT_SEGMENTS.length > ofKind("segment"),
    topic,
    topics: (await getTopics(sql)).map(({ id, name }) => ({ id, name: inLanguage(name, "en") })),
    // The room does not wait for what has to be counted.
    reach: late(context, () => countSources(sql, sources, world)),
    counted: late(context, () =>
      Promise.all([countAudience(sql, audience, world, topic), countMailable(sql)]),
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
  const picked = { include: [] as unknown[], exclude: [] as unknown[] };
  for (const [key, use] of form) {
    const [kind, id] = key.split(":");
    if (use === "include" || use === "exclude") picked[use].push({ kind, id });
  }
  const audience = audienceSchema.safeParse(picked);
  if (!audience.success) return data({ problem: "This choice could not be read." }, 400);
  const { sql, now } = at(context);
  const problem = await audienceProblem(sql, audience.data);
  if (problem) return data({ problem }, 400);
  await setAudience(sql, params.campaign, audience.data, now);
  return { problem: null };
}

const SOURCES = finderOf("sources");

const USES = [
  ["include", "Gets it"],
  ["exclude", "Left out"],
  ["none", "Not used"],
] as const;

type Known<T> = T extends Promise<infer K> ? K : never;
type Counted = Known<Route.ComponentProps["loaderData"]["counted"]>[0];

function Total({ audience, mailable = 0 }: { audience?: Counted; mailable?: number }) {
  return (
    <>
      <div
        className="font-display text-display leading-none"
        {...(audience && { "data-readers": "" })}
      >
        {audience ? count(audience.readers) : "…"}
      </div>
      <div className="mt-1 text-body text-ink-2">
        {audience?.readers === 1 ? "reader" : "readers"}
        {audience && `, ${percent(audience.readers, mailable)} of all who can be mailed`}
      </div>
    </>
  );
}

function Suppressed({ audience, topic }: { audience: Counted; topic: boolean }) {
  const held = audience.unsubscribed + audience.bounced + audience.blocked + audience.left;
  return (
    <>
      <h2 className="mt-7 mb-1 text-title">Suppressed</h2>
      <p className="text-small text-ink-2">
        {held === 0 ? "Nobody in this choice." : "In this choice too, but nothing is sent to them:"}
      </p>
      <dl className="mt-2">
        <div className="flex justify-between border-b py-1.5">
          <dt>Unsubscribed</dt>
          <dd className="font-display text-title" data-unsubscribed>
            {count(audience.unsubscribed)}
          </dd>
        </div>
        <div className="flex justify-between border-b py-1.5">
          <dt>Bounced before</dt>
          <dd className="font-display text-title">{count(audience.bounced)}</dd>
        </div>
        <div className="flex justify-between border-b py-1.5">
          <dt>Blocked</dt>
          <dd className="font-display text-title">{count(audience.blocked)}</dd>
        </div>
        {topic && (
          <div className="flex justify-between border-b py-1.5">
            <dt>Left the topic</dt>
            <dd className="font-display text-title" data-left>
              {count(audience.left)}
            </dd>
          </div>
        )}
      </dl>
    </>
  );
}

function SeenBy({ parts, versions, chosen }: Known<Route.ComponentProps["loaderData"]["seen"]>) {
  if (parts.length === 0) return null;
  return (
    <section aria-label="Who sees what" className="mt-9">
      <h2 className="mb-1 text-head">Who sees what</h2>
      <p className="mb-2 text-ink-2">
        {count(versions)} different emails come of these conditions.
      </p>
      <table className="w-full border-collapse text-left text-small">
        <thead>
          <tr className="border-b text-small text-ink-2">
            <th scope="col" className="py-1.5 pr-3">
              Part
            </th>
            <th scope="col" className="py-1.5 pr-3">
              For whom
            </th>
            <th scope="col" className="py-1.5 pr-3 text-right">
              Readers
            </th>
            {chosen.map((name) => (
              <th key={name} scope="col" className="py-1.5 pr-3 text-right">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {parts.map((part, i) => (
            <tr key={i} className="border-b">
              <th scope="row" className="max-w-48 truncate py-1.5 pr-3 font-semibold">
                <Link to={`../?at=${part.at}`} relative="path" className="hover:underline">
                  {part.name}
                </Link>
              </th>
              <td className="py-1.5 pr-3 text-ink-2">{part.words}</td>
              <td className="py-1.5 pr-3 text-right font-display text-lead">
                {count(part.people)}
              </td>
              {part.within.map((n, j) => (
                <td key={j} className="py-1.5 pr-3 text-right font-display text-lead">
                  {count(n)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

export default function Readers({ loaderData, actionData }: Route.ComponentProps) {
  const { sources, more, reach, counted, seen, topics, topic } = loaderData;
  const submit = useSubmit();
  const navigate = useNavigate();
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
          <Form method="post" onChange={(event) => submit(event.currentTarget)}>
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
                        defaultChecked={source.use === use}
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
