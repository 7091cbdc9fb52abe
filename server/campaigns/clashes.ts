/** Other emails that some of a campaign's readers get as well. */
import { LIMITS } from "#core/limits.ts";
import { worldOf } from "../audience/world.ts";
import type { Services } from "../services.ts";
import { rulesOfAudience } from "../store/audience.ts";
import type { Campaign } from "../store/campaigns.ts";
import { destinedLaunches } from "../store/launches/freeze.ts";
import { countBoth } from "../store/readers.ts";

export interface Clash {
  /** The other campaign, and when it leaves. */
  readonly campaign: string;
  readonly name: string;
  readonly at: Date;
  /** How many get both. */
  readonly people: number;
}

/** The campaigns that are to leave, the next first, with how many of a campaign's readers get each. */
export async function clashesOf(
  { database, clock }: Pick<Services, "database" | "clock">,
  campaign: Campaign,
): Promise<Clash[]> {
  const { sql } = database;
  const others = await destinedLaunches(sql, campaign.id, LIMITS.clashes);
  if (others.length === 0) return [];
  const frozen = others.flatMap(({ segments }) => segments.map(({ rule }) => rule));
  const rules = [campaign, ...others].flatMap(({ audience }) => rulesOfAudience(audience));
  const world = await worldOf(sql, clock, [...rules, ...frozen]);
  // What a launch froze holds for it, as it will when it starts.
  const asFrozen = ({ segments }: (typeof others)[number]) => ({
    ...world,
    segments: new Map([...world.segments, ...segments.map(({ id, rule }) => [id, rule] as const)]),
  });
  const counts = await countBoth(
    sql,
    [campaign, world],
    others.map((other) => [other, asFrozen(other)] as const),
  );
  return others.flatMap(({ campaignId, name, sendAt }, i) =>
    counts[i]! > 0 ? [{ campaign: campaignId, name, at: sendAt, people: counts[i]! }] : [],
  );
}
