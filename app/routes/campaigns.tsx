import { data, Link, redirect } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { hideCampaign } from "#server/store/bin.ts";
import {
  archiveCampaign,
  type CampaignState,
  countCampaigns,
  getCampaign,
  listCampaigns,
} from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { listLabels, setLabels } from "#server/store/labels.ts";
import { createTemplate } from "#server/store/templates.ts";
import { RowMenu } from "../campaigns/row-menu.tsx";
import { rowSchema } from "../campaigns/row-schema.ts";
import { Look, lookOf } from "../desk/look.tsx";
import { submissionOf } from "../form.ts";
import { tellingRemoved } from "../removed.ts";
import { at, paged, zoneOf } from "../request.ts";
import { Chip, Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { named, Select } from "../ui/select.tsx";
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
  search: z.string().max(LIMITS.searchLength).catch(""),
  state: z.enum(["draft", "scheduled", "sending", "sent"]).nullable().catch(null),
  label: z.string().max(40).nullable().catch(null),
  archived: z.stringbool().catch(false),
});

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const url = new URL(request.url);
  const asked = (name: string) => url.searchParams.get(name) || null;
  const query = querySchema.parse({
    search: asked("search") ?? "",
    state: asked("state"),
    label: asked("label"),
    archived: asked("archived") ?? "no",
  });
  const zone = await zoneOf(context);
  const { state, ...rest } = query;
  const filter = { ...rest, states: state ? [state] : [] };
  const limit = LIMITS.campaignsPerPage;
  const { page, pages, from } = paged(url, await countCampaigns(sql, filter), limit);
  const found = await listCampaigns(sql, { ...filter, from, limit });
  const labels = await listLabels(sql);
  return {
    query,
    page,
    pages,
    labels,
    campaigns: found.map((campaign) => ({
      id: campaign.id,
      look: lookOf(campaign),
      name: campaign.name,
      state: campaign.state,
      archived: campaign.archived,
      labels: campaign.labels,
      changed: ago(campaign.updatedAt, now, zone),
      when: campaign.sendAt ? dayAndTime(campaign.sendAt, zone) : "–",
    })),
  };
}

const BUSY = "It is on its way: cancel its schedule, or wait until it has been sent.";

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, rowSchema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { services, sql, now } = at(context);
  const asked = submission.value;
  const campaign = await getCampaign(sql, asked.campaign);
  if (!campaign) {
    return data(submission.reply({ formErrors: ["This campaign is gone already."] }), 404);
  }
  switch (asked.do) {
    case "delete": {
      const label = `The campaign “${campaign.name}”`;
      const removed = await services.database.tx((tx) => hideCampaign(tx, campaign.id, label, now));
      if (removed) {
        const url = new URL(request.url);
        return tellingRemoved(`${url.pathname}${url.search}`, removed);
      }
      return data(submission.reply({ formErrors: [BUSY] }), 409);
    }
    case "archive":
    case "restore":
      if (!(await archiveCampaign(sql, campaign.id, asked.do === "archive" ? now : null))) {
        return data(submission.reply({ formErrors: [BUSY] }), 409);
      }
      break;
    case "template": {
      const { name, about, category } = asked;
      const stored = await loadDocument(sql, campaign.documentId);
      if (!stored || stored.trouble) {
        const problem = stored?.trouble?.reason ?? "This campaign is gone already.";
        return data(submission.reply({ formErrors: [problem] }), 409);
      }
      await createTemplate(sql, { name, about, category, doc: stored.doc }, now);
      return redirect(`/templates?${new URLSearchParams({ search: name })}`);
    }
    case "label":
      await services.database.tx((tx) => setLabels(tx, campaign.id, asked.labels));
  }
  return data(submission.reply({ resetForm: true }));
}

export default function Campaigns({ loaderData, actionData }: Route.ComponentProps) {
  const { campaigns, query, labels, page, pages } = loaderData;
  const narrowed = query.search || query.state || query.label || query.archived;
  const wrong = actionData?.error?.[""] ?? null;
  return (
    <Page>
      <PageTitle title="Campaigns">
        <SearchForm label="Search campaigns" hint="Search by name" search={query.search}>
          <Select
            name="state"
            initial={query.state ?? ""}
            none="Every state"
            options={Object.entries(STATES).map(([value, { label }]) => ({ value, label }))}
            label="State"
            className="w-36"
          />
          {labels.length > 0 && (
            <Select
              name="label"
              initial={query.label ?? ""}
              none="Every label"
              options={named(labels)}
              label="Label"
              className="w-36"
            />
          )}
          <Select
            name="archived"
            initial={query.archived ? "yes" : ""}
            none="Not archived"
            options={[{ value: "yes", label: "Archived" }]}
            label="Archived or not"
            className="w-36"
          />
        </SearchForm>
      </PageTitle>
      {wrong && (
        <p role="alert" className="mb-3 font-semibold text-rust">
          {wrong.join(" ")}
        </p>
      )}
      {campaigns.length === 0 ? (
        <Empty title={narrowed ? "No matches" : "No campaign yet"}>
          {narrowed ? (
            <Link to="/campaigns" className="link">
              Show all campaigns
            </Link>
          ) : (
            <Link to="/campaigns/new" className="link">
              Start a campaign
            </Link>
          )}
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
                <span className="flex flex-wrap items-center gap-2.5">
                  <Look src={row.look} scale={0.085} height={38} framed={false} />
                  <Link
                    className="text-body font-semibold hover:text-plum"
                    to={`/campaigns/${row.id}${row.state === "sent" ? "/results" : ""}`}
                  >
                    {row.name}
                  </Link>
                  {row.labels.map(({ id, name }) => (
                    <Link
                      key={id}
                      to={`/campaigns?label=${id}`}
                      className="rounded-full border border-line-strong px-2 text-fine text-ink-2 hover:border-plum hover:text-plum"
                    >
                      {name}
                    </Link>
                  ))}
                </span>
              ),
            },
            {
              title: "State",
              cell: (row) => <Chip tone={STATES[row.state].tone}>{STATES[row.state].label}</Chip>,
            },
            { title: "Scheduled or sent", cell: (row) => row.when },
            { title: "Changed", cell: (row) => row.changed },
            { title: "", right: true, cell: (row) => <RowMenu campaign={row} known={labels} /> },
          ]}
        />
      )}
      <Pager page={page} pages={pages} hrefOf={pageLink(query)} />
    </Page>
  );
}

/** The address of another page of the same list. */
const pageLink =
  ({ search, state, label, archived }: z.infer<typeof querySchema>) =>
  (page: number) =>
    `/campaigns?${new URLSearchParams({
      search,
      state: state ?? "",
      label: label ?? "",
      archived: archived ? "yes" : "",
      page: String(page),
    })}`;
