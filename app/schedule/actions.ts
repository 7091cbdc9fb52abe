/** What the schedule room can be asked to do, each with what it takes. */
import { z } from "zod";
import {
  cancelRest,
  cancelSchedule,
  decideOnUnsure,
  goOn,
  pauseByHand,
} from "#server/campaigns/scheduling.ts";
import type { Services } from "#server/services.ts";

/** Each throws a ScheduleError where it is too late. */
export const ACTIONS = {
  cancel: cancelSchedule,
  pause: pauseByHand,
  resume: goOn,
  stop: cancelRest,
  again: (services: Services, campaign: string) => decideOnUnsure(services, campaign, "again"),
  leave: (services: Services, campaign: string) => decideOnUnsure(services, campaign, "leave"),
} as const satisfies Record<string, (services: Services, campaign: string) => Promise<unknown>>;

export const actionSchema = z.object({
  what: z.enum(Object.keys(ACTIONS) as [Action, ...Action[]]),
});
export type Action = keyof typeof ACTIONS;
