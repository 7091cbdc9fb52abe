/** Why something cannot be scheduled; the message is for the person. */
export class ScheduleError extends Error {}
