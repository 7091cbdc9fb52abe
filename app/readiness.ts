/** How far a campaign is: the marks on its rooms. */
import type { RouterContextProvider } from "react-router";
import type { EmailDocument } from "#core/document/index.ts";
import type { Finding } from "#core/kinds/kind.ts";
import { readersOf } from "#server/campaigns/draft.ts";
import { type Examined, examine } from "#server/campaigns/findings.ts";
import { type Wall, wallOf } from "#server/campaigns/wall.ts";
import { missingApprovals } from "#server/reviews/deciding.ts";
import type { Campaign } from "#server/store/campaigns.ts";
import type { AudienceCount } from "#server/store/readers.ts";
import { isStopped, marksOf, type Readiness } from "./marks.ts";
import { at, once } from "./request.ts";

type Context = Readonly<RouterContextProvider>;

export interface CampaignStanding {
  readonly doc: EmailDocument;
  readonly findings: readonly Finding[];
  readonly audience: AudienceCount;
  readonly marks: Readiness;
}

/** The marks of a campaign that is being sent, or has been. */
export const BEGUN: Readiness = {
  ...marksOf([], true),
  readers: "ready",
  schedule: "ready",
  results: "ready",
};

/** A campaign's email with what the checks find, looked at once for the frame and the room in it. */
export const examinedOf = async (context: Context, campaign: Campaign): Promise<Examined> =>
  (await once(context, `email of ${campaign.id}`, () => examine(at(context).services, campaign)))!;

/** The versions of a campaign's email that its readers get. */
export const wallFor = (context: Context, campaign: Campaign): Promise<Wall> =>
  once(context, `wall of ${campaign.id}`, async () =>
    wallOf(at(context).services, campaign, await examinedOf(context, campaign)),
  );

/** Everything the rooms' marks are made from. For loaders: it is asked once in a request. */
export const standingOf = (context: Context, campaign: Campaign): Promise<CampaignStanding> =>
  once(context, `standing of ${campaign.id}`, async () => standing(context, campaign));

/** Whose approval is asked for and missing, by their names. */
export const missingFor = (context: Context, campaign: Campaign): Promise<readonly string[]> =>
  once(context, `approvals of ${campaign.id}`, async () =>
    missingApprovals(at(context).services, campaign, await examinedOf(context, campaign)),
  );

/** Whether all there is to see of what anybody gets has been looked at, and approved by those who are asked. */
async function isProofed(context: Context, campaign: Campaign): Promise<boolean> {
  return (
    (await missingFor(context, campaign)).length === 0 && (await isLookedAt(context, campaign))
  );
}

/** Whether somebody has looked at all there is to see of what anybody gets. */
async function isLookedAt(context: Context, campaign: Campaign): Promise<boolean> {
  const { versions, unseen } = await wallFor(context, campaign);
  return versions.length > 0 && unseen.length === 0;
}

async function standing(context: Context, campaign: Campaign): Promise<CampaignStanding> {
  const { stored, findings } = await examinedOf(context, campaign);
  const audience = await readersOf(at(context).services, campaign);
  return {
    doc: stored.doc,
    findings,
    audience,
    marks: {
      ...marksOf(findings, isStopped(findings) ? false : await isProofed(context, campaign)),
      readers: audience.readers > 0 ? "ready" : "open",
      schedule: campaign.state === "draft" ? "open" : "ready",
      results: campaign.state === "sent" || campaign.state === "sending" ? "ready" : "open",
    },
  };
}
