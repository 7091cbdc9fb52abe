/** Files that links lead to, brought from a device. */
import { LIMITS } from "#core/limits.ts";
import { FILE_TYPES, fileEnding } from "#core/text/index.ts";
import { addFile } from "#server/store/files.ts";
import { sentForm } from "../form.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.files.ts";

const refuse = (message: string, status = 400) => Response.json({ message }, { status });
const TOO_LARGE = `A file may have at most ${LIMITS.fileBytes / 1e6} MB.`;
const KINDS = `Only these can be linked to: ${Object.keys(FILE_TYPES).join(", ")}.`;

export async function action({ request, context }: Route.ActionArgs) {
  const sent = (await sentForm(request)).get("file");
  if (!(sent instanceof File) || sent.size === 0) return refuse("Choose a file.");
  if (sent.size > LIMITS.fileBytes) return refuse(TOO_LARGE);
  const ending = fileEnding(sent.name);
  if (!ending) return refuse(KINDS);
  const bytes = new Uint8Array(await sent.arrayBuffer());
  if (ending === "pdf" && Buffer.from(bytes.subarray(0, 5)).toString("latin1") !== "%PDF-") {
    return refuse("This file calls itself a PDF, and is none.");
  }
  const { services, sql, now } = at(context);
  const file = `${await services.files.add(bytes, ending)}.${ending}`;
  const name = sent.name.replaceAll("\0", "").toWellFormed().slice(-LIMITS.nameLength);
  const kept = await addFile(sql, { file, name, bytes: bytes.length }, now);
  return kept ? Response.json({ file: kept }) : refuse(`At most ${LIMITS.files} files.`, 409);
}
