/** What the checks find about a campaign's email: asked here by every room, and before anything is sent. */
import { choicesIn } from "#core/blocks/choices.ts";
import type { Trouble } from "#core/blocks/read.ts";
import {
  addressRefs,
  bySeverity,
  type KnownReaders,
  passagesOf,
  runChecks,
  spelling,
  wordsIn,
  wordsToSpell,
} from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Fields } from "#core/fields/index.ts";
import { refsOfChoice } from "#core/items/index.ts";
import type { Finding, Surroundings } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { conditionsOf } from "#core/render/index.ts";
import type { World } from "#core/rules/index.ts";
import { languageFieldOf } from "#core/versions/index.ts";
import { knownReaders, worldOfEmail } from "../audience/readers.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import { ownItems } from "../sources/choosing.ts";
import { readersSql } from "../store/audience.ts";
import type { Campaign } from "../store/campaigns.ts";
import { readerValues } from "../store/contacts.ts";
import { loadDocument, type StoredDocument } from "../store/documents.ts";
import { getSettings } from "../store/settings.ts";
import { tagFields, valueCounts } from "../store/tag-values.ts";
import { misspelled } from "../writing/speller.ts";
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

/** How many readers get nothing at blocks where each has items of their own, by node. */
async function emptyFor(
  sql: Sql,
  campaign: Campaign,
  { doc, around, world }: { doc: EmailDocument; around: Surroundings; world: World },
): Promise<Map<string, number>> {
  const empty = new Map<string, number>();
  const { zone } = (await getSettings(sql)).sender;
  const own = await ownItems(sql, doc, around.live, world.now.at, zone);
  if (!own) return empty;
  const refs = choicesIn(doc).flatMap(({ choice }) => refsOfChoice(choice));
  const readers = await readerValues(sql, readersSql(campaign, world), refs, LIMITS.spreadReaders);
  for (const chosen of (await own.choose(sql, readers)).values()) {
    for (const [node, items] of chosen) {
      if (items.length === 0) empty.set(node, (empty.get(node) ?? 0) + 1);
    }
  }
  return empty;
}

/** The words that no dictionary has, nor the brand, its fields or its items. */
async function spellingOf(
  sql: Sql,
  doc: EmailDocument,
  around: Surroundings,
  fields: Fields,
): Promise<Finding[]> {
  const { words, sender } = await getSettings(sql);
  const labels = [...fields.values()].flatMap((field) => [
    field.label,
    ...("options" in field ? (field.options as readonly unknown[]).map(String) : []),
  ]);
  const items = [
    ...(around.items?.values() ?? []),
    ...[...(around.live?.values() ?? [])].flatMap((list) => list.items),
  ].map(({ title }) => title);
  const names = wordsIn(
    sender.brandName,
    sender.postalAddress,
    sender.fromName,
    ...labels,
    ...items,
  );
  const ours = new Set([...words, ...names]);
  const passages = passagesOf(doc);
  const wrong = new Map<string, ReadonlyMap<string, readonly string[]>>();
  for (const [lang, asked] of wordsToSpell(passages, ours)) {
    wrong.set(lang, await misspelled(asked, lang));
  }
  return spelling(passages, ours, wrong);
}

/** A campaign's email as it is now, with everything the checks find. Null where the email is gone. */
export async function examine(services: Services, campaign: Campaign): Promise<Examined | null> {
  const { database, config, clock } = services;
  const stored = await loadDocument(database.sql, campaign.documentId);
  if (!stored) return null;
  const { doc, trouble } = stored;
  const around = await surroundings(database.sql, config, doc, clock.now(), campaign.id);
  const world = await worldOfEmail(services, { doc, around, campaign });
  const conditions = conditionsOf(doc, around.derived);
  const values = await Promise.all(
    addressRefs(doc).map(async (ref) => {
      const counts = await valueCounts(database.sql, world, ref, readersSql(campaign, world));
      return [ref, counts] as const;
    }),
  );
  const readers = {
    ...(await knownReaders(services, campaign, conditions, world, languageFieldOf(doc))),
    values: new Map(values),
    empty: await emptyFor(database.sql, campaign, { doc, around, world }),
    now: world.now.at.getTime(),
  };
  const fields = tagFields(world);
  const findings = bySeverity([
    ...troubleFindings(trouble),
    ...runChecks(doc, around, fields, readers),
    ...(await spellingOf(database.sql, doc, around, fields)),
  ]);
  return { stored, around, world, readers, findings };
}
