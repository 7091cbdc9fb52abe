/** Templates that change, and the campaigns started from them. */
import { EditError, type EmailDocument } from "#core/document/index.ts";
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

/** Tells what would change in campaigns. The template’s own states are worked out once for all of them. */
function carrier(sql: Sql, { documentId, seq }: Template) {
  const states = new Map<number, Promise<EmailDocument>>();
  const templateAt = (at: number) => {
    const known = states.get(at) ?? stateAt(sql, documentId, at);
    states.set(at, known);
    return known;
  };
  /** Null where an earlier state cannot be told any more. */
  return async (campaign: StartedCampaign): Promise<Carried | null> => {
    try {
      const [before, after, began, now] = await Promise.all([
        templateAt(campaign.templateSeq),
        templateAt(seq),
        stateAt(sql, campaign.documentId, 0),
        stateAt(sql, campaign.documentId, campaign.seq),
      ]);
      return carry({ before, after, began, now });
    } catch (error) {
      if (error instanceof EditError) return null;
      throw error;
    }
  };
}

/**
 * Campaigns that are not sent and do not have all that a template has become, as many as are shown at once. `more`:
 * there are others, which are not looked at before these have been carried into or left.
 */
export async function campaignsBehind(
  sql: Sql,
  template: Template,
): Promise<{ readonly behind: Behind[]; readonly more: boolean }> {
  const limit = LIMITS.carriedAtOnce;
  const found = await startedCampaigns(sql, template.id, { behind: true, limit: limit + 1 });
  const changeOf = carrier(sql, template);
  const behind: Behind[] = [];
  for (const campaign of found.slice(0, limit)) {
    const carried = await changeOf(campaign);
    if (!carried || carried.edits.length === 0) {
      // It has all that can be carried, or nothing can be told of it any more: it is not looked at again.
      await startedFrom(sql, campaign.id, template.id, template.seq);
      continue;
    }
    const { id, name, documentId, seq, fixed } = campaign;
    const [changed, kept] = [carried.changed, carried.kept.length];
    behind.push({ id, name, documentId, seq, fixed, changed, kept });
  }
  return { behind, more: found.length > limit };
}

/** The email of a campaign as it would be with its template's change; null where there is none. */
export async function withChange(
  sql: Sql,
  template: Template,
  campaign: string,
): Promise<EmailDocument | null> {
  const [found] = await startedCampaigns(sql, template.id, { ids: [campaign] });
  return (found && (await carrier(sql, template)(found))?.doc) ?? null;
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
  const changeOf = carrier(sql, template);
  for (const campaign of await startedCampaigns(sql, template.id, { ids, behind: true })) {
    const { id, name, documentId, seq, fixed } = campaign;
    if (fixed) {
      left.push({ name, why: "it is scheduled: call it back to change it." });
      continue;
    }
    try {
      const edits = (await changeOf(campaign))?.edits ?? [];
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
