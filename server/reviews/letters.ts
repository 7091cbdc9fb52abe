/** Letters about reviews: to those who are asked, and to the team of what they said. They wait in the queue, and are tried again. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import { letterMessage } from "../mail/letter.ts";
import type { Services } from "../services.ts";
import { enqueue } from "../store/jobs.ts";
import { getSettings } from "../store/settings.ts";

const letterSchema = z.object({
  to: z.string(),
  subject: z.string(),
  paragraphs: z.array(z.string()),
  link: z.object({ words: z.string(), address: z.string() }),
  lang: z.string(),
  /** After this it is not tried any more, ISO. */
  until: z.string(),
});
type Letter = z.infer<typeof letterSchema>;

/** Puts a letter into the queue, in the transaction of what it tells. */
export const queueLetter = (
  sql: Sql,
  letter: Omit<Letter, "lang" | "until">,
  now: Date,
): Promise<void> => {
  const until = new Date(now.getTime() + LIMITS.letterTried).toISOString();
  return enqueue(sql, "letter", { ...letter, lang: "en", until }, now);
};

/** The job: hands a letter over; gives when to try again, null when there is nothing more to do. */
export async function sendLetter(services: Services, payload: unknown): Promise<Date | null> {
  const { until, ...letter } = letterSchema.parse(payload);
  const { database, mailer, clock, log } = services;
  const now = clock.now();
  const { sender } = await getSettings(database.sql);
  const outcome = await mailer.send(letterMessage(letter, sender, "letter", now));
  if (outcome.state !== "refused") return null;
  if (!outcome.verdict.lasting && now < new Date(until)) {
    return new Date(now.getTime() + LIMITS.letterAgain);
  }
  log.warn({ reply: outcome.reply }, "a letter was not taken");
  return null;
}
