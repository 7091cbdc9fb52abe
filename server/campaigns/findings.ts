/** What the checks find about a campaign's email: asked here by every room, and before anything is sent. */
import type { Trouble } from "#core/blocks/read.ts";
import { addressRefs, type KnownReaders, runChecks } from "#core/checks/index.ts";
import type { Finding, Surroundings } from "#core/kinds/kind.ts";
import { conditionsOf } from "#core/render/index.ts";
import type { World } from "#core/rules/index.ts";
import { knownReaders, worldOfEmail } from "../audience/readers.ts";
import type { Services } from "../services.ts";
import { readersSql } from "../store/audience.ts";
import type { Campaign } from "../store/campaigns.ts";
import { loadDocument, type StoredDocument } from "../store/documents.ts";
import { tagFields, valueCounts } from "../store/tag-values.ts";
import { surroundings } from "./emails.ts";

/** A document that can only be looked at cannot be sent. */
const troubleFindings = (trouble: Trouble | null): Finding[] =>
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

export interface Examined {
  readonly stored: StoredDocument;
  /** What the email is rendered with when it goes out. */
  readonly around: Surroundings;
  readonly world: World;
  /** Its readers, counted by its conditions. */
  readonly readers: KnownReaders;
  readonly findings: readonly Finding[];
}

/** A campaign's email as it is now, with everything the checks find. Null where the email is gone. */
export async function examine(services: Services, campaign: Campaign): Promise<Examined | null> {
  const { database, config } = services;
  const stored = await loadDocument(database.sql, campaign.documentId);
  if (!stored) return null;
  const { doc, trouble } = stored;
  const around = await surroundings(database.sql, config, doc);
  const world = await worldOfEmail(services, { doc, around, campaign });
  const conditions = conditionsOf(doc, around.derived);
  const values = await Promise.all(
    addressRefs(doc).map(async (ref) => {
      const counts = await valueCounts(database.sql, world, ref, readersSql(campaign, world));
      return [ref, counts] as const;
    }),
  );
  const readers = {
    ...(await knownReaders(services, campaign, conditions, world)),
    values: new Map(values),
  };
  const findings = [
    ...troubleFindings(trouble),
    ...runChecks(doc, around, tagFields(world), readers),
  ];
  return { stored, around, world, readers, findings };
}
