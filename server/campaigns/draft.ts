/**
 * While a campaign is scheduled, what goes out is frozen and its draft stays editable: how far the two are
 * apart, and the two ways to bring them together.
 */
import type { Change, EmailDocument, Envelope } from "#core/document/index.ts";
import { canonical, sameJson } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { worldOf } from "../audience/world.ts";
import type { Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import type { Services } from "../services.ts";
import { copyAttachments } from "../store/attachments.ts";
import { rulesOfAudience } from "../store/audience.ts";
import { type Campaign, createCampaign, getCampaign, setAudience } from "../store/campaigns.ts";
import { appendEdits, loadDocument } from "../store/documents.ts";
import { stepsSince } from "../store/history.ts";
import { getLaunch, type Launch } from "../store/launches/freeze.ts";
import { frozenState } from "../store/launches/progress.ts";
import { type AudienceCount, countAudience } from "../store/readers.ts";
import { setTopic } from "../store/topics.ts";
import { freeze, ScheduleError } from "./scheduling.ts";

/** What a draft has that does not go out. */
export interface DraftState {
  /** Steps made in the email since it was frozen. */
  readonly edits: number;
  /** Who gets it has been chosen anew. */
  readonly audience: boolean;
  /** The state of the email that goes out, where it is known by its number. */
  readonly seq: number | null;
}

/** How far the draft of a scheduled campaign is from what goes out; null where nothing is scheduled. */
export async function draftState(sql: Sql, campaign: Campaign): Promise<DraftState | null> {
  if (campaign.state !== "scheduled" || !campaign.launchId) return null;
  const row = await frozenState(sql, campaign.launchId, campaign.documentId);
  if (!row) return null;
  const edits = row.same ? 0 : Math.max(1, await stepsSince(sql, campaign.documentId, row.seq));
  const audience =
    !sameJson(row.audience, campaign.audience) || (row.topic ?? null) !== campaign.topic;
  return { edits, audience, seq: row.seq };
}

/** The readers a launch would have now, by what it froze. */
export async function frozenAudience(
  { database, clock }: Services,
  launch: Launch,
): Promise<AudienceCount> {
  const segments = new Map(launch.segments.map(({ id, rule }) => [id, rule]));
  const rules = [...segments.values(), ...rulesOfAudience(launch.audience)];
  const world = { ...(await worldOf(database.sql, clock, rules)), segments };
  return countAudience(database.sql, launch.audience, world, launch.topic, launch.campaignId);
}

/** Who gets a campaign as things are: by what is frozen where it is scheduled, else by what is chosen. */
export async function readersOf(services: Services, campaign: Campaign): Promise<AudienceCount> {
  const { sql } = services.database;
  const launch =
    campaign.state === "scheduled" && campaign.launchId
      ? await getLaunch(sql, campaign.launchId)
      : null;
  if (launch) return frozenAudience(services, launch);
  const world = await worldOf(sql, services.clock, rulesOfAudience(campaign.audience));
  return countAudience(sql, campaign.audience, world, campaign.topic, campaign.id);
}

async function scheduled(sql: Sql, campaign: Campaign): Promise<Launch> {
  const launch =
    campaign.state === "scheduled" && campaign.launchId
      ? await getLaunch(sql, campaign.launchId)
      : null;
  if (!launch) throw new ScheduleError("This campaign is not scheduled any more.");
  return launch;
}

/** The schedule takes the email and the readers as they are now; its day, hour and zone stay. Throws a ScheduleError. */
export async function replaceFrozen(
  services: Services,
  campaign: Campaign,
  member: string,
): Promise<void> {
  const { sendAt, zone, id, itemsPlan, pace } = await scheduled(services.database.sql, campaign);
  await freeze(services, campaign, { sendAt, zone, member, itemsPlan, pace, instead: id });
}

/** The draft becomes what goes out again; that is a step of the person's, and can be taken back. Throws a ScheduleError. */
export async function discardDraft(
  services: Services,
  campaign: Campaign,
  author: { readonly member: string; readonly at: Date },
): Promise<void> {
  const { database, followers } = services;
  const launch = await scheduled(database.sql, campaign);
  const stored = await loadDocument(database.sql, campaign.documentId);
  const edits = await database.tx(async (sql) => {
    await setAudience(sql, campaign.id, launch.audience, author.at);
    await setTopic(sql, campaign.id, launch.topic);
    if (!stored || canonical(stored.doc) === canonical(launch.doc)) return [];
    return (await appendEdits(sql, campaign.documentId, goingBack(stored.seq, launch.doc), author))
      .edits;
  });
  if (edits.length > 0) followers.tell(campaign.documentId, edits);
}

/**
 * Changes that were still to be saved when the sending began, as a campaign of their own; gives its id.
 * Throws an EditError where they fit nowhere.
 */
export async function keepApart(
  { database }: Services,
  { id: campaign, name, documentId, audience, topic }: Campaign,
  changes: readonly Change[],
  author: { readonly member: string; readonly at: Date },
): Promise<string> {
  const { doc } = (await loadDocument(database.sql, documentId))!;
  return database.tx(async (tx) => {
    const own = `${name}, what was left`.slice(0, LIMITS.nameLength);
    const id = await createCampaign(tx, own, doc, author.at, audience, topic);
    await copyAttachments(tx, campaign, id, author.at);
    const made = (await getCampaign(tx, id))!;
    // The same changes under names of their own: they are stored nowhere else.
    const renamed = changes.map((change) => ({ ...change, id: newId() }));
    const envelope = { tab: "apart", base: 0, changes: renamed as Envelope["changes"] };
    await appendEdits(tx, made.documentId, envelope, author);
    return id;
  });
}

function goingBack(base: number, { root }: EmailDocument) {
  const id = newId();
  const edit = { type: "restore" as const, root };
  return {
    tab: "schedule",
    base,
    changes: [{ id, edit, does: "do" as const, step: id, of: null }],
  };
}
