/** Kept moments: states of a document one can go back to. */
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";

/** A state one can go back to. */
export interface Moment {
  readonly id: string;
  readonly seq: number;
  readonly name: string;
  /** Kept by the application before a big step. */
  readonly automatic: boolean;
  readonly person: string;
  readonly at: string;
}

export async function listMoments(sql: Sql, documentId: string): Promise<Moment[]> {
  const rows = await sql<Omit<Moment, "at" | "person"> & { at: Date; person: string | null }>`
    select k.id, k.seq, k.name, k.automatic, m.name as person, k.at
    from moments k left join members m on m.id = k.member_id
    where k.document_id = ${documentId}
    order by k.seq desc, k.at desc`;
  return rows.map((row) => ({
    ...row,
    person: row.person ?? "Somebody",
    at: row.at.toISOString(),
  }));
}

interface Keeping {
  readonly documentId: string;
  readonly seq: number;
  readonly name: string;
  readonly automatic: boolean;
  readonly member: string;
  readonly at: Date;
}

/** Keeps a state under a name. The oldest automatic ones make room for new ones. */
export async function keepMoment(sql: Sql, keeping: Keeping): Promise<void> {
  const { documentId, seq, name, automatic, member, at } = keeping;
  await sql`insert into moments (id, document_id, seq, name, automatic, member_id, at)
    values (${newId()}, ${documentId}, ${seq}, ${name}, ${automatic}, ${member}, ${at})`;
  if (automatic) {
    await sql`delete from moments where document_id = ${documentId} and automatic and id not in (
      select id from moments where document_id = ${documentId} and automatic
      order by seq desc, at desc limit ${LIMITS.automaticMoments})`;
  }
}

export async function countMoments(sql: Sql, documentId: string): Promise<number> {
  return first(
    await sql<{ n: number }>`select count(*)::int as n from moments
      where document_id = ${documentId} and not automatic`,
  )!.n;
}

export async function dropMoment(sql: Sql, documentId: string, id: string): Promise<void> {
  await sql`delete from moments where document_id = ${documentId} and id = ${id}`;
}
