/** Derived tags, as the library keeps them. */
import { readDocument } from "#core/blocks/read.ts";
import {
  type DerivedTag,
  type DerivedTags,
  derivedIdOf,
  derivedRefs,
  derivedSchema,
} from "#core/derived/index.ts";
import { fieldIdFor } from "#core/fields/index.ts";
import { derivedIn } from "#core/mentions/index.ts";
import type { Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { UNSENT } from "./unsent.ts";

/** All of them by id. One that no longer fits its own form is left out. */
export async function getDerived(sql: Sql): Promise<DerivedTags> {
  const rows = await sql<{ id: string; name: string; body: object }>`
    select id, name, body from derived_tags order by name, id`;
  return new Map(
    rows.flatMap(({ id, name, body }) => {
      const read = derivedSchema.safeParse({ ...body, name });
      return read.success ? [[id, { id, ...read.data }] as const] : [];
    }),
  );
}

/** Keeps a new one; its id is made of its name, so that it can be read where it is written by hand. */
export async function addDerived(
  sql: Sql,
  { name, ...body }: Omit<DerivedTag, "id">,
  now: Date,
): Promise<string> {
  const known = new Set(
    (await sql<{ id: string }>`select id from derived_tags`).map(({ id }) => id),
  );
  const id = fieldIdFor(name, (one) => known.has(one));
  await sql`insert into derived_tags (id, name, body, created_at)
    values (${id}, ${name}, ${jsonb(body)}, ${now})`;
  return id;
}

export async function changeDerived(sql: Sql, { id, name, ...body }: DerivedTag): Promise<void> {
  await sql`update derived_tags set name = ${name}, body = ${jsonb(body)}
    where id = ${id}`;
}

/** What names each derived tag: emails that are not sent yet, and other derived tags. */
export async function derivedUses(sql: Sql): Promise<ReadonlyMap<string, readonly string[]>> {
  const uses = new Map<string, string[]>();
  const add = (ids: Iterable<string>, name: string) => {
    for (const id of ids) uses.set(id, [...(uses.get(id) ?? []), `“${name}”`]);
  };
  const emails = await sql<{ name: string; body: string }>`
    select k.name, d.body from campaigns k join documents d on d.id = k.document_id
    where ${UNSENT} and position('derived' in d.body) > 0
    order by k.name`;
  for (const { name, body } of emails) add(derivedIn(readDocument(body).doc.root), name);
  for (const tag of (await getDerived(sql)).values()) {
    add(new Set(derivedRefs(tag).flatMap((ref) => derivedIdOf(ref) ?? [])), tag.name);
  }
  return uses;
}
