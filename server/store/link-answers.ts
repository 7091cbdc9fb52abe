/** What was answered where links lead, by their addresses. */
import type { LinkAnswer } from "#core/kinds/kind.ts";
import type { Sql } from "../db/database.ts";

export interface Answered extends LinkAnswer {
  readonly address: string;
  readonly at: Date;
}

/** What is known of some addresses. */
export const linkAnswers = (sql: Sql, addresses: readonly string[]): Promise<Answered[]> =>
  sql<Answered>`select address, problem, gone, led_to as "ledTo", redirects, at from link_answers
    where address = any (${[...addresses]}::text[])`;

export async function keepLinkAnswer(
  sql: Sql,
  { address, problem, gone, ledTo, redirects, at }: Answered,
): Promise<void> {
  await sql`insert into link_answers (address, problem, gone, led_to, redirects, at)
    values (${address}, ${problem}, ${gone}, ${ledTo}, ${redirects}, ${at})
    on conflict (address) do update set problem = excluded.problem, gone = excluded.gone,
      led_to = excluded.led_to, redirects = excluded.redirects, at = excluded.at`;
}

/** Forgets what was answered long ago. */
export async function forgetLinkAnswers(sql: Sql, before: Date): Promise<void> {
  await sql`delete from link_answers where at < ${before}`;
}
