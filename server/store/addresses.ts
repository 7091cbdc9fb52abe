/** Web addresses that links of the latest emails lead to. */
import { isJsonObject, type Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { type Line, plainLine } from "#core/text/index.ts";
import type { Sql } from "../db/database.ts";

/** The addresses of links anywhere in a document, those without merge tags. */
function addressesIn(value: Json, found: Set<string>): void {
  if (Array.isArray(value)) for (const one of value) addressesIn(one, found);
  if (!isJsonObject(value)) return;
  if (value.kind === "web" && isJsonObject(value.address)) {
    const line = value.address as unknown as Line;
    const plain = (line.content ?? []).every((part) => part.type === "text");
    const address = plainLine(line, () => "");
    if (plain && address) found.add(address);
  }
  for (const one of Object.values(value)) addressesIn(one, found);
}

/** Addresses of this document, then of the others that were changed last; each once. */
export async function usedAddresses(sql: Sql, documentId: string): Promise<string[]> {
  const rows = await sql<{ body: string }>`
    select d.body from documents d join campaigns c on c.document_id = d.id
    order by d.id = ${documentId} desc, d.updated_at desc
    limit ${LIMITS.addressDocuments}`;
  const found = new Set<string>();
  for (const { body } of rows) addressesIn(JSON.parse(body) as Json, found);
  return [...found].slice(0, LIMITS.addressesOffered);
}
