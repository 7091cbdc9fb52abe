/** What people brought along to start from, until it has become a campaign. */
import type { FoundTag, Meaning } from "#core/import/emails/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { newId } from "../ids.ts";

export interface Arrival {
  readonly id: string;
  readonly name: string;
  readonly kind: "foreign" | "own";
  readonly subject: string;
  readonly html: string;
  /** Somebody's words, which look like nothing yet. */
  readonly draft: boolean;
  /** An email of ours, as JSON; null where it is foreign. */
  readonly document: string | null;
  readonly about: string;
  readonly category: string;
  readonly pictures: Readonly<Record<string, string | null>>;
  readonly tags: readonly FoundTag[];
  readonly meanings: Readonly<Record<string, Meaning>>;
  readonly notes: readonly string[];
}

export async function createArrival(
  sql: Sql,
  arrival: Omit<Arrival, "id">,
  member: string,
  now: Date,
): Promise<string> {
  const id = newId();
  const { name, kind, subject, html, draft, document, about, category } = arrival;
  await sql`insert into arrivals (id, member_id, name, kind, subject, html, draft, document, about, category,
      pictures, tags, meanings, notes, created_at)
    values (${id}, ${member}, ${name}, ${kind}, ${subject}, ${html}, ${draft}, ${document}, ${about}, ${category},
      ${jsonb(arrival.pictures)}, ${jsonb(arrival.tags)},
      ${jsonb(arrival.meanings)}, ${jsonb(arrival.notes)}, ${now})`;
  return id;
}

/** Only whoever brought it sees it. */
export const getArrival = async (sql: Sql, id: string, member: string): Promise<Arrival | null> =>
  first(
    await sql<Arrival>`select id, name, kind, subject, html, draft, document, about, category, pictures, tags,
      meanings, notes from arrivals where id = ${id} and member_id = ${member}`,
  );

export async function setMeanings(
  sql: Sql,
  id: string,
  meanings: Readonly<Record<string, Meaning>>,
): Promise<void> {
  await sql`update arrivals set meanings = ${jsonb(meanings)} where id = ${id}`;
}

/** Takes an arrival out, as it becomes something else. False where somebody was quicker. */
export const takeArrival = async (sql: Sql, id: string): Promise<boolean> =>
  (await sql`delete from arrivals where id = ${id} returning 1`).length > 0;

/** Removes the oldest of those from before a moment; gives how many. */
export const oldArrivals = async (sql: Sql, before: Date, most: number): Promise<number> =>
  (
    await sql`delete from arrivals where id in (
      select id from arrivals where created_at < ${before} order by created_at limit ${most}) returning 1`
  ).length;
