/** Emails that are linked to saved blocks are brought up to date with them. */
import { bringingUpToDate, linksIn } from "#core/blocks/linked.ts";
import { type DocNode, EditError } from "#core/document/index.ts";
import { newId } from "../ids.ts";
import type { Services } from "../services.ts";
import type { Campaign } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import { enqueue } from "../store/jobs.ts";
import { changeSaved, linkedPlaces, savedById } from "../store/saved.ts";
import { makeStep } from "./step.ts";

/** As whom what is linked changes in emails. */
interface Author {
  readonly member: string;
}

/** Brings one email up to date; whoever has it open sees it change. It costs nothing where nothing is linked. */
export async function bringUpToDate(
  { database, clock, followers }: Pick<Services, "database" | "clock" | "followers">,
  document: string,
  { member }: Author,
): Promise<void> {
  const stored = await loadDocument(database.sql, document);
  if (!stored || stored.trouble) return;
  const links = linksIn(stored.doc.root);
  if (links.size === 0) return;
  const saved = await savedById(database.sql, links);
  const edit = bringingUpToDate(stored.doc, saved, newId);
  if (!edit) return;
  const step = { document, seq: stored.seq, edits: [edit], by: "linked" };
  try {
    await makeStep({ database, clock, followers }, step, { member, linking: true });
  } catch (error) {
    // Somebody took it out in this moment: what is left is looked at again when it is read.
    if (!(error instanceof EditError)) throw error;
  }
}

/** The same for a campaign, as long as it is a draft: what is scheduled or sent stays as it was. */
export async function bringCampaignUpToDate(
  services: Pick<Services, "database" | "clock" | "followers">,
  { state, documentId }: Campaign,
  author: Author,
): Promise<void> {
  if (state === "draft") await bringUpToDate(services, documentId, author);
}

/**
 * Changes a saved block. Emails are brought up to date one after another in the background, and each before it is
 * read to be composed, looked at as a proof, or sent. False where it is gone, or is no single block of its kind.
 */
export async function changeEverywhere(
  services: Services,
  saved: string,
  node: DocNode,
  { member }: Author,
): Promise<boolean> {
  const { database, clock, wake } = services;
  const changed = await database.tx(async (sql) => {
    if (!(await changeSaved(sql, saved, node))) return false;
    await enqueue(sql, "bringUpToDate", { saved, member }, clock.now());
    return true;
  });
  if (changed) wake();
  return changed;
}

/** Brings all emails up to date that are linked to a saved block, but for those that are scheduled. */
export async function spread(services: Services, saved: string, author: Author): Promise<void> {
  for (const { document, fixed } of await linkedPlaces(services.database.sql, saved)) {
    if (!fixed) await bringUpToDate(services, document, author);
  }
}
