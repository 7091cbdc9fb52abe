/** Moods of the outbox, for tests by hand. */

/** What the outbox can be told to be, to see what a launch makes of it. */
export const MOODS = ["well", "slow", "defers", "refuses", "cuts", "dead"] as const;
export type OutboxMood = (typeof MOODS)[number];

/** The mood of an outbox at this moment; it is well again at each start. */
export interface OutboxMoods {
  is: OutboxMood;
}
