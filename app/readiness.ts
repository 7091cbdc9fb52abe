/** How far a campaign is: the marks on its rooms. */
import type { Trouble } from "#core/blocks/read.ts";
import { runChecks } from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Finding } from "#core/kinds/kind.ts";
import { conditionsOf } from "#core/render/index.ts";
import { surroundings } from "#server/emails.ts";
import { knownReaders } from "#server/readers.ts";
import type { Services } from "#server/services.ts";
import { type AudienceCount, countAudience } from "#server/store/audience.ts";
import type { Campaign } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { tagFields } from "#server/store/tag-values.ts";
import { worldOf } from "#server/world.ts";
import { marksOf, type Readiness } from "./marks.ts";

/** A document that can only be looked at cannot be sent. */
export const troubleFindings = (trouble: Trouble | null): Finding[] =>
  trouble
    ? [
        {
          check: "whole",
          severity: "stop",
          message: trouble.reason,
          detail: trouble.lost.length ? `Not understood: ${trouble.lost.join(", ")}.` : "",
          at: "email",
        },
      ]
    : [];

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
  const { database, clock, config } = services;
  const { doc, trouble } = (await loadDocument(database.sql, campaign.documentId))!;
  const world = await worldOf(database.sql, clock);
  const around = await surroundings(database.sql, config);
  const conditions = conditionsOf(doc, around.derived);
  const readers = await knownReaders(services, campaign, conditions, world);
  const findings = [
    ...troubleFindings(trouble),
    ...runChecks(doc, around, tagFields(world), readers),
  ];
  const audience = await countAudience(database.sql, campaign.audience, world, campaign.topic);
  return {
    doc,
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
