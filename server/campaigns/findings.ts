/** What the checks find about a campaign's email: asked here by every room, and before anything is sent. */
import { choicesIn } from "#core/blocks/choices.ts";
import type { Trouble } from "#core/blocks/read.ts";
import {
  addressesToAsk,
  addressRefs,
  inOrder,
  type KnownReaders,
  runChecks,
  senderDomainOf,
  wordsIn,
} from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Fields } from "#core/fields/index.ts";
import { refsOfChoice } from "#core/items/index.ts";
import type { Asides, Finding, Surroundings } from "#core/kinds/kind.ts";
import { shownItems } from "#core/kinds/shown-items.ts";
import { LIMITS } from "#core/limits.ts";
import { conditionsOf } from "#core/render/index.ts";
import type { World } from "#core/rules/index.ts";
import { knownReaders, worldOfEmail } from "../audience/readers.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import { ownItems } from "../sources/choosing.ts";
import type { Campaign } from "../store/campaigns.ts";
import { readerValues } from "../store/contacts.ts";
import { loadDocument, type StoredDocument } from "../store/documents.ts";
import { getSchema } from "../store/fields.ts";
import { linkAnswers } from "../store/link-answers.ts";
import { readersSql } from "../store/readers.ts";
import { lastSubject } from "../store/results.ts";
import { getSettings, type Settings } from "../store/settings.ts";
import { tagFields, valueCounts } from "../store/tag-values.ts";
import { spellingOf } from "../writing/spelling.ts";
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

/** A campaign's email as it is now. */
export interface Counted {
  readonly stored: StoredDocument;
  /** What the email is rendered with when it goes out. */
  readonly around: Surroundings;
  readonly world: World;
  /** Its readers, counted by its conditions. */
  readonly readers: KnownReaders;
}
export interface Examined extends Counted {
  readonly findings: readonly Finding[];
}

/** Says what an email is looked at as, where that is not as it is written. */
type Otherwise = (doc: EmailDocument) => EmailDocument;

/** A campaign's email as it is now, with its readers counted. Null where it is gone. */
export async function counted(
  services: Services,
  campaign: Campaign,
  otherwise: Otherwise = (doc) => doc,
): Promise<Counted | null> {
  const { database, config, clock } = services;
  const written = await loadDocument(database.sql, campaign.documentId);
  if (!written) return null;
  const doc = otherwise(written.doc);
  const stored = { ...written, doc };
  const around = await surroundings(database.sql, config, doc, clock.now(), campaign.id);
  const world = await worldOfEmail(services, { doc, around, campaign });
  const conditions = conditionsOf(doc, around.derived);
  const readers = await knownReaders(services, campaign, conditions, world, doc);
  return { stored, around, world, readers };
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

/** Words of the house that are in no dictionary: the brand's own, its names, those of fields and of items it shows. */
function ownWords(
  { words, sender }: Settings,
  around: Pick<Surroundings, "items" | "live">,
  fields: Fields,
): ReadonlySet<string> {
  const names = wordsIn(
    ...[sender.brandName, sender.postalAddress, sender.fromName],
    ...[...fields.values()].flatMap(({ label, options = [] }) => [label, ...options]),
    ...shownItems(around).map(({ title }) => title),
  );
  return new Set([...words, ...names]);
}

/** Words of the house that are right in a campaign's email as it is now. */
export async function ownWordsOf(
  { database, config, clock }: Services,
  campaign: Campaign,
): Promise<ReadonlySet<string>> {
  const { sql } = database;
  const stored = await loadDocument(sql, campaign.documentId);
  const around = stored
    ? await surroundings(sql, config, stored.doc, clock.now(), campaign.id)
    : {};
  return ownWords(await getSettings(sql), around, tagFields(await getSchema(sql)));
}

/** What the checks alone ask for: the last subject, what was answered where links lead, what the sender's domain says. */
async function asides(
  { database: { sql }, domains }: Services,
  campaign: Pick<Campaign, "id">,
  doc: EmailDocument,
): Promise<Asides> {
  const answers = await linkAnswers(sql, addressesToAsk(doc));
  const domain = senderDomainOf(doc);
  return {
    senderDomain: domain === null ? null : await domains.standing(domain),
    lastSubject: await lastSubject(sql, campaign.id),
    linkAnswers: new Map(answers.map(({ address, at: _, ...answer }) => [address, answer])),
  };
}

/** A campaign's email as it is now, with everything the checks find. Null where the email is gone. */
export async function examine(
  services: Services,
  campaign: Campaign,
  otherwise?: Otherwise,
): Promise<Examined | null> {
  const { sql } = services.database;
  const found = await counted(services, campaign, otherwise);
  if (!found) return null;
  const { stored, world } = found;
  const { doc, trouble } = stored;
  const around = { ...found.around, ...(await asides(services, campaign, doc)) };
  const values = await Promise.all(
    addressRefs(doc).map(async (ref) => {
      const counts = await valueCounts(sql, world, ref, readersSql(campaign, world));
      return [ref, counts] as const;
    }),
  );
  const readers = {
    ...found.readers,
    values: new Map(values),
    empty: await emptyFor(sql, campaign, { doc, around, world }),
    now: world.now.at.getTime(),
  };
  const fields = tagFields(world);
  const settings = await getSettings(sql);
  const all = [
    ...troubleFindings(trouble),
    ...runChecks(doc, around, fields, readers),
    ...(await spellingOf(services.speller, doc, ownWords(settings, around, fields))),
  ];
  const findings = inOrder(all, doc, readers);
  return { stored, around, world, readers, findings };
}
