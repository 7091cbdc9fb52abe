/** Documents and the edits made to them. The one place where a document changes. */
import { wordsOfEdit } from "#core/blocks/edit-words.ts";
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
  migrateEdit,
  parts,
  SCHEMA_VERSION,
  type StoredEdit,
  walk,
} from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { keepMoment } from "./moments.ts";

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
export const readEdit = (json: string, version: number, doc: EmailDocument | null): Edit =>
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
export async function lock(sql: Sql, id: string): Promise<StoredDocument> {
  const row = first(
    await sql<{ seq: number; body: string }>`
      select seq, body from documents where id = ${id} for update`,
  );
  if (!row) throw new EditError("missing", "This email is gone.");
  const { doc, trouble } = read(row.body);
  if (trouble) throw new EditError("invalid", trouble.reason);
  return { id, seq: row.seq, doc, trouble };
}

export interface Author {
  readonly member: string;
  readonly tab: string;
  readonly at: Date;
}

/** Pieces an edit takes out or changes from which on the state before it is kept. */
const BIG = 8;

/** Whether an edit is such a step that one may want to see how it was before. */
function isBig(doc: EmailDocument, edit: Edit): boolean {
  const weights = parts(edit).map((part) => {
    if (part.type === "restore") return BIG;
    if (part.type !== "remove") return 1;
    return [...walk(find(doc, part.node)?.node ?? doc.root)].length;
  });
  return weights.reduce((sum, one) => sum + one, 0) >= BIG;
}

/** The step an edit belongs to: that of the one before it, where both were typed into one text in one go. */
async function stepOf(
  sql: Sql,
  state: StoredDocument,
  edit: Edit,
  author: Author,
): Promise<number> {
  const own = state.seq + 1;
  if (edit.type !== "text") return own;
  const before = first(
    await sql<{ edit: string; at: Date; step: number; begun: Date }>`
      select e.edit, e.at, e.step, f.at as begun from edits e
      join edits f on f.document_id = e.document_id and f.seq = e.step
      where e.document_id = ${state.id} and e.seq = ${state.seq} and e.tab = ${author.tab}
        and e.member_id = ${author.member} and e.undoes is null and e.undone_by is null
        and e.schema_version = ${SCHEMA_VERSION}`,
  );
  if (!before) return own;
  const last = editSchema.parse(JSON.parse(before.edit));
  const same =
    last.type === "text" && last.node === edit.node && last.path.join(".") === edit.path.join(".");
  const rest = author.at.getTime() - before.at.getTime();
  const length = author.at.getTime() - before.begun.getTime();
  return same && rest <= LIMITS.stepRest && length <= LIMITS.stepLength ? before.step : own;
}

/** An edit that is taken back. */
export interface Undone {
  readonly seq: number;
  readonly words: string | null;
}

/** Stores one edit and gives the state after it; the document itself is written by `save` when all are stored. */
export async function store(
  sql: Sql,
  state: StoredDocument,
  envelopeId: string,
  edit: Edit,
  author: Author,
  undoes: Undone | null,
): Promise<{ state: StoredDocument; edit: StoredEdit }> {
  const inverse = invert(state.doc, edit);
  const doc = apply(state.doc, edit);
  checkDocument(doc);
  const seq = state.seq + 1;
  const step = undoes ? seq : await stepOf(sql, state, edit, author);
  const said = undoes ? undoes.words : wordsOfEdit(state.doc, edit);
  if (!undoes && isBig(state.doc, edit)) {
    const { member, at } = author;
    const name = `Before “${said}”`.slice(0, LIMITS.nameLength);
    await keepMoment(sql, {
      documentId: state.id,
      seq: state.seq,
      name,
      automatic: true,
      member,
      at,
    });
  }
  await sql`insert into edits (document_id, seq, envelope_id, member_id, tab, at, edit, inverse, undoes,
      schema_version, words, step)
    values (${state.id}, ${seq}, ${envelopeId}, ${author.member}, ${author.tab}, ${author.at},
      ${canonical(edit)}, ${canonical(inverse)}, ${undoes?.seq ?? null}, ${SCHEMA_VERSION}, ${said}, ${step})`;
  const { member: person, tab, at } = author;
  return {
    state: { ...state, seq, doc },
    edit: { id: envelopeId, seq, tab, person, at: at.toISOString(), edit },
  };
}

/** Writes the document as it is after the edits that were stored. */
export async function save(sql: Sql, { id, seq, doc }: StoredDocument, at: Date): Promise<void> {
  const body = canonical(doc);
  await sql`update documents set seq = ${seq}, body = ${body}, updated_at = ${at} where id = ${id}`;
  keep(body, { doc, trouble: null });
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
  const begun = state.seq;
  const known = await sql<Row>`
    select seq, envelope_id, member_id, tab, at, edit, schema_version from edits
    where document_id = ${documentId} and envelope_id = any(${envelopes.map(({ id }) => id)})`;
  const before = new Map(known.map((row) => [row.envelope_id, stored(row, state.doc)]));
  // Nobody else stores anything until this is done: what is later than an envelope's base is read once.
  const base = Math.min(...envelopes.map((envelope) => envelope.base));
  const later = base < begun ? await editsSince(sql, documentId, base) : [];
  const out: StoredEdit[] = [];
  for (const envelope of envelopes) {
    const done = before.get(envelope.id);
    if (done) {
      out.push(done);
      continue;
    }
    const others = later.filter(({ seq, tab }) => seq > envelope.base && tab !== envelope.tab);
    if (others.some((edit) => clash(envelope.edit, edit.edit))) throw new StaleEditError();
    const own = { ...author, tab: envelope.tab };
    const made = await store(sql, state, envelope.id, envelope.edit, own, null);
    state = made.state;
    before.set(envelope.id, made.edit);
    out.push(made.edit);
  }
  if (state.seq > begun) await save(sql, state, author.at);
  return out;
}
