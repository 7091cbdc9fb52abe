/** How far a campaign is: the marks on its rooms. */
import { runChecks } from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Finding } from "#core/kinds/kind.ts";
import { surroundings } from "#server/emails.ts";
import { people } from "#server/people.ts";
import type { Services } from "#server/services.ts";
import { type AudienceCount, countAudience } from "#server/store/audience.ts";
import type { Campaign } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";

export type Mark = "ready" | "half" | "open";
export interface Readiness {
  readonly compose: Mark;
  readonly readers: Mark;
  readonly proof: Mark;
  readonly schedule: Mark;
  readonly results: Mark;
}

/** The findings of a campaign's email as it is now. */
export async function findingsOf(services: Services, doc: EmailDocument): Promise<Finding[]> {
  const { database, config, clock } = services;
  const around = await surroundings(database.sql, config);
  const { fields } = await people(database.sql, clock);
  return runChecks(doc, around, fields);
}

export interface CampaignStanding {
  readonly doc: EmailDocument;
  readonly findings: Finding[];
  readonly audience: AudienceCount;
  readonly marks: Readiness;
}

/** Everything the rooms' marks are made from. */
export async function standingOf(
  services: Services,
  campaign: Campaign,
): Promise<CampaignStanding> {
  const { database, clock } = services;
  const stored = await loadDocument(database.sql, campaign.documentId);
  const { doc } = stored!;
  const findings = await findingsOf(services, doc);
  const who = await people(database.sql, clock);
  const audience = await countAudience(database.sql, campaign.audience, who);
  const stops = findings.some((f) => f.severity === "stop");
  return {
    doc,
    findings,
    audience,
    marks: {
      compose: stops ? "half" : "ready",
      readers: audience.readers > 0 ? "ready" : "open",
      proof: findings.length === 0 ? "ready" : stops ? "open" : "half",
      schedule: campaign.state === "draft" ? "open" : "ready",
      results: campaign.state === "sent" || campaign.state === "sending" ? "ready" : "open",
    },
  };
}
