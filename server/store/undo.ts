/** Undo and redo: per person and document, over what others did since. */
import { type LaterEdit, rebase, type StoredEdit } from "#core/document/index.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import {
  type Author,
  editsSince,
  lock,
  readEdit,
  type StoredDocument,
  save,
  store,
} from "./documents.ts";

interface Candidate {
  seq: number;
  /** The step it belongs to, or the one that it took back. */
  step: number;
  words: string | null;
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
      await sql<Candidate>`select seq, step, words, inverse, schema_version from edits
        where document_id = ${documentId} and member_id = ${member}
          and undoes is null and undone_by is null
        order by seq desc limit 1`,
    );
  }
  // Doing something new closes the way forward: an own edit later than the undo, itself not a redo.
  return first(
    await sql<Candidate>`select u.seq, t.step, u.words, u.inverse, u.schema_version from edits u
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
  let state = await lock(sql, documentId);
  const next = () => candidate(sql, documentId, author.member, what);
  const out: StoredEdit[] = [];
  let found = await next();
  const own = found?.step;
  for (; found && found.step === own; found = await next()) {
    const done = await reverse(sql, state, what, found, author);
    state = done.state;
    out.push(done.edit);
  }
  if (out.length) await save(sql, state, author.at);
  return out;
}

/** Stores the inverse of one edit, moved over what was done since. */
async function reverse(
  sql: Sql,
  state: StoredDocument,
  what: "undo" | "redo",
  found: Candidate,
  author: Author,
): Promise<{ state: StoredDocument; edit: StoredEdit }> {
  const inverse = readEdit(found.inverse, found.schema_version, state.doc);
  const later = await laterEdits(sql, state.id, found.seq);
  const edit = rebase(state.doc, inverse, later);
  const done = await store(sql, state, newId(), edit, author, what === "undo" ? found : null);
  await sql`update edits set undone_by = ${done.edit.seq}
    where document_id = ${state.id} and seq = ${found.seq}`;
  return done;
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
