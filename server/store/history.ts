/** What was done to a document, in words and with times; and the states it had. */
import { apply, type Does, EditError, type EmailDocument } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../db/database.ts";
import { loadDocument, readEdit } from "./documents.ts";

/** One step of a person: an edit, or several that belong together. */
export interface HistoryStep {
  /** The sequence number of the state after it. */
  readonly seq: number;
  readonly person: string;
  readonly at: string;
  readonly words: string;
  readonly edits: number;
  /** It has been taken back since. */
  readonly undone: boolean;
}

const SAID: Record<Does, string> = { do: "", undo: "Took back: ", redo: "Did again: " };

/** The latest steps, the last first. */
export async function listSteps(sql: Sql, documentId: string): Promise<HistoryStep[]> {
  const rows = await sql<{
    seq: number;
    name: string | null;
    at: Date;
    words: string | null;
    does: Does;
    edits: number;
    undone: boolean;
  }>`
    select max(e.seq)::int as seq, min(m.name) as name, max(e.at) as at,
      (array_agg(e.words order by e.seq))[1] as words,
      min(e.does) as does, count(*)::int as edits,
      exists (select 1 from edits t where t.document_id = ${documentId} and t.of_step = e.step) as undone
    from edits e left join members m on m.id = e.member_id
    where e.document_id = ${documentId}
    group by e.step
    order by max(e.seq) desc
    limit ${LIMITS.historySteps}`;
  return rows.map(({ seq, name, at, words, does, edits, undone }) => ({
    seq,
    person: name ?? "Somebody",
    at: at.toISOString(),
    words: `${SAID[does]}${words ?? "A change"}`,
    edits,
    undone,
  }));
}

/**
 * The document as it was after the edit of this number; 0 is how it began. Throws an EditError where that
 * state cannot be told any more.
 */
export async function stateAt(sql: Sql, documentId: string, seq: number): Promise<EmailDocument> {
  const now = await loadDocument(sql, documentId);
  if (!now || now.trouble) throw new EditError("missing", "This email cannot be read.");
  if (seq < 0 || seq > now.seq) throw new EditError("missing", "There is no such state.");
  const rows = await sql<{ inverse: string; schema_version: number }>`
    select inverse, schema_version from edits
    where document_id = ${documentId} and seq > ${seq} order by seq desc`;
  return rows.reduce(
    (doc, row) => apply(doc, readEdit(row.inverse, row.schema_version, doc)),
    now.doc,
  );
}

/** How many steps stand that were made after a state, none taken back. */
export async function stepsSince(
  sql: Sql,
  documentId: string,
  seq: number | null,
): Promise<number> {
  const row = first(
    await sql<{ steps: number }>`
      select count(distinct e.step)::int as steps from edits e
      where e.document_id = ${documentId} and e.seq > ${seq ?? 0} and e.does <> 'undo'
        and not exists (select 1 from edits t
          where t.document_id = e.document_id and t.of_step = e.step)`,
  );
  return row?.steps ?? 0;
}
