/** The one clock, handed in from the start; nothing else reads the time. */
export interface Clock {
  now(): Date;
}
export const systemClock: Clock = { now: () => new Date() };
