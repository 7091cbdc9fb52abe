/** Emails that are linked to saved blocks are brought up to date with them. */
import { bringingUpToDate, linksIn } from "#core/blocks/linked.ts";
import { type DocNode, EditError } from "#core/document/index.ts";
import { newId } from "../ids.ts";
import type { Services } from "../services.ts";
import { type Campaign, documentsNotSent } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import { enqueue } from "../store/jobs.ts";
import { changeSaved, linkedPlaces, savedById } from "../store/saved.ts";
import { makeStep } from "./step.ts";

type Open = Pick<Services, "database" | "clock" | "followers">;

/**
 * Brings one email up to date, as a step of whoever changed the saved blocks (`looking` where nobody knows); whoever
 * has it open sees it change. It costs nothing where nothing is linked. Gives why that cannot be, or null.
 */
export async function bringUpToDate(
  services: Open,
  document: string,
  looking: string,
): Promise<string | null> {
  const { sql } = services.database;
  const stored = await loadDocument(sql, document);
  if (!stored || stored.trouble) return null;
  const links = linksIn(stored.doc.root);
  if (links.size === 0) return null;
  const saved = await savedById(sql, links);
  const nodes = new Map([...saved].map(([id, one]) => [id, one.nodes]));
  const edits = bringingUpToDate(stored.doc, nodes, newId);
  if (edits.length === 0) return null;
  const member = [...saved.values()].find(({ by }) => by !== null)?.by ?? looking;
  const step = { document, seq: stored.seq, edits, by: "linked" };
  try {
    await makeStep(services, step, { member, linking: true });
    return null;
  } catch (error) {
    // It has grown too large for this email, or somebody took its place out in this moment.
    if (error instanceof EditError) return error.message;
    throw error;
  }
}

/** The same for a campaign and the emails of its variants, as long as nothing of it has gone out; while it is scheduled, only where that is asked for. */
export async function bringCampaignUpToDate(
  services: Open,
  { id }: Pick<Campaign, "id">,
  looking: string,
  scheduledToo = false,
): Promise<string | null> {
  let why: string | null = null;
  for (const document of await documentsNotSent(services.database.sql, id, scheduledToo)) {
    why ??= await bringUpToDate(services, document, looking);
  }
  return why;
}

/**
 * Changes a saved block. Emails are brought up to date one after another in the background, and each before it is
 * read to be composed, looked at as a proof, or sent. False where it is gone, or is no single block of its kind.
 */
export async function changeEverywhere(
  services: Services,
  saved: string,
  node: DocNode,
  member: string,
): Promise<boolean> {
  const { database, clock, wake } = services;
  const changed = await database.tx(async (sql) => {
    if (!(await changeSaved(sql, saved, node, member))) return false;
    await enqueue(sql, "bringUpToDate", { saved, member }, clock.now());
    return true;
  });
  if (changed) wake();
  return changed;
}

/** Brings all emails up to date that are linked to a saved block, but for those that are scheduled. */
export async function spread(services: Open, saved: string, member: string): Promise<void> {
  for (const { document, fixed } of await linkedPlaces(services.database.sql, saved)) {
    if (!fixed) await bringUpToDate(services, document, member);
  }
}
