/** Feeds: where items for emails come from, how each is, and a new one. */
import { data, Link, redirect } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import { addFeed } from "#server/sources/adding.ts";
import { STAND_IN_PAGES } from "#server/standins/feeds.ts";
import { hurry } from "#server/store/jobs.ts";
import { getSettings, saveSetting } from "#server/store/settings.ts";
import { countEach, getSources } from "#server/store/sources.ts";
import { submissionOf } from "../form.ts";
import { at, listed, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Field, FormErrors, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Empty, Listing, Page, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { ago, count } from "../ui/words.ts";
import type { Route } from "./+types/library.feeds.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Feeds · Septima" }];

const schema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("add"),
    address: required("Write the address of a feed, or of a page that has one.").max(
      LIMITS.webAddressLength,
      "This address is too long.",
    ),
  }),
  z.object({ do: z.literal("moveOn") }),
]);

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const zone = await zoneOf(context);
  const all = await getSources(sql);
  const { shown, ...list } = listed(new URL(request.url), all, LIMITS.sourcesPerPage);
  const counts = await countEach(
    sql,
    shown.map(({ id }) => id),
  );
  const ours = new Set(STAND_IN_PAGES.map(({ address }) => new URL(address).host));
  return {
    ...list,
    feeds: shown.map(({ id, name, address, readAt, problem }) => ({
      id,
      name,
      host: new URL(address).host,
      items: counts.get(id) ?? 0,
      read: readAt && ago(readAt, now, zone),
      problem,
    })),
    samples: STAND_IN_PAGES.filter(
      ({ address }) => !all.some((one) => new URL(one.address).host === new URL(address).host),
    ),
    ahead: all.some((one) => ours.has(new URL(one.address).host))
      ? (await getSettings(sql)).standIns.ahead
      : null,
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const { sql, services, now } = at(context);
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  if (submission.value.do === "moveOn") {
    const { ahead } = (await getSettings(sql)).standIns;
    await saveSetting(sql, "standIns", { ahead: ahead + 1 });
    await services.database.tx(async (tx) => {
      for (const { id } of await getSources(tx)) await hurry(tx, "readSource", { source: id }, now);
    });
    services.wake();
    return redirect("/library/feeds");
  }
  const added = await addFeed(services, submission.value.address);
  if ("problem" in added) {
    return data(submission.reply({ fieldErrors: { address: [added.problem] } }), 409);
  }
  services.wake();
  return redirect(`/library/feeds/${added.id}`);
}

export default function Feeds({ loaderData, actionData }: Route.ComponentProps) {
  const { feeds, search, page, pages, samples, ahead } = loaderData;
  return (
    <Page>
      <PageTitle
        title="Feeds"
        about="Sites whose articles come into emails: they are read every hour, and the last ones are kept."
      >
        {(pages > 1 || search) && (
          <SearchForm label="Search feeds" hint="Search by name" search={search} />
        )}
      </PageTitle>
      <Form method="post" className="mb-6 flex max-w-[560px] items-start gap-2">
        <div className="flex-1">
          <Field
            label="A new feed"
            errors={actionData?.error?.address}
            hint="The address of an RSS, Atom or JSON Feed, or of a page that has one."
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
      <FormErrors errors={actionData?.error?.[""]} />
      <Listing
        list={{ search, page, pages }}
        empty={feeds.length === 0}
        nothing={
          <Empty title="No feeds yet">Write an address above. It is looked at at once.</Empty>
        }
      >
        <Table
          label="Feeds"
          rows={feeds}
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
            { title: "Site", cell: (row) => <span className="text-ink-2">{row.host}</span> },
            { title: "Items", right: true, cell: (row) => count(row.items) },
            { title: "Read", cell: (row) => row.read ?? "in a moment" },
            {
              title: "",
              cell: (row) => row.problem && <Chip tone="wrong">cannot be read</Chip>,
            },
          ]}
        />
      </Listing>
      {samples.length > 0 && (
        <section aria-label="Sites to try" className="mt-8 max-w-[720px]">
          <h2 className="mb-1 text-lead">Sites to try</h2>
          <p className="mb-2 text-small text-ink-2">
            They ship with Septima and need no network; every few days they have something new.
          </p>
          <ul className="divide-y border-y">
            {samples.map(({ title, address }) => (
              <li key={address} className="flex items-center gap-3 py-1.5">
                <span className="flex-1">
                  {title} <span className="text-small text-ink-3">{new URL(address).host}</span>
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
      )}
      {ahead !== null && (
        <Form method="post" className="mt-8 flex items-center gap-3">
          <p className="text-small text-ink-2">
            The time of the sites that ship with Septima is{" "}
            {ahead === 0
              ? "as it is here"
              : `${count(ahead)} ${ahead === 1 ? "day" : "days"} ahead`}
            .
          </p>
          <Button type="submit" name="do" value="moveOn">
            Move it on by a day
          </Button>
        </Form>
      )}
    </Page>
  );
}
