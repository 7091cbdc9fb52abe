/** Clears away what nobody asks for any more, piece by piece. */
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import { oldArrivals } from "../store/arrivals.ts";
import { forgetRemoved } from "../store/bin.ts";
import { endedJobs, endedSessions } from "../store/clean-up.ts";
import { forgetLinkAnswers } from "../store/link-answers.ts";
import { oldMessages } from "../store/outbox.ts";
import { inPieces } from "./pieces.ts";

const EVERY_MS = 6 * 3_600_000;

/** Gives when to do it again. */
export async function cleanUp(services: Services): Promise<Date> {
  const { clock } = services;
  const now = clock.now();
  const before = (days: number) => new Date(now.getTime() - days * 86_400_000);
  for (const remove of [
    (sql: Sql, rows: number) => oldMessages(sql, before(LIMITS.outboxDays), rows),
    (sql: Sql, rows: number) => endedJobs(sql, before(LIMITS.jobDays), rows),
    (sql: Sql, rows: number) => endedSessions(sql, now, rows),
    (sql: Sql, rows: number) => oldArrivals(sql, before(LIMITS.arrivalDays), rows),
  ]) {
    await inPieces(services, async (sql, rows) => (await remove(sql, rows)) > 0);
  }
  await forgetLinkAnswers(services.database.sql, before(LIMITS.linkAnswerDays));
  await forgetRemoved(services.database.sql, before(LIMITS.removedDays));
  return new Date(now.getTime() + EVERY_MS);
}
