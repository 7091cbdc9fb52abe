/** Other emails that some of a campaign's readers get as well. */
import { LIMITS } from "#core/limits.ts";
import type { Rule } from "#core/rules/index.ts";
import { worldOf } from "../audience/world.ts";
import type { Services } from "../services.ts";
import { countBoth, rulesOfAudience } from "../store/audience.ts";
import type { Campaign } from "../store/campaigns.ts";
import { getLaunch } from "../store/launches/freeze.ts";
import { dueLaunches } from "../store/launches/pause.ts";

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
  if (campaign.audience.include.length === 0) return [];
  const own: readonly Rule[] = rulesOfAudience(campaign.audience);
  const clashes: Clash[] = [];
  for (const id of await dueLaunches(sql, campaign.id, LIMITS.clashes)) {
    const launch = await getLaunch(sql, id);
    if (!launch) continue;
    const frozen = launch.segments.map(({ rule }) => rule);
    const rules = [...own, ...frozen, ...rulesOfAudience(launch.audience)];
    const world = await worldOf(sql, clock, rules);
    // What a launch froze holds for it, as it will when it starts.
    const then = {
      ...world,
      segments: new Map([
        ...world.segments,
        ...launch.segments.map((one) => [one.id, one.rule] as const),
      ]),
    };
    const people = await countBoth(sql, [campaign, world], [launch, then]);
    if (people === 0) continue;
    clashes.push({ campaign: launch.campaignId, name: launch.name, at: launch.sendAt, people });
  }
  return clashes;
}
