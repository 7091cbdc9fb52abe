/** Topics readers can choose, and what they chose; consent with its time, wording and source. */
import { z } from "zod";
import type { Language } from "#core/phrases/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { newId } from "../ids.ts";

const wordsSchema = z.record(z.string(), z.string());
export type Words = z.infer<typeof wordsSchema>;

export interface Topic {
  readonly id: string;
  readonly name: Words;
  readonly about: Words;
}

/** Words in a language; English, or whatever there is, where they are missing. */
export const inLanguage = (words: Words, language: Language): string =>
  words[language] || words.en || Object.values(words)[0] || "";

export async function getTopics(sql: Sql): Promise<Topic[]> {
  const rows = await sql<Topic>`select id, name, about from topics order by position, id`;
  return rows.map(({ id, name, about }) => ({
    id,
    name: wordsSchema.parse(name),
    about: wordsSchema.parse(about),
  }));
}

export async function addTopic(sql: Sql, name: Words, about: Words, now: Date): Promise<string> {
  const id = newId();
  await sql`insert into topics (id, name, about, position, created_at)
    select ${id}, ${jsonb(name)}, ${jsonb(about)},
      coalesce(max(position) + 1, 0), ${now} from topics`;
  return id;
}

export async function changeTopic(sql: Sql, id: string, name: Words, about: Words): Promise<void> {
  await sql`update topics set name = ${jsonb(name)},
    about = ${jsonb(about)} where id = ${id}`;
}

/** How many have said no to each topic. */
export async function countLeft(sql: Sql): Promise<Map<string, number>> {
  const rows = await sql<{ id: string; n: number }>`
    select topic_id as id, count(*)::int as n from topic_choices where not wants group by 1`;
  return new Map(rows.map(({ id, n }) => [id, n]));
}

/** The topics a contact does not want. */
export async function leftTopics(sql: Sql, contact: number): Promise<Set<string>> {
  const rows = await sql<{ id: string }>`
    select topic_id as id from topic_choices where contact_id = ${contact} and not wants`;
  return new Set(rows.map(({ id }) => id));
}

export interface Consent {
  readonly given: boolean;
  /** The topic it is about; null for everything. */
  readonly topic: string | null;
  readonly source: string;
  readonly wording: string;
  readonly at: Date;
}

export async function recordConsent(
  sql: Sql,
  contact: number,
  { given, topic, source, wording, at }: Consent,
): Promise<void> {
  await sql`insert into consents (contact_id, given, topic_id, source, wording, at)
    values (${contact}, ${given}, ${topic}, ${source}, ${wording}, ${at})`;
}

/** What a contact said yes or no to, the latest first. */
export const consentsOf = (sql: Sql, contact: number): Promise<Consent[]> =>
  sql<Consent>`select given, topic_id as topic, source, wording, at from consents
    where contact_id = ${contact} order by at desc, id desc`;

/** Sets what a contact wants; each change is a consent of its own. Gives how many there were. */
export async function chooseTopics(
  sql: Sql,
  contact: number,
  wanted: ReadonlySet<string>,
  { source, language, at }: { source: string; language: Language; at: Date },
): Promise<number> {
  const left = await leftTopics(sql, contact);
  let changes = 0;
  for (const topic of await getTopics(sql)) {
    const wants = wanted.has(topic.id);
    if (wants === !left.has(topic.id)) continue;
    changes++;
    await sql`insert into topic_choices (contact_id, topic_id, wants, at)
      values (${contact}, ${topic.id}, ${wants}, ${at})
      on conflict (contact_id, topic_id) do update set wants = excluded.wants, at = excluded.at`;
    const wording = inLanguage(topic.name, language);
    await recordConsent(sql, contact, { given: wants, topic: topic.id, source, wording, at });
  }
  return changes;
}

/** The topic of a campaign. */
export async function topicOf(sql: Sql, campaign: string): Promise<string | null> {
  return (
    first(
      await sql<{ topic: string | null }>`
        select topic_id as topic from campaigns where id = ${campaign}`,
    )?.topic ?? null
  );
}

export async function setTopic(sql: Sql, campaign: string, topic: string | null): Promise<void> {
  await sql`update campaigns set topic_id = ${topic} where id = ${campaign}`;
}
