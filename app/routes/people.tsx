import { LIMITS } from "#core/limits.ts";
import { describe } from "#core/rules/index.ts";
import { people as peopleNow } from "#server/people.ts";
import { countMailable, countSources, getLists } from "#server/store/audience.ts";
import { pageOfContacts } from "#server/store/contacts.ts";
import { at, pageNumber } from "../request.ts";
import { Chip, Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { count, people, percent } from "../ui/words.ts";
import type { Route } from "./+types/people.ts";

export const meta = () => [{ title: "People · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const url = new URL(request.url);
  const search = (url.searchParams.get("search") ?? "").slice(0, 200);
  const page = pageNumber(url);
  const who = await peopleNow(sql, services.clock);
  const { contacts, total } = await pageOfContacts(sql, search, page);
  const lists = await getLists(sql);
  const reach = await countSources(
    sql,
    who.segments.map(({ id }) => ({ kind: "segment" as const, id })),
    who,
  );
  return {
    search,
    page,
    pages: Math.max(1, Math.ceil(total / LIMITS.contactsPerPage)),
    total,
    mailable: await countMailable(sql),
    fields: [...who.fields.values()].map(({ id, label }) => ({ id, label })),
    contacts: contacts.map((contact) => ({
      ...contact,
      values: Object.fromEntries(
        Object.entries(contact.values).map(([key, value]) => [key, String(value)]),
      ),
    })),
    lists,
    segments: who.segments.map((segment, i) => ({
      id: segment.id,
      name: segment.name,
      words: describe(segment.rule, who.fields),
      reach: reach[i]!,
    })),
  };
}

const SHOWN = ["first_name", "last_name", "site", "membership", "language"];

export default function People({ loaderData }: Route.ComponentProps) {
  const { contacts, fields, lists, segments, search, page, pages, total, mailable } = loaderData;
  const shown = fields.filter((field) => SHOWN.includes(field.id));
  const columns = shown.length ? shown : fields.slice(0, 5);
  return (
    <Page wide>
      <PageTitle title="People" about={`${people(mailable)} can be mailed.`}>
        <SearchForm label="Search contacts" hint="Name, address, anything" search={search} />
      </PageTitle>
      <div className="grid grid-cols-[1fr_320px] gap-11">
        <section aria-label="Contacts">
          {contacts.length === 0 ? (
            <Empty title="Nobody is like that">Try fewer letters.</Empty>
          ) : (
            <Table
              label="Contacts"
              rows={contacts}
              keyOf={(row) => row.id}
              columns={[
                {
                  title: "Email address",
                  cell: (row) => (
                    <span className="flex items-center gap-2">
                      <span className="font-semibold break-all">{row.email}</span>
                      {row.heldBack && <Chip tone="wrong">{row.heldBack}</Chip>}
                    </span>
                  ),
                },
                ...columns.map((field) => ({
                  title: field.label,
                  cell: (row: (typeof contacts)[number]) => row.values[field.id] ?? "–",
                })),
              ]}
            />
          )}
          <Pager
            page={page}
            pages={pages}
            hrefOf={(n) => `?${new URLSearchParams({ search, page: String(n) })}`}
          />
          <p className="mt-2 text-[12px] text-ink-3">{people(total)} found</p>
        </section>
        <aside className="flex flex-col gap-7">
          <section aria-label="Lists">
            <h2 className="mb-1 text-[20px]">Lists</h2>
            {lists.map((list) => (
              <div key={list.id} className="flex items-baseline justify-between border-b py-2">
                <span className="font-semibold">{list.name}</span>
                <span className="font-display text-[17px]">{count(list.people)}</span>
              </div>
            ))}
            {lists.length === 0 && <p className="text-ink-3">No lists yet.</p>}
          </section>
          <section aria-label="Segments">
            <h2 className="mb-1 text-[20px]">Segments</h2>
            {segments.map((segment) => (
              <div key={segment.id} className="border-b py-2">
                <div className="flex items-baseline justify-between">
                  <span className="font-semibold">{segment.name}</span>
                  <span className="font-display text-[17px]">{count(segment.reach)}</span>
                </div>
                <p className="text-[12px] text-ink-2">{segment.words}</p>
                <p className="text-[11.5px] text-ink-3">
                  {percent(segment.reach, mailable)} of all who can be mailed
                </p>
              </div>
            ))}
            {segments.length === 0 && <p className="text-ink-3">No segments yet.</p>}
          </section>
        </aside>
      </div>
    </Page>
  );
}
