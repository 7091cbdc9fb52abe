import { Link } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { countCampaigns, listCampaigns } from "#server/store/campaigns.ts";
import { measuresOfAll } from "#server/store/results.ts";
import { at, paged, searchIn, zoneOf } from "../request.ts";
import { Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { count, dayAndTime, percent } from "../ui/words.ts";
import type { Route } from "./+types/results.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Results · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const zone = await zoneOf(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const filter = { states: ["sent", "sending"] as const, search };
  const { page, pages, from } = paged(
    url,
    await countCampaigns(sql, filter),
    LIMITS.campaignsPerPage,
  );
  const limit = LIMITS.campaignsPerPage;
  const sent = await listCampaigns(sql, { ...filter, order: "sent", from, limit });
  const measures = await measuresOfAll(
    sql,
    sent.map(({ launchId }) => launchId!),
  );
  return {
    search,
    page,
    pages,
    campaigns: sent.map((campaign) => ({
      id: campaign.id,
      name: campaign.name,
      sent: dayAndTime(campaign.sendAt!, zone),
      measures: measures.get(campaign.launchId!)!,
    })),
  };
}

type Row = Route.ComponentProps["loaderData"]["campaigns"][number];
const figure = (title: string, value: (row: Row) => string) => ({
  title,
  right: true,
  cell: (row: Row) => <span className="font-display text-title">{value(row)}</span>,
});

export default function Results({ loaderData }: Route.ComponentProps) {
  const { campaigns, search, page, pages } = loaderData;
  return (
    <Page>
      <PageTitle title="Results" about="What came of the emails that were sent.">
        <SearchForm label="Search results" hint="Search by name" search={search} />
      </PageTitle>
      {campaigns.length === 0 && search ? (
        <Empty title="No matches">Try fewer letters.</Empty>
      ) : campaigns.length === 0 ? (
        <Empty title="Nothing has been sent yet">
          Once an email has been sent, how it was read stands here.
        </Empty>
      ) : (
        <Table
          label="Results"
          rows={campaigns}
          keyOf={(row) => row.id}
          columns={[
            {
              title: "Campaign",
              cell: (row) => (
                <Link className="font-semibold hover:text-plum" to={`/campaigns/${row.id}/results`}>
                  {row.name}
                </Link>
              ),
            },
            { title: "Sent", cell: (row) => row.sent },
            figure("Arrived", ({ measures: m }) => count(m.accepted)),
            figure("Bounced", ({ measures: m }) => percent(m.bounced, m.accepted + m.bounced)),
            figure("Opened", ({ measures: m }) => percent(m.opened, m.accepted)),
            figure("Clicked", ({ measures: m }) => percent(m.clicked, m.accepted)),
            figure("Unsubscribed", ({ measures: m }) => percent(m.unsubscribed, m.accepted)),
          ]}
        />
      )}
      <Pager
        page={page}
        pages={pages}
        hrefOf={(to) => `?${new URLSearchParams({ search, page: String(to) })}`}
      />
    </Page>
  );
}
