/** What an email that is being made shows of its sources: for the sheets, and with reasons for the settings. */
import type { NamedChoice } from "#core/blocks/choices.ts";
import { choiceWords, type LiveItem } from "#core/items/index.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { describe } from "#core/rules/index.ts";
import { nowIn } from "#core/schedule/now.ts";
import { worldFor } from "../audience/readers.ts";
import type { Services } from "../services.ts";
import { chosenFor, type Spread, spreadOf } from "../sources/choosing.ts";
import type { Campaign } from "../store/campaigns.ts";
import { readerValues, tagValues } from "../store/contacts.ts";
import { getFields } from "../store/fields.ts";
import { ruleFields } from "../store/items.ts";
import { getPictures } from "../store/pictures.ts";
import { readersSql } from "../store/readers.ts";
import { getSettings } from "../store/settings.ts";
import { getSources } from "../store/sources.ts";

export interface ChosenAnswer {
  /** By node: the items with the reasons for them. */
  readonly lists: readonly (readonly [string, readonly { item: LiveItem; why: string }[]])[];
  readonly pictures: readonly Picture[];
  /** By node: the choice in words. */
  readonly words: readonly (readonly [string, string])[];
  readonly spread: Spread | null;
}

interface Asked {
  readonly choices: readonly NamedChoice[];
  readonly contact: number | null;
  readonly spread: string | null;
}

export async function chosenAnswer(
  services: Pick<Services, "database" | "clock">,
  campaign: Pick<Campaign, "id" | "audience" | "topic">,
  { choices, contact, spread }: Asked,
): Promise<ChosenAnswer> {
  const { sql } = services.database;
  const { zone } = (await getSettings(sql)).sender;
  const now = nowIn(zone, services.clock.now());
  const world = { now, names: new Map<string, string>(), zone, campaign: campaign.id };
  const values = contact === null ? undefined : (await tagValues(sql, [contact])).get(contact);
  const reader = contact !== null && values ? { id: contact, values } : null;
  const chosen = await chosenFor(sql, choices, reader, world);
  const pictures = new Set(
    [...chosen.values()].flatMap((items) => items.flatMap(({ item }) => item.picture ?? [])),
  );
  return {
    lists: [...chosen],
    pictures: await getPictures(sql, pictures),
    words: await inWords(services, choices),
    spread: spread === null ? null : await counted(services, campaign, choices, spread, world),
  };
}

/** Each choice in words; its rule is read with the fields of its first source. */
async function inWords(
  { database: { sql }, clock }: Pick<Services, "database" | "clock">,
  choices: readonly NamedChoice[],
): Promise<[string, string][]> {
  const sources = choices.length > 0 ? await getSources(sql) : [];
  const words: [string, string][] = [];
  for (const { node, kind, choice } of choices) {
    const source = sources.find((one) =>
      choice.sources.length > 0 ? choice.sources.includes(one.id) : one.kind === kind,
    );
    const fields = source ? ruleFields(await getFields(sql, source.id)) : new Map();
    const world = {
      ...{ fields, tables: new Map(), segments: new Map(), names: new Map() },
      now: nowIn("UTC", clock.now()),
    };
    words.push([node, choiceWords(choice, (rule) => (rule ? describe(rule, world) : ""))]);
  }
  return words;
}

/** How many of a campaign's readers are looked at for a count. */
async function counted(
  services: Pick<Services, "database" | "clock">,
  campaign: Pick<Campaign, "audience" | "topic">,
  choices: readonly NamedChoice[],
  node: string,
  world: Parameters<typeof spreadOf>[4],
): Promise<Spread> {
  const { sql } = services.database;
  const among = readersSql(campaign, await worldFor(services as Services, [], campaign.audience));
  const match = choices.find((one) => one.node === node)?.choice.match;
  const refs = match ? [`contact:${match.reader}`] : [];
  const readers = await readerValues(sql, among, refs, LIMITS.spreadReaders);
  return spreadOf(sql, choices, node, readers, world);
}
