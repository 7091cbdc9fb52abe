/** Blocks and bands that were saved: copies, whatever becomes of the email they come from. */
import { checkDocument, createBand, createColumn, createDocument } from "#core/blocks/index.ts";
import { unlinked } from "#core/blocks/linked.ts";
import { readDocument } from "#core/blocks/read.ts";
import { checkTree, type DocNode, type EmailDocument, isBlock } from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { fragment, identifier } from "#core/rules/index.ts";
import { READY_MADE, readyMade } from "#core/templates/saved.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { wordsFit } from "./search.ts";
import { ON_ITS_WAY, UNSENT } from "./unsent.ts";

export type SavedKind = "band" | "block";
export interface Saved {
  readonly id: string;
  readonly name: string;
  readonly kind: SavedKind;
  readonly nodes: readonly DocNode[];
  /** It ships: nobody can delete it. */
  readonly ships: boolean;
}

const kindOf = (nodes: readonly DocNode[]): SavedKind =>
  nodes.every(({ type }) => type === "band") ? "band" : "block";

/** An email that holds them alone. Throws an EditError where they are no blocks, and no bands. */
export function emailOf(nodes: readonly DocNode[]): EmailDocument {
  let n = 0;
  const id = () => `saved${++n}`;
  const bands =
    kindOf(nodes) === "band"
      ? nodes
      : [
          createBand(id, [
            createColumn(
              id,
              nodes.filter(({ type }) => isBlock(type)),
            ),
          ]),
        ];
  const doc = createDocument(bands);
  checkDocument(doc);
  checkTree(doc.root, null);
  return doc;
}

/** The nodes of an email that holds them alone. */
export const nodesOf = ({ root }: EmailDocument, kind: SavedKind): readonly DocNode[] =>
  kind === "band" ? root.children : (root.children[0]?.children[0]?.children ?? []);

/** The same, as far as it can be read. */
const nodesIn = (body: string, kind: SavedKind): readonly DocNode[] =>
  nodesOf(readDocument(body).doc, kind);

const ROW = fragment`id, name, kind, body`;
interface Row {
  readonly id: string;
  readonly name: string;
  readonly kind: SavedKind;
  readonly body: string;
}
const asSaved = ({ id, name, kind, body }: Row): Saved => ({
  ...{ id, name, kind, ships: false },
  nodes: nodesIn(body, kind),
});

const SHIPS = "ready:";
const shipped = (): Saved[] =>
  READY_MADE.map(({ key, name }) => ({
    ...{ id: `${SHIPS}${key}`, name, kind: "band" as const, ships: true },
    nodes: [readyMade(key)!],
  }));

const shippedNamed = (words: string): Saved[] =>
  shipped().filter(({ name }) => name.toLowerCase().includes(words.trim().toLowerCase()));

const countRows = async (sql: Sql, words = ""): Promise<number> =>
  first(
    await sql<{ n: number }>`select count(*)::int as n from saved_blocks
      where ${wordsFit(identifier("name"), words)}`,
  )!.n;

/** How many there are whose names fit, those that ship too. */
export const countSaved = async (sql: Sql, words = ""): Promise<number> =>
  (await countRows(sql, words)) + shippedNamed(words).length;

/** A page of those whose names fit, the latest first; what ships stands behind. */
export async function listSaved(
  sql: Sql,
  { words = "", from = 0, limit }: { words?: string; from?: number; limit: number },
): Promise<Saved[]> {
  const rows =
    await sql<Row>`select ${ROW} from saved_blocks where ${wordsFit(identifier("name"), words)}
      order by created_at desc, id offset ${from} limit ${limit}`;
  if (rows.length === limit) return rows.map(asSaved);
  const before = Math.max(0, from - (await countRows(sql, words)));
  const ready = shippedNamed(words).slice(before, before + limit - rows.length);
  return [...rows.map(asSaved), ...ready];
}

export async function getSaved(sql: Sql, id: string): Promise<Saved | null> {
  if (id.startsWith(SHIPS)) return shipped().find((one) => one.id === id) ?? null;
  const row = first(await sql<Row>`select ${ROW} from saved_blocks where id = ${id}`);
  return row && asSaved(row);
}

/** Saves nodes under a name; null where there are as many as there may be. Throws an EditError. */
export async function save(
  sql: Sql,
  name: string,
  nodes: readonly DocNode[],
  now: Date,
  member: string | null = null,
): Promise<string | null> {
  const body = canonical(emailOf(nodes.map(unlinked)) as never);
  if ((await countRows(sql)) >= LIMITS.savedBlocks) return null;
  const id = newId();
  await sql`insert into saved_blocks (id, name, kind, body, created_at, changed_by)
    values (${id}, ${name}, ${kindOf(nodes)}, ${body}, ${now}, ${member})`;
  return id;
}

export const renameSaved = async (sql: Sql, id: string, name: string): Promise<boolean> =>
  (await sql`update saved_blocks set name = ${name} where id = ${id} returning 1`).length > 0;

/** Saved blocks by their ids, with who changed them last; those that are gone are left out. */
export async function savedById(
  sql: Sql,
  ids: Iterable<string>,
): Promise<ReadonlyMap<string, { nodes: readonly DocNode[]; by: string | null }>> {
  const rows = await sql<Row & { by: string | null }>`
    select ${ROW}, changed_by as by from saved_blocks where id = any (${[...ids]}::text[])`;
  return new Map(rows.map((row) => [row.id, { nodes: asSaved(row).nodes, by: row.by }]));
}

/** Changes what a saved block says; false where it is gone. Throws an EditError where it is none. */
export async function changeSaved(
  sql: Sql,
  id: string,
  node: DocNode,
  member: string,
): Promise<boolean> {
  const nodes = [unlinked(node)];
  const body = canonical(emailOf(nodes) as never);
  return (
    (
      await sql`update saved_blocks set body = ${body}, changed_by = ${member} where id = ${id} and kind = ${kindOf(nodes)}
        returning 1`
    ).length > 0
  );
}

export interface LinkedPlace {
  readonly kind: "campaign" | "template";
  readonly name: string;
  readonly document: string;
  /** It stays as it is until its launch: it is scheduled, or on its way. */
  readonly fixed: boolean;
}

/** Emails that are not sent yet, and templates, that are linked to a saved block, by name. */
export const linkedPlaces = (sql: Sql, id: string): Promise<LinkedPlace[]> => {
  // As canonical JSON has it.
  const link = `"saved":${JSON.stringify(id)}`;
  return sql<LinkedPlace>`
    select 'campaign' as kind, k.name, k.document_id as document,
        ${ON_ITS_WAY} as fixed
      from campaigns k join documents d on d.id = k.document_id
      where ${UNSENT} and position(${link} in d.body) > 0
    union all select 'template', t.name, t.document_id, false
      from templates t join documents d on d.id = t.document_id where position(${link} in d.body) > 0
    order by 2, 3`;
};
