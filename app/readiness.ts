/** How far a campaign is: the marks on its rooms. */
import type { EmailDocument } from "#core/document/index.ts";
import type { Finding } from "#core/kinds/kind.ts";
import { readersOf } from "#server/campaigns/draft.ts";
import { examine } from "#server/campaigns/findings.ts";
import type { Services } from "#server/services.ts";
import type { AudienceCount } from "#server/store/audience.ts";
import type { Campaign } from "#server/store/campaigns.ts";
import { marksOf, type Readiness } from "./marks.ts";

export interface CampaignStanding {
  readonly doc: EmailDocument;
  readonly findings: readonly Finding[];
  readonly audience: AudienceCount;
  readonly marks: Readiness;
}

/** The marks of a campaign that is being sent, or has been. */
export const BEGUN: Readiness = {
  ...marksOf([]),
  readers: "ready",
  schedule: "ready",
  results: "ready",
};

/** Everything the rooms' marks are made from. */
export async function standingOf(
  services: Services,
  campaign: Campaign,
): Promise<CampaignStanding> {
  const { stored, findings } = (await examine(services, campaign))!;
  const audience = await readersOf(services, campaign);
  return {
    doc: stored.doc,
    findings,
    audience,
    marks: {
      ...marksOf(findings),
      readers: audience.readers > 0 ? "ready" : "open",
      schedule: campaign.state === "draft" ? "open" : "ready",
      results: campaign.state === "sent" || campaign.state === "sending" ? "ready" : "open",
    },
  };
}
