import { Link } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { pageOfMessages } from "#server/store/outbox.ts";
import { at, pageNumber, searchIn, zoneOf } from "../request.ts";
import { Chip, Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { ago, count } from "../ui/words.ts";
import type { Route } from "./+types/outbox.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Outbox · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, now, services } = at(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const page = pageNumber(url);
  const { messages, total } = await pageOfMessages(sql, search, page);
  const zone = await zoneOf(context);
  return {
    search,
    page,
    pages: Math.max(1, Math.ceil(total / LIMITS.outboxPerPage)),
    total,
    elsewhere: services.config.smtp !== null,
    messages: messages.map(({ at: when, ...message }) => ({
      ...message,
      when: ago(when, now, zone),
    })),
  };
}

const OUTCOMES = {
  accepted: null,
  refused: <Chip tone="wrong">refused</Chip>,
  deferred: <Chip tone="some">try later</Chip>,
};

export default function Outbox({ loaderData }: Route.ComponentProps) {
  const { messages, search, page, pages, total, elsewhere } = loaderData;
  return (
    <Page>
      <PageTitle
        title="Outbox"
        about={
          elsewhere
            ? "Messages go to another mail service; what the outbox got before stands here."
            : "The mail service that ships with Septima: it delivers nowhere, and keeps what it was handed."
        }
      >
        <SearchForm label="Search messages" hint="Address or subject" search={search} />
      </PageTitle>
      {messages.length === 0 ? (
        <Empty title={search ? "No matches" : "No message yet"}>
          Send a test from a campaign’s Proof room, and it will arrive here.
        </Empty>
      ) : (
        <Table
          label="Messages"
          rows={messages}
          keyOf={(row) => row.id}
          columns={[
            { title: "To", cell: (row) => <span className="break-all">{row.to}</span> },
            {
              title: "Subject",
              cell: (row) => (
                <span className="flex items-center gap-2">
                  {row.outcome === "accepted" ? (
                    <Link className="font-semibold hover:text-plum" to={`/outbox/${row.id}`}>
                      {row.subject || "(no subject)"}
                    </Link>
                  ) : (
                    <span className="text-ink-2">{row.subject}</span>
                  )}
                  {OUTCOMES[row.outcome]}
                </span>
              ),
            },
            { title: "From", cell: (row) => <span className="text-ink-2">{row.from}</span> },
            { title: "When", cell: (row) => row.when },
          ]}
        />
      )}
      <Pager
        page={page}
        pages={pages}
        hrefOf={(n) => `?${new URLSearchParams({ search, page: String(n) })}`}
      />
      <p className="mt-2 text-small text-ink-3">{count(total)} messages</p>
    </Page>
  );
}
