/** Readers of an email that is not sent yet: how it would look to somebody, and who sees what of it. */
import type { EmailProps } from "#core/blocks/layout.ts";
import type { KnownReaders } from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { languageFor } from "#core/languages/index.ts";
import { fixedValues, type Reader, sampleCodes } from "#core/merge/index.ts";
import { conditionsOf } from "#core/render/index.ts";
import { describe, type Rule, ruleProblem, type World } from "#core/rules/index.ts";
import { ruleKey } from "#core/text/index.ts";
import {
  conditionalParts,
  type Group,
  inEachLanguage,
  languageFieldOf,
  partName,
  reachOf,
  versionsOf,
} from "#core/versions/index.ts";
import type { Services } from "../services.ts";
import { ownItems } from "../sources/choosing.ts";
import { type Audience, ruleOfSource, rulesOfAudience } from "../store/audience.ts";
import type { Campaign } from "../store/campaigns.ts";
import { bitsFor, bitsOf, conditionGroups, rulesOf, type Spoken } from "../store/conditions.ts";
import { type Contact, tagValues } from "../store/contacts.ts";
import { readersSql } from "../store/readers.ts";
import { getSettings } from "../store/settings.ts";
import { worldOf } from "./world.ts";

const known = (rules: readonly (Rule | null)[]) => rules.filter((rule) => rule !== null);

/** The world that conditions and an audience are read in, with names for what they speak of. */
export const worldFor = (
  { database, clock }: Services,
  conditions: readonly string[],
  audience: Audience,
): Promise<World> =>
  worldOf(database.sql, clock, [...known(rulesOf(conditions)), ...rulesOfAudience(audience)]);

/** An email of a campaign that is not sent yet. */
export interface Unsent {
  readonly doc: EmailDocument;
  readonly around: Surroundings;
  readonly campaign: Pick<Campaign, "name" | "audience" | "topic">;
}

/** The world that the conditions of an email are read against. */
export const worldOfEmail = (
  services: Services,
  { doc, around, campaign }: Unsent,
): Promise<World> => worldFor(services, conditionsOf(doc, around.derived), campaign.audience);

/** Values that are the same for all readers of an email that is not sent yet. */
/** Values that are the same for all its readers, with samples for codes. */
export const fixedOf = ({ around, campaign }: Unsent, world: World): Reader["values"] => ({
  ...fixedValues(around.brand, campaign.name, world.now.today),
  ...sampleCodes(around.rolls?.values() ?? []),
});

/** Contacts as readers of an email, by their ids, with samples for codes. */
export async function readersAs(
  { database }: Services,
  unsent: Unsent,
  world: World,
  contacts: readonly number[],
  token = "",
): Promise<Map<number, Reader>> {
  const { sql } = database;
  const { doc, around } = unsent;
  const fixed = fixedOf(unsent, world);
  const values = await tagValues(sql, contacts);
  const known = [...values].map(([id, own]) => ({ id, values: { ...fixed, ...own } }));
  const { zone } = (await getSettings(sql)).sender;
  const own = await ownItems(sql, doc, around.live, world.now.at, zone);
  const items = await own?.values(sql, known);
  const bits = await bitsOf(sql, contacts, conditionsOf(doc, around.derived), world);
  return new Map(
    known.map((one) => [
      one.id,
      {
        values: { ...one.values, ...items?.get(one.id) },
        bits: bits.get(one.id) ?? "",
        token,
      },
    ]),
  );
}

/** A contact as a reader of an email; without one, somebody of whom nothing is known. */
export async function readerOf(
  services: Services,
  unsent: Unsent,
  world: World,
  contact: Pick<Contact, "id"> | null,
  token = "",
): Promise<Reader> {
  const one = contact && (await readersAs(services, unsent, world, [contact.id], token));
  return one?.get(contact!.id) ?? { values: fixedOf(unsent, world), token };
}

/** A campaign's readers by the conditions of its email, and what is wrong with those. */
export async function knownReaders(
  services: Services,
  campaign: Pick<Campaign, "audience" | "topic">,
  conditions: readonly string[],
  world: World,
  /** The email, where it matters in which of its languages they get it. */
  doc: EmailDocument | null = null,
): Promise<KnownReaders> {
  return {
    conditions,
    today: world.now.today,
    groups: await groupsOf(services, campaign, conditions, world, doc),
    problems: problemsOf(conditions, world),
  };
}

const problemsOf = (conditions: readonly string[], world: World) =>
  rulesOf(conditions).map((rule) =>
    rule ? ruleProblem(rule, world) : "This rule cannot be read.",
  );

/** What the composer knows of who sees what: the readers, and a contact among them. */
export interface WhoSees extends KnownReaders {
  /** Which conditions hold for the contact that was asked about. */
  readonly bits: string;
  readonly contact: number | null;
  /** Each condition in words. */
  readonly words: readonly string[];
  /** Nobody has counted yet: `groups` says nothing. */
  readonly late?: true;
}

/** What of it is known without counting everybody: what holds for the contact, and the rules in words. */
export async function whoSeesAtOnce(
  services: Services,
  conditions: readonly string[],
  contact: number | null,
  world: World,
): Promise<WhoSees> {
  return {
    conditions,
    today: world.now.today,
    groups: [],
    problems: problemsOf(conditions, world),
    bits: contact === null ? "" : await bitsFor(services.database.sql, contact, conditions, world),
    contact,
    words: rulesOf(conditions).map((rule) =>
      rule ? describe(rule, world) : "a rule that cannot be read",
    ),
    late: true,
  };
}

/** All of it, of readers that have been counted. */
export async function whoSeesOf(
  services: Services,
  { conditions, groups }: KnownReaders,
  contact: number | null,
  world: World,
): Promise<WhoSees> {
  const { late: _, ...known } = await whoSeesAtOnce(services, conditions, contact, world);
  return { ...known, groups };
}

/** What tells the language in which a reader gets an email; null where there is one alone. */
function spokenIn(doc: EmailDocument): Spoken | null {
  const field = languageFieldOf(doc);
  const email = doc.root.props as unknown as EmailProps;
  if (field === null) return null;
  return { field: `contact:${field}`, languageOf: (said) => languageFor(said, email) };
}

/** A campaign's readers by which conditions hold for them, and by the language they get the email in. */
export const groupsOf = (
  { database }: Services,
  campaign: Pick<Campaign, "audience" | "topic"> & { readonly id?: string | null },
  conditions: readonly string[],
  world: World,
  doc: EmailDocument | null = null,
): Promise<Group[]> =>
  conditionGroups(
    database.sql,
    conditions,
    world,
    readersSql(campaign, world),
    doc && spokenIn(doc),
  );

export interface WhoSeesWhat {
  /** The lists and segments that get it, at most a few. */
  readonly chosen: readonly string[];
  readonly parts: readonly {
    readonly name: string;
    /** The node to go to. */
    readonly at: string;
    readonly words: string;
    readonly people: number;
    /** How many of each of the chosen see it. */
    readonly within: readonly number[];
  }[];
  readonly versions: number;
}

const CHOSEN = 4;

/** The conditions of a campaign's email against the lists and segments it goes to. */
export async function whoSeesWhat(
  services: Services,
  { doc, around, campaign }: Unsent,
  world: World,
): Promise<WhoSeesWhat> {
  const email = inEachLanguage(doc, around);
  const own = conditionsOf(doc, around.derived);
  const sources = campaign.audience.include.slice(0, CHOSEN);
  const rules = sources.map(ruleOfSource);
  const conditions = [...own, ...rules.map(ruleKey)];
  const groups = await groupsOf(services, campaign, conditions, world, doc);
  const within = rules.map((_, i) => groups.filter(({ bits }) => bits[own.length + i] === "1"));
  return {
    chosen: sources.map(({ kind, id }) => world.names.get(`${kind}:${id}`) ?? ""),
    parts: conditionalParts(doc).map((part) => ({
      name: partName(part),
      at: part.node.type === "email" ? "envelope" : part.node.id,
      words: part.seen.seenBy ? describe(part.seen.seenBy, world) : "everybody else",
      people: reachOf(part.when, conditions, groups),
      within: within.map((own) => reachOf(part.when, conditions, own)),
    })),
    versions: versionsOf(email, groups).length,
  };
}
