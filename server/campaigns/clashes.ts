/** Emails that some of the same readers get. */
import { LIMITS } from "#core/limits.ts";
import { dayIn } from "#core/schedule/index.ts";
import { worldOf } from "../audience/world.ts";
import type { Clock } from "../clock.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import { rulesOfAudience } from "../store/audience.ts";
import type { Campaign } from "../store/campaigns.ts";
import { type Destined, destinedLaunches } from "../store/launches/freeze.ts";
import { countBoth } from "../store/readers.ts";

export interface Clash {
  /** The other campaign, and when it leaves. */
  readonly campaign: string;
  readonly name: string;
  readonly at: Date;
  /** How many get both. */
  readonly people: number;
}

/** Two emails of one day that some of the same people get. */
export interface DayClash {
  readonly day: string;
  /** The campaigns, the earlier first. */
  readonly campaigns: readonly [string, string];
  readonly people: number;
}

/** What clashes among all that is to leave: each two of a day in a zone. */
export async function clashesByDay(
  { database, clock }: Pick<Services, "database" | "clock">,
  zone: string,
): Promise<DayClash[]> {
  const { sql } = database;
  const all = await destinedLaunches(sql, "", LIMITS.calendarClashes);
  const clashes: DayClash[] = [];
  for (const [i, one] of all.entries()) {
    const day = dayIn(one.sendAt, zone);
    const others = all.slice(i + 1).filter(({ sendAt }) => dayIn(sendAt, zone) === day);
    if (others.length === 0) continue;
    const counts = await countTogether(sql, clock, one, others);
    for (const [j, { campaignId }] of others.entries()) {
      const people = counts[j]!;
      if (people > 0) clashes.push({ day, campaigns: [one.campaignId, campaignId], people });
    }
  }
  return clashes;
}

type Goes = Pick<Destined, "audience" | "topic"> & { readonly segments?: Destined["segments"] };

/** How many people get one and each of others; what a launch froze holds for it, as it will when it starts. */
async function countTogether(
  sql: Sql,
  clock: Clock,
  one: Goes,
  others: readonly Goes[],
): Promise<number[]> {
  const all = [one, ...others];
  const frozen = all.flatMap(({ segments = [] }) => segments.map(({ rule }) => rule));
  const rules = all.flatMap(({ audience }) => rulesOfAudience(audience));
  const world = await worldOf(sql, clock, [...rules, ...frozen]);
  const within = ({ segments = [] }: Goes) => ({
    ...world,
    segments: new Map([...world.segments, ...segments.map(({ id, rule }) => [id, rule] as const)]),
  });
  return countBoth(
    sql,
    [one, within(one)],
    others.map((other) => [other, within(other)] as const),
  );
}

/** The campaigns that are to leave, the next first, with how many of a campaign's readers get each. */
export async function clashesOf(
  { database, clock }: Pick<Services, "database" | "clock">,
  campaign: Campaign,
): Promise<Clash[]> {
  const { sql } = database;
  const others = await destinedLaunches(sql, campaign.id, LIMITS.clashes);
  if (others.length === 0) return [];
  const counts = await countTogether(sql, clock, campaign, others);
  return others.flatMap(({ campaignId, name, sendAt }, i) =>
    counts[i]! > 0 ? [{ campaign: campaignId, name, at: sendAt, people: counts[i]! }] : [],
  );
}
