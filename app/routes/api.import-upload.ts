/** Takes a file of people or records as it is sent, without ever holding all of it. */
import type { ReadableStream } from "node:stream/web";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { saveFile } from "#server/import/files.ts";
import { ImportError } from "#server/import/records.ts";
import { CONTACTS, getSchema } from "#server/store/fields.ts";
import { createImport, newImportId } from "#server/store/imports.ts";
import { getSource } from "#server/store/sources.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.import-upload.ts";

const nameSchema = z.string().trim().min(1).max(LIMITS.nameLength).catch("people.csv");
const intoSchema = z.string().max(40).catch(CONTACTS);

export async function action({ request, context }: Route.ActionArgs) {
  const { sql, services, now, member } = at(context);
  const params = new URL(request.url).searchParams;
  const name = nameSchema.parse(params.get("name"));
  const table = intoSchema.parse(params.get("into"));
  const known =
    table === CONTACTS ||
    (await getSchema(sql)).tables.has(table) ||
    (await getSource(sql, table)) !== null;
  if (!known) {
    return Response.json({ problem: "This table is gone." }, { status: 404 });
  }
  if (!request.body)
    return Response.json({ problem: "There is nothing in this file." }, { status: 400 });
  const id = newImportId();
  try {
    const bytes = await saveFile(services.imports.folder, id, request.body as ReadableStream);
    await createImport(sql, { id, table, name, bytes }, member.id, now);
  } catch (error) {
    if (!(error instanceof ImportError)) throw error;
    return Response.json({ problem: error.message }, { status: 413 });
  }
  return Response.json({ id });
}
