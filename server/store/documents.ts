/** Documents and the edits made to them. The one place where a document changes. */

import { checkEdit } from "#core/blocks/check-edit.ts";
import { wordsOfEdit } from "#core/blocks/edit-words.ts";
import { checkDocument } from "#core/blocks/index.ts";
import { type ReadDocument, readDocument, type Trouble } from "#core/blocks/read.ts";
import {
  admitted,
  apply,
  applyWithInverse,
  type Change,
  type Does,
  type Edit,
  EditError,
  type EmailDocument,
  type Envelope,
  editSchema,
  find,
  migrateEdit,
  nextStep,
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

/** Edits that cannot be joined with what others stored since the state they were made on. */
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
  inverse: string;
  schema_version: number;
  does: Does;
  step: string;
  of_step: string | null;
}
/** An edit as it is in this version of the document model. */
export const readEdit = (json: string, version: number, doc: EmailDocument | null): Edit =>
  editSchema.parse(
    migrateEdit(JSON.parse(json), version, (node) =>
      doc ? find(doc, node)?.node.type : undefined,
    ),
  );
const stored = (row: Row, doc: EmailDocument | null): StoredEdit & { inverse: Edit } => ({
  id: row.envelope_id,
  seq: row.seq,
  tab: row.tab,
  person: row.member_id,
  at: row.at.toISOString(),
  edit: readEdit(row.edit, row.schema_version, doc),
  inverse: readEdit(row.inverse, row.schema_version, doc),
  does: row.does,
  step: row.step,
  of: row.of_step,
});
const toldOf = ({ inverse: _inverse, ...edit }: StoredEdit & { inverse: Edit }): StoredEdit => edit;

/** The edits after a sequence number, each with the edit that takes it back. */
async function withInverses(
  sql: Sql,
  documentId: string,
  seq: number,
): Promise<(StoredEdit & { inverse: Edit })[]> {
  const rows = await sql<Row>`
    select seq, envelope_id, member_id, tab, at, edit, inverse, schema_version, does, step, of_step
    from edits where document_id = ${documentId} and seq > ${seq} order by seq`;
  // Only edits of an older version of the model need to know the document they are for.
  const old = rows.some((row) => row.schema_version < SCHEMA_VERSION);
  const doc = old ? ((await loadDocument(sql, documentId))?.doc ?? null) : null;
  return rows.map((row) => stored(row, doc));
}

/** The edits after a sequence number. */
export const editsSince = async (
  sql: Sql,
  documentId: string,
  seq: number,
): Promise<StoredEdit[]> => (await withInverses(sql, documentId, seq)).map(toldOf);

/** What was done before: back to the member's last so many steps, for undo in the browser. */
export async function earlierEdits(
  sql: Sql,
  documentId: string,
  member: string,
): Promise<(StoredEdit & { inverse: Edit })[]> {
  const row = first(
    await sql<{ seq: number | null }>`
      select min(seq)::int as seq from (
        select min(seq) as seq from edits where document_id = ${documentId} and member_id = ${member}
        group by step order by max(seq) desc limit ${LIMITS.undoSteps}) steps`,
  );
  if (row?.seq == null) return [];
  const from = first(
    await sql<{
      seq: number;
    }>`select greatest(${row.seq - 1}, seq - ${LIMITS.undoEdits})::int as seq
      from documents where id = ${documentId}`,
  );
  return withInverses(sql, documentId, from!.seq);
}

/** What a person could undo and redo. */
export async function undoState(
  sql: Sql,
  documentId: string,
  member: string,
): Promise<{ undo: boolean; redo: boolean }> {
  const marks = await sql<{ does: Does; step: string; of: string | null }>`
    select does, step, of_step as of from (
      select does, step, of_step, seq from edits
      where document_id = ${documentId} and member_id = ${member}
      order by seq desc limit ${LIMITS.undoEdits}) latest
    order by seq`;
  return { undo: nextStep(marks, "undo") !== null, redo: nextStep(marks, "redo") !== null };
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
  /** Whether what templates hold is held for them. */
  readonly held?: boolean;
  /** It changes what is linked wherever that stands. */
  readonly linking?: boolean;
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

/** Stores one edit and gives the state after it; the document itself is written by `save` when all are stored. */
async function store(
  sql: Sql,
  state: StoredDocument,
  change: Change,
  author: Author,
): Promise<{ state: StoredDocument; edit: StoredEdit }> {
  const { id, edit, does, step, of } = change;
  const { member, tab, at } = author;
  const { doc, inverse } = applyWithInverse(state.doc, edit);
  checkEdit(state.doc, doc, edit, author);
  const seq = state.seq + 1;
  const said = of === null ? wordsOfEdit(state.doc, edit) : await wordsOfStep(sql, state.id, of);
  if (does === "do" && isBig(state.doc, edit)) {
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
  await sql`insert into edits (document_id, seq, envelope_id, member_id, tab, at, edit, inverse,
      schema_version, words, does, step, of_step)
    values (${state.id}, ${seq}, ${id}, ${member}, ${tab}, ${at}, ${canonical(edit)},
      ${canonical(inverse)}, ${SCHEMA_VERSION}, ${said}, ${does}, ${step}, ${of})`;
  return {
    state: { ...state, seq, doc },
    edit: { ...change, seq, tab, person: member, at: at.toISOString() },
  };
}

/** What a step did, in the words of its first edit. */
const wordsOfStep = async (sql: Sql, documentId: string, step: string): Promise<string | null> =>
  first(
    await sql<{ words: string | null }>`select words from edits
      where document_id = ${documentId} and step = ${step} order by seq limit 1`,
  )?.words ?? null;

/** Writes the document as it is after the edits that were stored. */
export async function save(sql: Sql, { id, seq, doc }: StoredDocument, at: Date): Promise<void> {
  const body = canonical(doc);
  await sql`update documents set seq = ${seq}, body = ${body}, updated_at = ${at} where id = ${id}`;
  keep(body, { doc, trouble: null });
}

/** What came of a request: the edits of it as they are stored, and the number of the state after them. */
export interface Appended {
  readonly edits: StoredEdit[];
  readonly seq: number;
}

/**
 * Stores edits made one after another on a state, all or none. What came since is merged: they are moved over
 * it. One that is stored already is not stored again, and of two that take the same step back the second is
 * left out. Throws an EditError, or a StaleEditError where they cannot be joined with what came since.
 */
export async function appendEdits(
  sql: Sql,
  documentId: string,
  { tab, base, changes }: Envelope,
  author: Omit<Author, "tab">,
): Promise<Appended> {
  let state = await lock(sql, documentId);
  const begun = state.seq;
  const since = base < begun ? await withInverses(sql, documentId, base) : [];
  const before = since.reduceRight((doc, { inverse }) => apply(doc, inverse), state.doc);
  const first = { seq: begun - since.length, doc: before };
  const once = [...new Map(changes.map((change) => [change.id, change])).values()];
  const { changes: left, stale } = admitted(first, once, since);
  if (stale) throw new StaleEditError();
  const taken = await takenSteps(sql, documentId, author.member, left);
  const made: StoredEdit[] = [];
  for (const change of left) {
    if (change.of !== null && taken.has(change.of)) continue;
    const done = await store(sql, state, change, { ...author, tab });
    state = done.state;
    made.push(done.edit);
    if (change.of !== null) taken.add(change.of);
  }
  if (made.length > 0) await save(sql, state, author.at);
  const known = new Map([...since.map(toldOf), ...made].map((edit) => [edit.id, edit]));
  return { edits: changes.flatMap(({ id }) => known.get(id) ?? []), seq: state.seq };
}

/** Of the steps that changes take back, those that the person has taken back already. */
async function takenSteps(
  sql: Sql,
  documentId: string,
  member: string,
  changes: readonly Change[],
): Promise<Set<string>> {
  const steps = changes.flatMap(({ of }) => (of === null ? [] : [of]));
  if (steps.length === 0) return new Set();
  const rows = await sql<{ of: string }>`
    select distinct of_step as of from edits
    where document_id = ${documentId} and member_id = ${member} and of_step = any(${steps})`;
  return new Set(rows.map(({ of }) => of));
}
