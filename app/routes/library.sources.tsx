/** Sources of a kind: feeds, catalogues or calendars. Where items for emails come from, how each is, and a new one. */
import { data, Link, redirect } from "react-router";
import { z } from "zod";
import { itemKindOf, kindBySlug } from "#core/items/index.ts";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import { addEmptySource, addSourceAt } from "#server/sources/adding.ts";
import { STAND_INS } from "#server/standins/fetcher.ts";
import { countEach } from "#server/store/items.ts";
import { hurry } from "#server/store/jobs.ts";
import { getSettings, saveSetting } from "#server/store/settings.ts";
import { getSources } from "#server/store/sources.ts";
import { submissionOf } from "../form.ts";
import { SOURCE_WORDS } from "../library/source-words.ts";
import { at, listed, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Field, FormErrors, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Empty, Listing, Page, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { ago, count, counted } from "../ui/words.ts";
import type { Route } from "./+types/library.sources.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ params }: Route.MetaArgs) => [
  { title: `${kindBySlug(params.kind)?.sources ?? "Library"} · Septima` },
];

function kindOf(slug: string) {
  const kind = kindBySlug(slug);
  if (!kind) throw data("There is nothing at this address.", { status: 404 });
  return kind;
}

const schemaFor = (missing: string) =>
  z.discriminatedUnion("do", [
    z.object({
      do: z.literal("add"),
      address: required(missing).max(LIMITS.webAddressLength, "This address is too long."),
    }),
    z.object({
      do: z.literal("empty"),
      name: required("Give it a name.").max(LIMITS.nameLength, "This name is too long."),
    }),
    z.object({ do: z.literal("moveOn") }),
  ]);

const hostOf = (address: string | null) => (address ? new URL(address).host : "");

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const { kind } = kindOf(params.kind);
  const zone = await zoneOf(context);
  const all = await getSources(sql, kind);
  const { shown, ...list } = listed(new URL(request.url), all, LIMITS.sourcesPerPage);
  const counts = await countEach(
    sql,
    shown.map(({ id }) => id),
  );
  const standIns = STAND_INS[kind] ?? [];
  const ours = new Set(standIns.map(({ address }) => hostOf(address)));
  return {
    ...list,
    kind,
    sources: shown.map(({ id, name, address, readAt, problem }) => ({
      id,
      name,
      host: hostOf(address),
      items: counts.get(id) ?? 0,
      read: readAt && ago(readAt, now, zone),
      problem,
    })),
    samples: standIns
      .filter((one) => !all.some(({ address }) => hostOf(address) === hostOf(one.address)))
      .map(({ title, address }) => ({ title, address, host: hostOf(address) })),
    ahead: all.some((one) => ours.has(hostOf(one.address)))
      ? (await getSettings(sql)).standIns.ahead
      : null,
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { services, now } = at(context);
  const { kind } = kindOf(params.kind);
  const submission = await submissionOf(request, schemaFor(SOURCE_WORDS[kind]!.missing));
  if (submission.status !== "success") return data(submission.reply(), 400);
  const asked = submission.value;
  if (asked.do === "moveOn") {
    await services.database.tx(async (tx) => {
      const { ahead } = (await getSettings(tx)).standIns;
      await saveSetting(tx, "standIns", { ahead: ahead + 1 });
      for (const { id } of await getSources(tx)) await hurry(tx, "readSource", { source: id }, now);
    });
    services.wake();
    return redirect(`/library/${params.kind}`);
  }
  const added =
    asked.do === "add"
      ? await addSourceAt(services, kind, asked.address)
      : await addEmptySource(services, kind, asked.name);
  if ("problem" in added) {
    const field = asked.do === "add" ? "address" : "name";
    return data(submission.reply({ fieldErrors: { [field]: [added.problem] } }), 409);
  }
  services.wake();
  return redirect(`/library/${params.kind}/${added.id}`);
}

type Errors = Record<string, string[] | null | undefined> | null | undefined;

function NewSource({ kind, errors }: { kind: string; errors: Errors }) {
  const words = SOURCE_WORDS[kind]!;
  const { source } = itemKindOf(kind);
  return (
    <>
      <Form method="post" className="mb-4 flex max-w-[560px] items-start gap-2">
        <div className="flex-1">
          <Field
            label={`A new ${source.toLowerCase()}`}
            errors={errors?.address ?? undefined}
            hint={words.hint}
          >
            {(own) => (
              <input
                {...own}
                name="address"
                inputMode="url"
                autoComplete="off"
                placeholder="https://"
                className={INPUT}
              />
            )}
          </Field>
        </div>
        <div className="pt-[22px]">
          <Button type="submit" name="do" value="add" primary>
            Add it
          </Button>
        </div>
      </Form>
      {words.empty && (
        <Form method="post" className="mb-6 flex max-w-[560px] items-start gap-2">
          <div className="flex-1">
            <Field label={words.empty} errors={errors?.name ?? undefined}>
              {(own) => (
                <input
                  {...own}
                  name="name"
                  autoComplete="off"
                  placeholder="Name"
                  className={INPUT}
                />
              )}
            </Field>
          </div>
          <div className="pt-[22px]">
            <Button type="submit" name="do" value="empty">
              Make it
            </Button>
          </div>
        </Form>
      )}
      <FormErrors errors={errors?.[""] ?? undefined} />
    </>
  );
}

type Data = Route.ComponentProps["loaderData"];

function Samples({ samples }: Pick<Data, "samples">) {
  return (
    <section aria-label="Sites to try" className="mt-8 max-w-[720px]">
      <h2 className="mb-1 text-lead">Sites to try</h2>
      <p className="mb-2 text-small text-ink-2">
        They ship with Septima and need no network; every few days they have something new.
      </p>
      <ul className="divide-y border-y">
        {samples.map(({ title, address, host }) => (
          <li key={address} className="flex items-center gap-3 py-1.5">
            <span className="flex-1">
              {title} <span className="text-small text-ink-3">{host}</span>
            </span>
            <Form method="post">
              <input type="hidden" name="address" value={address} />
              <Button type="submit" name="do" value="add" aria-label={`Add it: ${title}`}>
                Add it
              </Button>
            </Form>
          </li>
        ))}
      </ul>
    </section>
  );
}

export default function Sources({ loaderData, actionData }: Route.ComponentProps) {
  const { kind, sources, search, page, pages, samples, ahead } = loaderData;
  const { sources: title } = itemKindOf(kind);
  const plural = title.toLowerCase();
  return (
    <Page>
      <PageTitle title={title} about={SOURCE_WORDS[kind]!.about}>
        {(pages > 1 || search) && (
          <SearchForm label={`Search ${plural}`} hint="Search by name" search={search} />
        )}
      </PageTitle>
      <NewSource key={kind} kind={kind} errors={actionData?.error} />
      <Listing
        list={{ search, page, pages }}
        empty={sources.length === 0}
        nothing={
          <Empty title={`No ${plural} yet`}>Write an address above. It is looked at at once.</Empty>
        }
      >
        <Table
          label={title}
          rows={sources}
          keyOf={(row) => row.id}
          columns={[
            {
              title: "Name",
              cell: (row) => (
                <Link to={row.id} className="font-semibold hover:underline">
                  {row.name}
                </Link>
              ),
            },
            {
              title: "Site",
              cell: (row) => <span className="text-ink-2">{row.host || "from files"}</span>,
            },
            { title: "Items", right: true, cell: (row) => count(row.items) },
            {
              title: "Read",
              cell: (row) => row.read ?? (row.host ? "in a moment" : ""),
            },
            {
              title: "",
              cell: (row) => row.problem && <Chip tone="wrong">cannot be read</Chip>,
            },
          ]}
        />
      </Listing>
      {samples.length > 0 && <Samples samples={samples} />}
      {ahead !== null && (
        <Form method="post" className="mt-8 flex items-center gap-3">
          <p className="text-small text-ink-2">
            The time of the sites that ship with Septima is{" "}
            {ahead === 0 ? "as it is here" : `${counted(ahead, "day")} ahead`}.
          </p>
          <Button type="submit" name="do" value="moveOn">
            Move it on by a day
          </Button>
        </Form>
      )}
    </Page>
  );
}
