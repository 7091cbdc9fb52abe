/** Answers to the questions of emails: the last of each reader, with the words they added. */
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import type { Recipient } from "./launches/progress.ts";

/** A question as events name it: that of a campaign, by its block. */
export const questionId = (campaign: string, block: string): string => `${campaign}:${block}`;

interface Told {
  readonly recipient: Pick<Recipient, "id" | "launchId" | "contactId">;
  /** The question by its block, what it asks, and the answers there are. */
  readonly block: string;
  readonly asks: string;
  readonly answers: readonly string[];
  /** The answer given. */
  readonly answer: string;
}

/** Writes an answer down in the place of one that was given before; in a transaction. Gives whether it is another. */
export async function writeAnswer(
  sql: Sql,
  { recipient, block, asks, answers, answer }: Told,
  at: Date,
): Promise<boolean> {
  const { campaign } = first(
    await sql<{
      campaign: string;
    }>`select campaign_id as campaign from launches where id = ${recipient.launchId}`,
  )!;
  const id = questionId(campaign, block);
  const [same] = await sql`select 1 from events where recipient_id = ${recipient.id}
    and kind = 'answered' and item = ${id} and class = ${answer}`;
  if (same) return false;
  await sql`delete from events where recipient_id = ${recipient.id} and kind = 'answered' and item = ${id}`;
  await sql`insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id, item, class)
    values ('answered', ${at}, ${recipient.contactId}, ${recipient.launchId}, ${campaign}, ${recipient.id},
      ${id}, ${answer})`;
  // Conditions name questions by what they ask, with the answers there are.
  await sql`insert into event_subjects (kind, id, name, classes)
    values ('answered', ${id}, ${asks}, ${jsonb(answers)})
    on conflict (kind, id) do update set name = excluded.name, classes = excluded.classes`;
  return true;
}

/** Keeps what somebody said beside their answer. False where they have given none. */
export async function writeWords(
  sql: Sql,
  recipient: Pick<Recipient, "id" | "launchId">,
  block: string,
  words: string,
): Promise<boolean> {
  const rows =
    await sql`update events e set data = e.data || jsonb_build_object('words', ${words}::text)
    from launches l where l.id = ${recipient.launchId} and e.recipient_id = ${recipient.id}
      and e.kind = 'answered' and e.item = l.campaign_id || ':' || ${block} returning 1`;
  return rows.length > 0;
}

export interface Given {
  readonly item: string;
  readonly answer: string;
  readonly people: number;
}

/** How many people gave each answer to the questions of a launch. */
export const answersGiven = (sql: Sql, launch: string): Promise<Given[]> => sql<Given>`
  select item, class as answer, count(*)::int as people from events
  where launch_id = ${launch} and kind = 'answered' group by item, class`;

/** What people said beside their answers, the latest first. */
export const wordsGiven = (
  sql: Sql,
  launch: string,
  most: number,
): Promise<{ item: string; answer: string; words: string; email: string | null }[]> => sql`
  select e.item, e.class as answer, e.data ->> 'words' as words, c.email
  from events e left join contacts c on c.id = e.contact_id
  where e.launch_id = ${launch} and e.kind = 'answered' and e.data ? 'words' and e.data ->> 'words' <> ''
  order by e.at desc, e.id desc limit ${most}`;
