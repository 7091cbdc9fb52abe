import { Link } from "react-router";
import { z } from "zod";
import { type CampaignState, listCampaigns } from "#server/store/campaigns.ts";
import { at, zoneOf } from "../request.ts";
import { INPUT } from "../ui/field.tsx";
import { Chip, Empty, Page, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { ago, dayAndTime } from "../ui/words.ts";
import type { Route } from "./+types/campaigns.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Campaigns · Septima" }];

const STATES: Record<CampaignState, { label: string; tone: "plain" | "some" | "done" }> = {
  draft: { label: "draft", tone: "plain" },
  scheduled: { label: "scheduled", tone: "done" },
  sending: { label: "being sent", tone: "done" },
  sent: { label: "sent", tone: "done" },
};

const querySchema = z.object({
  search: z.string().max(200).catch(""),
  state: z.enum(["draft", "scheduled", "sending", "sent"]).nullable().catch(null),
});

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const params = new URL(request.url).searchParams;
  const query = querySchema.parse({
    search: params.get("search") ?? "",
    state: params.get("state") || null,
  });
  const zone = await zoneOf(context);
  const campaigns = await listCampaigns(sql, query);
  return {
    query,
    campaigns: campaigns.map((campaign) => ({
      id: campaign.id,
      name: campaign.name,
      state: campaign.state,
      changed: ago(campaign.updatedAt, now, zone),
      when: campaign.sendAt ? dayAndTime(campaign.sendAt, zone) : "–",
    })),
  };
}

export default function Campaigns({ loaderData }: Route.ComponentProps) {
  const { campaigns, query } = loaderData;
  return (
    <Page>
      <PageTitle title="Campaigns">
        <SearchForm label="Search campaigns" hint="Search by name" search={query.search}>
          <label>
            <span className="sr-only">State</span>
            <select name="state" defaultValue={query.state ?? ""} className={INPUT}>
              <option value="">Every state</option>
              {Object.entries(STATES).map(([state, { label }]) => (
                <option key={state} value={state}>
                  {label}
                </option>
              ))}
            </select>
          </label>
        </SearchForm>
      </PageTitle>
      {campaigns.length === 0 ? (
        <Empty title={query.search || query.state ? "No campaign is like that" : "No campaign yet"}>
          <Link to="/campaigns/new" className="link">
            Start a campaign
          </Link>
        </Empty>
      ) : (
        <Table
          label="Campaigns"
          rows={campaigns}
          keyOf={(row) => row.id}
          columns={[
            {
              title: "Campaign",
              cell: (row) => (
                <Link
                  className="text-[14px] font-semibold hover:text-plum"
                  to={`/campaigns/${row.id}${row.state === "sent" ? "/results" : ""}`}
                >
                  {row.name}
                </Link>
              ),
            },
            {
              title: "State",
              cell: (row) => <Chip tone={STATES[row.state].tone}>{STATES[row.state].label}</Chip>,
            },
            { title: "Leaves, or left", cell: (row) => row.when },
            { title: "Changed", cell: (row) => row.changed },
            {
              title: "",
              right: true,
              cell: (row) => (
                <Link className="link" to={`/campaigns/new?from=${row.id}`}>
                  Start another from it
                </Link>
              ),
            },
          ]}
        />
      )}
    </Page>
  );
}
