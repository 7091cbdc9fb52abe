/** Documents and the edits made to them. The one place where a document changes. */
import { checkDocument } from "#core/blocks/index.ts";
import { type ReadDocument, readDocument, type Trouble } from "#core/blocks/read.ts";
import {
  apply,
  clash,
  type Edit,
  EditError,
  type EmailDocument,
  type Envelope,
  editSchema,
  find,
  invert,
  type LaterEdit,
  migrateEdit,
  rebase,
  SCHEMA_VERSION,
  type StoredEdit,
} from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";

export interface StoredDocument {
  readonly id: string;
  readonly seq: number;
  readonly doc: EmailDocument;
  /** Why it can only be looked at; null where it can be edited. */
  readonly trouble: Trouble | null;
}

/** An edit made on a state in which the same text has changed since. */
export class StaleEditError extends EditError {
  constructor() {
    super("invalid", "Somebody else has changed this text since.");
    this.name = "StaleEditError";
  }
}

export async function createDocumentRow(sql: Sql, doc: EmailDocument, now: Date): Promise<string> {
  checkDocument(doc);
  const id = newId();
  await sql`insert into documents (id, body, updated_at) values (${id}, ${canonical(doc)}, ${now})`;
  return id;
}

/** Documents by their stored spelling, as they were last read or written: most requests are for one of a few. */
const KEPT = 16;
const kept = new Map<string, ReadDocument>();

function keep(body: string, read: ReadDocument): ReadDocument {
  kept.delete(body);
  if (kept.size >= KEPT) kept.delete(kept.keys().next().value!);
  kept.set(body, read);
  return read;
}

/** Reads a stored document; one that was just read or written is the same object, its nodes checked already. */
const read = (body: string): ReadDocument => keep(body, kept.get(body) ?? readDocument(body));

/** A document that has to be whole: what is sent. Throws an EditError where it is newer or damaged. */
export function wholeDocument(body: string): EmailDocument {
  const { doc, trouble } = read(body);
  if (trouble) throw new EditError("invalid", trouble.reason);
  return doc;
}

export async function loadDocument(sql: Sql, id: string): Promise<StoredDocument | null> {
  const row = first(
    await sql<{ seq: number; body: string }>`select seq, body from documents where id = ${id}`,
  );
  return row && { id, seq: row.seq, ...read(row.body) };
}

interface Row {
  seq: number;
  envelope_id: string;
  member_id: string;
  tab: string;
  at: Date;
  edit: string;
  schema_version: number;
}
/** An edit as it is in this version of the document model. */
const readEdit = (json: string, version: number, doc: EmailDocument | null): Edit =>
  editSchema.parse(
    migrateEdit(JSON.parse(json), version, (node) =>
      doc ? find(doc, node)?.node.type : undefined,
    ),
  );
const stored = (row: Row, doc: EmailDocument | null): StoredEdit => ({
  id: row.envelope_id,
  seq: row.seq,
  tab: row.tab,
  person: row.member_id,
  at: row.at.toISOString(),
  edit: readEdit(row.edit, row.schema_version, doc),
});

/** The edits after a sequence number. */
export async function editsSince(sql: Sql, documentId: string, seq: number): Promise<StoredEdit[]> {
  const rows = await sql<Row>`
    select seq, envelope_id, member_id, tab, at, edit, schema_version from edits
    where document_id = ${documentId} and seq > ${seq} order by seq`;
  // Only edits of an older version of the model need to know the document they are for.
  const old = rows.some((row) => row.schema_version < SCHEMA_VERSION);
  const doc = old ? ((await loadDocument(sql, documentId))?.doc ?? null) : null;
  return rows.map((row) => stored(row, doc));
}

/** The document's row, locked until the transaction ends. Throws an EditError where it may only be read. */
async function lock(sql: Sql, id: string): Promise<StoredDocument> {
  const row = first(
    await sql<{ seq: number; body: string }>`
      select seq, body from documents where id = ${id} for update`,
  );
  if (!row) throw new EditError("missing", "This email is gone.");
  const { doc, trouble } = read(row.body);
  if (trouble) throw new EditError("invalid", trouble.reason);
  return { id, seq: row.seq, doc, trouble };
}

interface Author {
  readonly member: string;
  readonly tab: string;
  readonly at: Date;
}

async function store(
  sql: Sql,
  state: StoredDocument,
  envelopeId: string,
  edit: Edit,
  author: Author,
  undoes: number | null,
): Promise<{ state: StoredDocument; edit: StoredEdit }> {
  const inverse = invert(state.doc, edit);
  const doc = apply(state.doc, edit);
  checkDocument(doc);
  const seq = state.seq + 1;
  await sql`insert into edits (document_id, seq, envelope_id, member_id, tab, at, edit, inverse, undoes,
      schema_version)
    values (${state.id}, ${seq}, ${envelopeId}, ${author.member}, ${author.tab}, ${author.at},
      ${canonical(edit)}, ${canonical(inverse)}, ${undoes}, ${SCHEMA_VERSION})`;
  const body = canonical(doc);
  await sql`update documents set seq = ${seq}, body = ${body}, updated_at = ${author.at}
    where id = ${state.id}`;
  keep(body, { doc, trouble: null });
  const { member: person, tab, at } = author;
  return {
    state: { ...state, seq, doc },
    edit: { id: envelopeId, seq, tab, person, at: at.toISOString(), edit },
  };
}

/**
 * Applies envelopes in order, all or none, and gives the edits as stored. One that was stored before is
 * not applied again. Throws an EditError, or a StaleEditError where a text has changed since.
 */
export async function appendEdits(
  sql: Sql,
  documentId: string,
  envelopes: readonly Envelope[],
  author: Omit<Author, "tab">,
): Promise<StoredEdit[]> {
  let state = await lock(sql, documentId);
  const out: StoredEdit[] = [];
  for (const envelope of envelopes) {
    const before = first(
      await sql<Row>`select seq, envelope_id, member_id, tab, at, edit, schema_version from edits
        where document_id = ${documentId} and envelope_id = ${envelope.id}`,
    );
    if (before) {
      out.push(stored(before, state.doc));
      continue;
    }
    if (envelope.base < state.seq) {
      const later = await editsSince(sql, documentId, envelope.base);
      const others = later.filter((edit) => edit.tab !== envelope.tab);
      if (others.some((edit) => clash(envelope.edit, edit.edit))) throw new StaleEditError();
    }
    const done = await store(
      sql,
      state,
      envelope.id,
      envelope.edit,
      { ...author, tab: envelope.tab },
      null,
    );
    state = done.state;
    out.push(done.edit);
  }
  return out;
}

interface Candidate {
  seq: number;
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
      await sql<Candidate>`select seq, inverse, schema_version from edits
        where document_id = ${documentId} and member_id = ${member}
          and undoes is null and undone_by is null
        order by seq desc limit 1`,
    );
  }
  // Doing something new closes the way forward: an own edit later than the undo, itself not a redo.
  return first(
    await sql<Candidate>`select u.seq, u.inverse, u.schema_version from edits u
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
export async function history(
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
 * Takes back the person's last edit, or does it again: appends its inverse, moved over what was done
 * since. Gives null when there is nothing to do; throws an EditError when its ground is gone.
 */
export async function step(
  sql: Sql,
  documentId: string,
  what: "undo" | "redo",
  author: Author,
): Promise<StoredEdit | null> {
  const state = await lock(sql, documentId);
  const found = await candidate(sql, documentId, author.member, what);
  if (!found) return null;
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
