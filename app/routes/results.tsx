import { Link } from "react-router";
import { listCampaigns } from "#server/store/campaigns.ts";
import { measuresOf } from "#server/store/results.ts";
import { at, zoneOf } from "../request.ts";
import { Empty, Page, PageTitle } from "../ui/page.tsx";
import { Table } from "../ui/table.tsx";
import { count, dayAndTime, percent } from "../ui/words.ts";
import type { Route } from "./+types/results.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Results · Septima" }];

export async function loader({ context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const zone = await zoneOf(context);
  const sent = (await listCampaigns(sql)).filter(
    (c) => c.state === "sent" || c.state === "sending",
  );
  return {
    campaigns: await Promise.all(
      sent.map(async (campaign) => ({
        id: campaign.id,
        name: campaign.name,
        sent: dayAndTime(campaign.sendAt!, zone),
        measures: await measuresOf(sql, campaign.launchId!),
      })),
    ),
  };
}

type Row = Route.ComponentProps["loaderData"]["campaigns"][number];
const figure = (title: string, value: (row: Row) => string) => ({
  title,
  right: true,
  cell: (row: Row) => <span className="font-display text-title">{value(row)}</span>,
});

export default function Results({ loaderData }: Route.ComponentProps) {
  return (
    <Page>
      <PageTitle title="Results" about="What came of the emails that were sent." />
      {loaderData.campaigns.length === 0 ? (
        <Empty title="Nothing has been sent yet">
          Once an email has gone out, how it was read stands here.
        </Empty>
      ) : (
        <Table
          label="Results"
          rows={loaderData.campaigns}
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
    </Page>
  );
}
