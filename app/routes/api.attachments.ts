/** Files that go with a campaign's messages: put to them, and taken out. */
import { data } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { attach, attachmentsOf, detach } from "#server/store/attachments.ts";
import { sentForm } from "../form.ts";
import { at, campaignOf } from "../request.ts";
import type { Route } from "./+types/api.attachments.ts";

/** A media type (RFC 6838, 4.2) without parameters; what names none is a stream of bytes. */
const typeSchema = z
  .string()
  .regex(/^[a-z0-9][a-z0-9!#$&^_.+-]{0,60}\/[a-z0-9][a-z0-9!#$&^_.+-]{0,60}$/i)
  .catch("application/octet-stream");
const nameSchema = z.string().trim().min(1).max(LIMITS.nameLength).catch("file");
/** What mail services take for an attack, whoever sends it. */
const REFUSED = /\.(exe|com|bat|cmd|scr|msi|js|jse|vbs|vbe|wsf|ps1|jar|lnk|hta|cpl|reg|iso|img)$/i;

const refuse = (problem: string, status = 400) => data({ problem }, status);

export async function action({ request, params, context }: Route.ActionArgs) {
  const { sql, services, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const form = await sentForm(request);
  if (campaign.state !== "draft")
    return refuse("It is on its way: what it takes along is fixed.", 409);
  const remove = form.get("remove");
  if (typeof remove === "string") {
    await detach(sql, campaign.id, remove, now);
    return { problem: null };
  }
  const file = form.get("file");
  if (!(file instanceof File) || file.size === 0) return refuse("Choose a file.");
  if (file.size > LIMITS.attachmentBytes) {
    return refuse(`A file may have ${LIMITS.attachmentBytes / 1_000_000} MB at most.`, 413);
  }
  const name = nameSchema.parse(file.name);
  if (REFUSED.test(name))
    return refuse("Mail services refuse programs: send a link to it instead.");
  const content = new Uint8Array(await file.arrayBuffer());
  const taken = await services.database.tx(async (tx) => {
    if ((await attachmentsOf(tx, campaign.id)).length >= LIMITS.attachments) return false;
    await attach(tx, campaign.id, { name, type: typeSchema.parse(file.type), content }, now);
    return true;
  });
  return taken ? { problem: null } : refuse(`At most ${LIMITS.attachments} files.`, 409);
}
