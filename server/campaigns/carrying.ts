/** Templates that change, and the campaigns started from them. */
import { EditError, type EmailDocument, parts, together } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { type Carried, carry } from "#core/templates/carry.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import type { Campaign } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import { stateAt } from "../store/history.ts";
import { liftsHolds, type Member } from "../store/team.ts";
import {
  type StartedCampaign,
  startedCampaigns,
  startedFrom,
  type Template,
} from "../store/templates.ts";
import { makeStep } from "./step.ts";

/** A campaign that does not have all that its template has become. */
export interface Behind
  extends Pick<StartedCampaign, "id" | "name" | "documentId" | "seq" | "fixed"> {
  /** How many bands and blocks would change, and how many stay as they were changed by hand. */
  readonly changed: number;
  readonly kept: number;
}

/** What would change in a campaign. Throws an EditError where an earlier state cannot be told any more. */
async function carriedInto(
  sql: Sql,
  { documentId, seq }: Template,
  campaign: StartedCampaign,
): Promise<Carried> {
  const [before, after, began, now] = await Promise.all([
    stateAt(sql, documentId, campaign.templateSeq),
    stateAt(sql, documentId, seq),
    stateAt(sql, campaign.documentId, 0),
    stateAt(sql, campaign.documentId, campaign.seq),
  ]);
  return carry({ before, after, began, now });
}

/** The campaigns that are not sent and do not have all that a template has become. */
export async function campaignsBehind(sql: Sql, template: Template): Promise<Behind[]> {
  const behind: Behind[] = [];
  for (const campaign of await startedCampaigns(sql, template.id)) {
    if (campaign.templateSeq >= template.seq) continue;
    const carried = await carriedInto(sql, template, campaign).catch(told);
    if (!carried?.edit) continue;
    const { id, name, documentId, seq, fixed } = campaign;
    behind.push({
      ...{ id, name, documentId, seq, fixed },
      ...{ changed: carried.changed, kept: carried.kept.length },
    });
  }
  return behind;
}
const told = (error: unknown): null => {
  if (error instanceof EditError) return null;
  throw error;
};

/** The email of a campaign as it would be with its template's change; null where nothing would change. */
export async function withChange(
  sql: Sql,
  template: Template,
  campaign: string,
): Promise<EmailDocument | null> {
  const found = (await startedCampaigns(sql, template.id)).find(({ id }) => id === campaign);
  const carried = found && (await carriedInto(sql, template, found).catch(told));
  return carried ? carried.doc : null;
}

/** Carries a template's change into campaigns; gives the names of those that changed, and why others did not. */
export async function carryInto(
  services: Services,
  template: Template,
  ids: readonly string[],
  member: Member,
): Promise<{ readonly done: string[]; readonly left: { name: string; why: string }[] }> {
  const { sql } = services.database;
  const done: string[] = [];
  const left: { name: string; why: string }[] = [];
  for (const campaign of await startedCampaigns(sql, template.id)) {
    const { id, name, documentId, seq, fixed, templateSeq } = campaign;
    if (!ids.includes(id) || templateSeq >= template.seq) continue;
    if (fixed) {
      left.push({ name, why: "it is scheduled: call it back to change it." });
      continue;
    }
    try {
      const { edit } = await carriedInto(sql, template, campaign);
      const all = edit ? parts(edit) : [];
      const edits = [];
      for (let i = 0; i < all.length; i += LIMITS.editParts) {
        edits.push(together(all.slice(i, i + LIMITS.editParts)));
      }
      const author = { member: member.id, held: !liftsHolds(member), linking: true };
      await makeStep(services, { document: documentId, seq, edits, by: "template" }, author);
      await startedFrom(sql, id, template.id, template.seq);
      done.push(name);
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      left.push({ name, why: error.message });
    }
  }
  return { done, left };
}

/** Makes a campaign's email what a template is; the template keeps what each email says for itself. Throws an EditError. */
export async function changeTemplate(
  services: Services,
  template: Template,
  campaign: Campaign,
  member: Member,
): Promise<void> {
  const { sql } = services.database;
  const own = await loadDocument(sql, template.documentId);
  const made = await loadDocument(sql, campaign.documentId);
  if (!own || !made || made.trouble) throw new EditError("missing", "This email cannot be read.");
  const { envelope } = own.doc.root.props;
  const props = { ...made.doc.root.props, envelope: envelope ?? null };
  const edit = { type: "restore" as const, root: { ...made.doc.root, props } };
  const step = { document: template.documentId, seq: own.seq, edits: [edit], by: "template" };
  await makeStep(services, step, { member: member.id });
  // It has all of it already.
  const { seq } = (await loadDocument(sql, template.documentId))!;
  await startedFrom(sql, campaign.id, template.id, seq);
}
