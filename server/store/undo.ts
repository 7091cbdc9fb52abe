/** Undo and redo: per person and document, over what others did since. */
import { type LaterEdit, rebase, type StoredEdit } from "#core/document/index.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { type Author, editsSince, lock, readEdit, store } from "./documents.ts";

interface Candidate {
  seq: number;
  /** The step it belongs to, or the one that it took back. */
  step: number;
  inverse: string;
  schema_version: number;
}

/** A person's last edit that can be taken back, or last taken-back edit that can be done again. */
async function candidate(
  sql: Sql,
  documentId: string,
  member: string,
  what: "undo" | "redo",
): Promise<Candidate | null> {
  if (what === "undo") {
    return first(
      await sql<Candidate>`select seq, step, inverse, schema_version from edits
        where document_id = ${documentId} and member_id = ${member}
          and undoes is null and undone_by is null
        order by seq desc limit 1`,
    );
  }
  // Doing something new closes the way forward: an own edit later than the undo, itself not a redo.
  return first(
    await sql<Candidate>`select u.seq, t.step, u.inverse, u.schema_version from edits u
      join edits t on t.document_id = u.document_id and t.seq = u.undoes
      where u.document_id = ${documentId} and u.member_id = ${member}
        and u.undoes is not null and u.undone_by is null
        and not exists (select 1 from edits n
          where n.document_id = u.document_id and n.member_id = u.member_id and n.seq > u.seq
            and n.undoes is null
            and not exists (select 1 from edits r
              where r.document_id = n.document_id and r.undone_by = n.seq and r.undoes is not null))
      order by u.seq desc limit 1`,
  );
}

/** What a person could undo and redo. */
export async function undoState(
  sql: Sql,
  documentId: string,
  member: string,
): Promise<{ undo: boolean; redo: boolean }> {
  return {
    undo: (await candidate(sql, documentId, member, "undo")) !== null,
    redo: (await candidate(sql, documentId, member, "redo")) !== null,
  };
}

/**
 * Takes back the person's last step, or does it again: appends the inverse of each of its edits, moved over
 * what was done since. Gives the edits it made, none when there is nothing to do; throws an EditError when
 * its ground is gone.
 */
export async function step(
  sql: Sql,
  documentId: string,
  what: "undo" | "redo",
  author: Author,
): Promise<StoredEdit[]> {
  // A document that can only be looked at is refused even where there is nothing to take back.
  await lock(sql, documentId);
  const out: StoredEdit[] = [];
  for (
    let found = await candidate(sql, documentId, author.member, what), belongs = found?.step;
    found && found.step === belongs;
    found = await candidate(sql, documentId, author.member, what)
  ) {
    out.push(await reverse(sql, documentId, what, found, author));
  }
  return out;
}

async function reverse(
  sql: Sql,
  documentId: string,
  what: "undo" | "redo",
  found: Candidate,
  author: Author,
): Promise<StoredEdit> {
  const state = await lock(sql, documentId);
  const inverse = readEdit(found.inverse, found.schema_version, state.doc);
  const later = await laterEdits(sql, documentId, found.seq);
  const edit = rebase(state.doc, inverse, later);
  const done = await store(sql, state, newId(), edit, author, what === "undo" ? found.seq : null);
  await sql`update edits set undone_by = ${done.edit.seq}
    where document_id = ${documentId} and seq = ${found.seq}`;
  return done.edit;
}

/** The edits after `seq`, each with the one of them that it takes back. */
async function laterEdits(sql: Sql, documentId: string, seq: number): Promise<LaterEdit[]> {
  const later = await editsSince(sql, documentId, seq);
  const pairs = await sql<{ seq: number; undone_by: number }>`
    select seq, undone_by from edits
    where document_id = ${documentId} and seq > ${seq} and undone_by is not null`;
  const target = new Map(pairs.map((pair) => [pair.undone_by, pair.seq]));
  const at = new Map(later.map((edit, i) => [edit.seq, i]));
  return later.map(({ edit, seq: own }) => ({
    edit,
    takesBack: at.get(target.get(own) ?? -1) ?? null,
  }));
}
