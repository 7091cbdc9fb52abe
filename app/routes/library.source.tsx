/** One source: how it is, and its items. */
import { RefreshCw } from "lucide-react";
import { data, redirect, useSubmit } from "react-router";
import { z } from "zod";
import { FeedError } from "#core/items/feeds/index.ts";
import { itemKindOf, kindBySlug, said } from "#core/items/index.ts";
import { readOffers } from "#core/items/products/index.ts";
import { readDeeds } from "#core/items/shop-message.ts";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import { lookAtStock } from "#server/sources/adding.ts";
import { takeDeeds } from "#server/sources/shop.ts";
import { SHOP_STOCK_ADDRESS } from "#server/standins/shop.ts";
import { countItems, searchItems } from "#server/store/items.ts";
import { hurry, isAtWork } from "#server/store/jobs.ts";
import { getSource, removeSource, renameSource, setStockAddress } from "#server/store/sources.ts";
import { submissionOf } from "../form.ts";
import { ItemView } from "../library/item-row.tsx";
import { itemWords } from "../library/item-words.ts";
import { type Shop, ShopPanel } from "../library/shop-panel.tsx";
import { UploadFile } from "../people/import/upload-file.tsx";
import { at, paged, searchIn, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Confirm } from "../ui/confirm.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Empty, Listing, Page, PageTitle } from "../ui/page.tsx";
import { usePolling } from "../ui/polling.ts";
import { SearchForm } from "../ui/search.tsx";
import { ago, count, counted } from "../ui/words.ts";
import type { Route } from "./+types/library.source.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ params }: Route.MetaArgs) => [
  { title: `${kindBySlug(params.kind)?.source ?? "Library"} · Septima` },
];

/** How long between two looks while it is read, ms. */
const ASK_MS = 700;

const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("rename"), name: required("Give it a name.").max(LIMITS.nameLength) }),
  z.object({
    do: z.literal("stock"),
    stock: z.string().trim().max(LIMITS.webAddressLength, "This address is too long.").default(""),
  }),
  z.object({
    do: z.literal("deeds"),
    deeds: z
      .instanceof(File, { error: "Choose a file." })
      .refine(({ size }) => size > 0, "There is nothing in this file.")
      .refine(({ size }) => size <= LIMITS.shopBytes, "This file is too large."),
  }),
  z.object({ do: z.literal("read") }),
  z.object({ do: z.literal("remove") }),
]);

async function sourceOf(
  context: Route.LoaderArgs["context"],
  { kind, source }: { kind: string; source: string },
) {
  const found = await getSource(at(context).sql, source);
  if (!found || found.kind !== kindBySlug(kind)?.kind) {
    throw data("What was here is gone.", { status: 404 });
  }
  return found;
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { sql, now, services } = at(context);
  const source = await sourceOf(context, params);
  const { id, kind, name, address, home, readAt, changedAt, problem } = source;
  const zone = await zoneOf(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const found = await countItems(sql, id, search);
  const { page, pages, from } = paged(url, found, LIMITS.itemsPerPage);
  const items = await searchItems(sql, id, { search, from, limit: LIMITS.itemsPerPage });
  const shop: Shop | null =
    kind === "catalogue"
      ? {
          stock: source.stockAddress ?? "",
          offered:
            address && new URL(address).href.startsWith(new URL(SHOP_STOCK_ADDRESS).origin)
              ? SHOP_STOCK_ADDRESS
              : null,
          hook: `${services.config.publicAddress}/shop/${id}`,
          secret: source.secret ?? "",
        }
      : null;
  return {
    kind,
    source: {
      id,
      name,
      address,
      home,
      problem,
      read: readAt && ago(readAt, now, zone),
      changed: changedAt && ago(changedAt, now, zone),
    },
    shop,
    reading: await isAtWork(sql, "readSource", { source: id }, now),
    search,
    page,
    pages,
    found,
    all: search ? await countItems(sql, id) : found,
    items: items.map((item) => ({
      id: item.id,
      title: item.title,
      link: said(item, "link"),
      summary: said(item, "summary"),
      about: itemWords({ id, kind }, item, now, zone),
      picture: item.picture?.file ?? null,
    })),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { sql, services, now } = at(context);
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { id } = await sourceOf(context, params);
  const asked = submission.value;
  const readSoon = async () => {
    await services.database.tx((tx) => hurry(tx, "readSource", { source: id }, now));
    services.wake();
  };
  switch (asked.do) {
    case "rename":
      await renameSource(sql, id, asked.name);
      return submission.reply();
    case "stock": {
      if (asked.stock === "") {
        await setStockAddress(sql, id, null);
        return submission.reply();
      }
      const looked = await lookAtStock(services, asked.stock, ({ bytes, contentType }) =>
        readOffers(bytes, contentType),
      );
      if ("problem" in looked) {
        return data(submission.reply({ fieldErrors: { stock: [looked.problem] } }), 409);
      }
      await setStockAddress(sql, id, looked.address);
      await readSoon();
      return submission.reply();
    }
    case "deeds": {
      const bytes = new Uint8Array(await asked.deeds.arrayBuffer());
      try {
        const { deeds, leftOut } = readDeeds(bytes, now);
        const { taken, told } = await takeDeeds(services, id, deeds);
        return data({ ...submission.reply(), taken: deedWords(taken, told, leftOut) });
      } catch (error) {
        if (!(error instanceof FeedError)) throw error;
        return data(submission.reply({ fieldErrors: { deeds: [error.message] } }), 409);
      }
    }
    case "read":
      await readSoon();
      return submission.reply();
    case "remove":
      await services.database.tx((tx) => removeSource(tx, id));
      return redirect(`/library/${params.kind}`);
  }
}

/** What came of a file of orders and views. */
function deedWords(taken: number, told: number, leftOut: number): string {
  const others = told - taken;
  return [
    `${count(taken)} imported.`,
    others > 0 && `${count(others)} of people who are no contacts.`,
    leftOut > 0 && `${counted(leftOut, "row says", "rows say")} too little.`,
  ]
    .filter(Boolean)
    .join(" ");
}

type Data = Route.ComponentProps["loaderData"];

/** Where it comes from, and when it was read. */
function About({ source, reading }: Pick<Data, "source" | "reading">) {
  const { home, address, read, changed } = source;
  const from = home || address;
  return (
    <>
      {from ? (
        <a href={from} rel="noreferrer" target="_blank" className="underline">
          {from}
        </a>
      ) : (
        "Filled from files"
      )}
      {" · "}
      <span role="status">
        {reading
          ? "being read …"
          : read
            ? `read ${read}${changed ? `, something new ${changed}` : ""}`
            : "not read yet"}
      </span>
    </>
  );
}

/** What it is called, and how to be rid of it. */
function Own({ source, all, errors }: { source: Data["source"]; all: number; errors?: string[] }) {
  const submit = useSubmit();
  return (
    <>
      <Form method="post" className="flex flex-col gap-2" key={source.name}>
        <Field label="Name" errors={errors}>
          {(own) => <input {...own} name="name" defaultValue={source.name} className={INPUT} />}
        </Field>
        <div>
          <Button type="submit" name="do" value="rename">
            Save
          </Button>
        </div>
      </Form>
      <div className="border-t pt-4">
        <Confirm
          title={`Delete “${source.name}”?`}
          about={`Its ${counted(all, "item goes", "items go")} with it, and this cannot be undone. Emails that have gone out keep what was in them.`}
          act="Delete it"
          onAct={() => void submit({ do: "remove" }, { method: "post" })}
          trigger={<Button>Delete it…</Button>}
        />
      </div>
    </>
  );
}

export default function SourcePage({ loaderData, actionData }: Route.ComponentProps) {
  const { kind, source, shop, reading, items, search, page, pages, found, all } = loaderData;
  const { item } = itemKindOf(kind);
  const errors = actionData?.error;
  usePolling(reading ? ASK_MS : null);
  return (
    <Page wide>
      <PageTitle title={source.name} about={<About source={source} reading={reading} />}>
        <SearchForm label="Search items" hint="Words, names, categories" search={search} />
        {kind !== "feed" && !source.address && (
          <UploadFile into={source.id} label="Import a file" />
        )}
        {(source.address || shop?.stock) && (
          <Form method="post">
            <Button type="submit" name="do" value="read" disabled={reading}>
              <RefreshCw className="size-3.5" /> Read it now
            </Button>
          </Form>
        )}
      </PageTitle>
      {source.problem && (
        <p className="mb-4 rounded-md bg-bench px-3 py-2">
          <Chip tone="wrong">cannot be read</Chip> {source.problem} What it had before is kept, and
          it is tried again by itself.
        </p>
      )}
      <div className="grid grid-cols-[1fr_300px] gap-12 max-md:grid-cols-1">
        <section aria-label="Items">
          <Listing
            list={{ search, page, pages }}
            empty={items.length === 0}
            nothing={
              <Empty title={`No ${item}s yet`}>
                {reading
                  ? "They come in a moment."
                  : source.address
                    ? "It is there, and has nothing in it."
                    : "Import a file: what its columns mean is asked next."}
              </Empty>
            }
          >
            <p className="mb-1 text-small text-ink-2">
              {search
                ? `${count(found)} of ${count(all)} ${item}s`
                : `${count(all)} ${item}${all === 1 ? "" : "s"}, the ${kind === "calendar" ? "latest" : "newest"} first`}
            </p>
            <ul>
              {items.map((one) => (
                <ItemView key={one.id} item={one} />
              ))}
            </ul>
          </Listing>
        </section>
        <div className="flex flex-col gap-4">
          {shop && (
            <ShopPanel
              key={shop.stock}
              shop={shop}
              errors={errors}
              taken={actionData && "taken" in actionData ? String(actionData.taken) : null}
            />
          )}
          <Own source={source} all={all} errors={errors?.name ?? undefined} />
        </div>
      </div>
    </Page>
  );
}
