/** The wall of the proof: every version of an email that anybody gets, and what of it has been looked at. */
import { conditionsOf } from "#core/render/index.ts";
import { ruleKey, shownBy } from "#core/text/index.ts";
import {
  conditionalParts,
  type Group,
  inEachLanguage,
  partName,
  smallestSet,
  stateReader,
  type Version,
  versionsOf,
} from "#core/versions/index.ts";
import { groupsOf, worldFor } from "../audience/readers.ts";
import { markOf } from "../ids.ts";
import type { Services } from "../services.ts";
import { ruleOfSource } from "../store/audience.ts";
import type { Campaign } from "../store/campaigns.ts";
import { lookedAt } from "../store/looked.ts";
import type { Counted } from "./findings.ts";

/** A conditional part of the email. */
export interface WallPart {
  readonly name: string;
  /** The node it is, or stands in. */
  readonly at: string;
}

export interface WallVersion extends Pick<Version, "key" | "lang" | "people" | "sample"> {
  /**
   * The parts it has, or has not, otherwise than the most frequent one, by their numbers from 1; those it lacks are
   * negative. There can be thousands of versions, and each is a page's load.
   */
  readonly differs: readonly number[];
}

export interface Wall {
  /** The most frequent first. */
  readonly versions: readonly WallVersion[];
  readonly parts: readonly WallPart[];
  readonly readers: number;
  /** As few as show everything, by their keys. */
  readonly smallest: readonly string[];
  /** Those of them that nobody has looked at in this state. */
  readonly unseen: readonly string[];
}

interface WallOptions {
  readonly pairs?: boolean;
  readonly groups?: readonly Group[];
}

const NOBODYS: Wall = { versions: [], parts: [], readers: 0, smallest: [], unseen: [] };

export type StateOf = (version: Pick<Version, "lang" | "bits">) => string;
/** The state of each version of an email, short. */
export function statesOf({ stored, around }: Pick<Counted, "stored" | "around">): StateOf {
  const read = stateReader(stored.doc, around);
  return (version) => markOf(read(version));
}

/** The conditional parts, and what each version has of them otherwise than the first. */
function differences(
  { stored, readers }: Counted,
  versions: readonly Version[],
): { parts: WallPart[]; of: (version: Version) => number[] } {
  const [first] = versions;
  const found = conditionalParts(stored.doc).map((part) => {
    const isShown = shownBy(part.when, readers.conditions);
    const at = part.node.type === "email" ? "envelope" : part.node.id;
    return { name: partName(part), at, isShown, usual: isShown(first?.bits ?? "") };
  });
  return {
    parts: found.map(({ name, at }) => ({ name, at })),
    of: ({ bits }) =>
      found.flatMap(({ isShown, usual }, i) => {
        const shown = isShown(bits);
        return shown === usual ? [] : [shown ? i + 1 : -(i + 1)];
      }),
  };
}

/** Of the readers of a campaign those in a segment, grouped as the others are. */
export async function groupsWithin(
  services: Services,
  campaign: Pick<Campaign, "audience" | "topic">,
  { stored, around }: Counted,
  segment: string,
): Promise<Group[]> {
  const own = conditionsOf(stored.doc, around.derived);
  const source = { kind: "segment", id: segment } as const;
  const conditions = [...own, ruleKey(ruleOfSource(source))];
  const world = await worldFor(services, conditions, campaign.audience);
  const groups = await groupsOf(services, campaign, conditions, world, stored.doc);
  return groups
    .filter(({ bits }) => bits[own.length] === "1")
    .map((group) => ({ ...group, bits: group.bits.slice(0, own.length) }));
}

/**
 * The wall of a campaign's email; `pairs`: the smallest set shows every two things together. It is empty until readers
 * have been chosen, though what reaches whom is told of everybody before.
 */
export async function wallOf(
  { database }: Pick<Services, "database">,
  campaign: Pick<Campaign, "id" | "audience">,
  email: Counted,
  { pairs = false, groups = email.readers.groups }: WallOptions = {},
): Promise<Wall> {
  if (campaign.audience.include.length === 0) return NOBODYS;
  const versions = versionsOf(inEachLanguage(email.stored.doc, email.around), groups);
  const smallest = smallestSet(versions, { pairs });
  const stateOf = statesOf(email);
  const states = smallest.map(stateOf);
  const looked = await lookedAt(database.sql, campaign.id, states);
  const { parts, of: differs } = differences(email, versions);
  return {
    versions: versions.map((version) => ({
      key: version.key,
      lang: version.lang,
      people: version.people,
      sample: version.sample,
      differs: differs(version),
    })),
    parts,
    readers: versions.reduce((sum, { people }) => sum + people, 0),
    smallest: smallest.map(({ key }) => key),
    unseen: smallest.flatMap(({ key }, i) => (looked.has(states[i]!) ? [] : [key])),
  };
}
