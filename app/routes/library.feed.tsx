/** One feed: how it is, and its items. */
import { RefreshCw } from "lucide-react";
import { data, redirect, useSubmit } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import { hurry, isAtWork } from "#server/store/jobs.ts";
import {
  countItems,
  getSource,
  removeSource,
  renameSource,
  searchItems,
} from "#server/store/sources.ts";
import { submissionOf } from "../form.ts";
import { at, paged, searchIn, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Confirm } from "../ui/confirm.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Empty, Listing, Page, PageTitle } from "../ui/page.tsx";
import { usePolling } from "../ui/polling.ts";
import { SearchForm } from "../ui/search.tsx";
import { ago, count, day } from "../ui/words.ts";
import type { Route } from "./+types/library.feed.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Feed · Septima" }];

/** How long between two looks while it is read, ms. */
const ASK_MS = 700;

const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("rename"), name: required("Give the feed a name.") }),
  z.object({ do: z.literal("read") }),
  z.object({ do: z.literal("remove") }),
]);

async function feedOf(context: Route.LoaderArgs["context"], id: string) {
  const feed = await getSource(at(context).sql, id);
  if (!feed) throw data("This feed is gone.", { status: 404 });
  return feed;
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const { id, name, address, home, readAt, changedAt, problem } = await feedOf(
    context,
    params.feed,
  );
  const zone = await zoneOf(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const found = await countItems(sql, id, search);
  const { page, pages, from } = paged(url, found, LIMITS.itemsPerPage);
  const items = await searchItems(sql, id, { search, from, limit: LIMITS.itemsPerPage });
  return {
    feed: {
      name,
      address,
      home,
      problem,
      read: readAt && ago(readAt, now, zone),
      changed: changedAt && ago(changedAt, now, zone),
    },
    reading: await isAtWork(sql, "readSource", { source: id }, now),
    search,
    page,
    pages,
    found,
    all: search ? await countItems(sql, id) : found,
    items: items.map(({ published, picture, ...item }) => ({
      ...item,
      published: day(published, now, zone),
      picture: picture?.file ?? null,
    })),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { sql, services, now } = at(context);
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { id } = await feedOf(context, params.feed);
  switch (submission.value.do) {
    case "rename":
      await renameSource(sql, id, submission.value.name);
      return submission.reply();
    case "read":
      await services.database.tx((tx) => hurry(tx, "readSource", { source: id }, now));
      services.wake();
      return submission.reply();
    case "remove":
      await services.database.tx((tx) => removeSource(tx, id));
      return redirect("/library/feeds");
  }
}

type Shown = Route.ComponentProps["loaderData"]["items"][number];

function Item({ item }: { item: Shown }) {
  return (
    <li className="flex gap-3 border-t py-3">
      {item.picture ? (
        <img
          src={`/pictures/${item.picture}`}
          alt=""
          loading="lazy"
          className="h-[68px] w-[104px] flex-none rounded-md object-cover"
        />
      ) : (
        <div className="h-[68px] w-[104px] flex-none rounded-md bg-bench" />
      )}
      <div className="min-w-0 flex-1">
        <h3 className="text-lead">
          {item.link ? (
            <a href={item.link} rel="noreferrer" target="_blank" className="hover:underline">
              {item.title}
            </a>
          ) : (
            item.title
          )}
        </h3>
        <p className="text-small text-ink-3">
          {[item.published, item.author, ...item.categories].filter(Boolean).join(" · ")}
        </p>
        <p className="line-clamp-2 text-ink-2">{item.summary}</p>
      </div>
    </li>
  );
}

export default function Feed({ loaderData, actionData }: Route.ComponentProps) {
  const { feed, reading, items, search, page, pages, found, all } = loaderData;
  const submit = useSubmit();
  usePolling(reading ? ASK_MS : null);
  return (
    <Page wide>
      <PageTitle
        title={feed.name}
        about={
          <>
            <a
              href={feed.home || feed.address}
              rel="noreferrer"
              target="_blank"
              className="underline"
            >
              {feed.home || feed.address}
            </a>
            {" · "}
            <span role="status">
              {reading
                ? "being read …"
                : feed.read
                  ? `read ${feed.read}${feed.changed ? `, something new ${feed.changed}` : ""}`
                  : "not read yet"}
            </span>
          </>
        }
      >
        <SearchForm label="Search items" hint="Words, names, categories" search={search} />
        <Form method="post">
          <Button type="submit" name="do" value="read" disabled={reading}>
            <RefreshCw className="size-3.5" /> Read it now
          </Button>
        </Form>
      </PageTitle>
      {feed.problem && (
        <p className="mb-4 rounded-md bg-bench px-3 py-2">
          <Chip tone="wrong">cannot be read</Chip> {feed.problem} What it had before is kept, and it
          is tried again by itself.
        </p>
      )}
      <div className="grid grid-cols-[1fr_300px] gap-12 max-md:grid-cols-1">
        <section aria-label="Items">
          <Listing
            list={{ search, page, pages }}
            empty={items.length === 0}
            nothing={
              <Empty title="No items yet">
                {reading ? "They come in a moment." : "The feed is there, and has nothing in it."}
              </Empty>
            }
          >
            <p className="mb-1 text-small text-ink-2">
              {search
                ? `${count(found)} of ${count(all)} items`
                : `${count(all)} items, the newest first`}
            </p>
            <ul>
              {items.map((item) => (
                <Item key={item.id} item={item} />
              ))}
            </ul>
          </Listing>
        </section>
        <div className="flex flex-col gap-4">
          <Form method="post" className="flex flex-col gap-2" key={feed.name}>
            <Field label="Name" errors={actionData?.error?.name}>
              {(own) => <input {...own} name="name" defaultValue={feed.name} className={INPUT} />}
            </Field>
            <div>
              <Button type="submit" name="do" value="rename">
                Save
              </Button>
            </div>
          </Form>
          <div className="border-t pt-4">
            <Confirm
              title={`Delete “${feed.name}”?`}
              about={`Its ${count(all)} items go with it, and this cannot be undone. Emails keep what was put into them.`}
              act="Delete it"
              onAct={() => void submit({ do: "remove" }, { method: "post" })}
              trigger={<Button>Delete the feed</Button>}
            />
          </div>
        </div>
      </div>
    </Page>
  );
}
