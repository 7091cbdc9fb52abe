/** Launches: everything a sending needs, frozen when it was scheduled. */
import { DateTime } from "luxon";
import { z } from "zod";
import type { EmailProps } from "#core/blocks/layout.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { ITEMS_PLAN, type ItemsPlan, itemsPlanSchema } from "#core/items/index.ts";
import { canonical } from "#core/json.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { type CompiledLink, compile } from "#core/render/index.ts";
import { AT_ONCE, ownDay, type Pace, paceSchema, startOf } from "#core/schedule/index.ts";
import { type SplitPlan, splitPlanSchema } from "#core/splits/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { jsonb } from "../../db/values.ts";
import { newId } from "../../ids.ts";
import { type Audience, audienceSchema, type Segment, segmentsSchema } from "../audience.ts";
import { wholeDocument } from "../documents.ts";
import { readSurroundings, writeSurroundings } from "./surroundings.ts";
import {
  addVariant,
  type FrozenVariant,
  frozenVariants,
  linksSchema,
  noteVariant,
} from "./variants.ts";

export interface Launch {
  readonly id: string;
  readonly campaignId: string;
  /** What its campaign was called, and the day its messages are of (ISO date in its zone). */
  readonly name: string;
  readonly day: string;
  readonly state: "scheduled" | "sending" | "paused" | "done" | "cancelled";
  readonly sendAt: Date;
  readonly zone: string;
  /** The topic it belongs to; who has left it gets nothing. */
  readonly topic: string | null;
  readonly doc: EmailDocument;
  readonly audience: Audience;
  readonly segments: readonly Segment[];
  readonly surroundings: Surroundings;
  /** The conditions of its email, in the order of the bits its recipients have. */
  readonly conditions: readonly string[];
  /** Its links in the order of the numbers they were sent under; null for launches from before these were kept. */
  readonly links: readonly CompiledLink[] | null;
  readonly startedAt: Date | null;
  readonly finishedAt: Date | null;
  /** When it tries again by itself; null where it is not paused, or waits for a person. */
  readonly resumeAt: Date | null;
  /** Somebody has said that more than the share in the settings may bounce. */
  readonly bouncesAllowed: boolean;
  /** How it takes its items when it starts, and when it has looked at them again. */
  readonly itemsPlan: ItemsPlan;
  readonly itemsChecked: Date | null;
  /** How it is spread over time. */
  readonly pace: Pace;
  /** Up to which contact its readers are written down; null once all are. */
  readonly readersTo: number | null;
  /** How it is tried in variants; null where everybody gets the same. */
  readonly split: SplitPlan | null;
  /** What the variants but the first froze. */
  readonly variants: readonly FrozenVariant[];
  /** Which variant this is: its email, surroundings and links are those of that. */
  readonly variant: number;
  /** When it was drawn who gets which variant. */
  readonly drawnAt: Date | null;
  /** The files that go with it. */
  readonly attachments: readonly string[];
  /** The variant that goes to the rest; null while nobody has said. */
  readonly winner: number | null;
}

interface LaunchRow
  extends Omit<
    Launch,
    | "name"
    | "day"
    | "doc"
    | "audience"
    | "segments"
    | "surroundings"
    | "links"
    | "conditions"
    | "itemsPlan"
    | "pace"
    | "split"
    | "variants"
    | "variant"
    | "attachments"
  > {
  attachments: unknown;
  split: unknown;
  pace: unknown;
  itemsPlan: unknown;
  document: string;
  audience: unknown;
  segments: unknown;
  surroundings: unknown;
  links: unknown;
  conditions: unknown;
}

/** Notes that the items of a launch were looked at again, and how they are shown: with them come their pictures and links. */
export async function noteItems(
  sql: Sql,
  { id, variant, name, doc, surroundings }: Launch,
  now: Pick<Surroundings, "live" | "pictures">,
  at: Date,
): Promise<void> {
  const around = {
    ...surroundings,
    live: now.live,
    pictures: new Map([...surroundings.pictures, ...now.pictures]),
  };
  const { links } = compile(doc, around);
  const kept = writeSurroundings(around, name);
  await sql`update launches set items_checked = ${at} where id = ${id}`;
  if (variant === 0) {
    await sql`update launches set surroundings = ${kept}, links = ${jsonb(links)} where id = ${id}`;
  } else await noteVariant(sql, { launch: id, variant }, kept, links);
}

/** Freezes what a sending needs. Throws a DatabaseError (23505) when one is on its way already. */
export async function createLaunch(
  sql: Sql,
  launch: Pick<
    Launch,
    "campaignId" | "name" | "sendAt" | "zone" | "doc" | "audience" | "segments" | "surroundings"
  > & {
    member: string;
    itemsPlan?: ItemsPlan;
    pace?: Pace;
    split?: SplitPlan | null;
    /** The emails of its variants but the first. */
    variants?: readonly { readonly doc: EmailDocument; readonly surroundings: Surroundings }[];
    /** The number of the state of the email. */
    seq: number;
  },
  now: Date,
): Promise<string> {
  const id = newId();
  const frozen = writeSurroundings(launch.surroundings, launch.name);
  const { links, conditions: own } = compile(launch.doc, launch.surroundings);
  const variants = (launch.variants ?? []).map(({ doc, surroundings }) => ({
    ...compile(doc, surroundings),
    ...{ doc, kept: writeSurroundings(surroundings, launch.name) },
  }));
  // One list for all variants: a reader's bits hold whichever they get.
  const conditions = [...new Set([...own, ...variants.flatMap((one) => one.conditions)])];
  const pace = launch.pace ?? AT_ONCE;
  const { subject } = (launch.doc.root.props as unknown as EmailProps).envelope;
  await sql`insert into launches (id, campaign_id, state, send_at, zone, document, subject, audience, segments,
      surroundings, links, conditions, topic_id, member_id, created_at, document_seq, items_plan, pace, starts_at, split,
      attachments)
    values (${id}, ${launch.campaignId}, 'scheduled', ${launch.sendAt}, ${launch.zone},
      ${canonical(launch.doc)}, ${JSON.stringify(subject)}, ${jsonb(launch.audience)},
      ${jsonb(launch.segments)}, ${frozen}, ${jsonb(links)},
      ${jsonb(conditions)},
      (select topic_id from campaigns where id = ${launch.campaignId}),
      ${launch.member}, ${now}, ${launch.seq},
      ${jsonb(launch.itemsPlan ?? ITEMS_PLAN)}, ${jsonb(pace)},
      ${startOf(launch.sendAt, pace, now)}, ${jsonb(launch.split ?? undefined)},
      (select coalesce(jsonb_agg(id order by place), '[]'::jsonb) from attachments
        where campaign_id = ${launch.campaignId} and removed_at is null))`;
  for (const [i, { doc, kept, links }] of variants.entries()) {
    await addVariant(sql, { launch: id, variant: i + 1 }, canonical(doc), kept, links);
  }
  return id;
}

export async function getLaunch(sql: Sql, id: string): Promise<Launch | null> {
  const row = first(
    await sql<LaunchRow>`select id, campaign_id as "campaignId", state, send_at as "sendAt", zone, topic_id as topic, document,
        audience, segments, surroundings, links, conditions, started_at as "startedAt", finished_at as "finishedAt",
        resume_at as "resumeAt", bounces_allowed as "bouncesAllowed", readers_to as "readersTo",
        items_plan as "itemsPlan", items_checked as "itemsChecked", pace, split, attachments,
        drawn_at as "drawnAt", winner
      from launches where id = ${id}`,
  );
  if (!row) return null;
  const { document, ...rest } = row;
  const { name, around } = readSurroundings(row.surroundings);
  const pace = row.pace === null ? AT_ONCE : paceSchema.parse(row.pace);
  const split = row.split === null ? null : splitPlanSchema.parse(row.split);
  // The day it was set to leave: the same before it starts and after a restart.
  const day = ownDay(pace) ?? DateTime.fromJSDate(row.sendAt, { zone: row.zone }).toISODate()!;
  return {
    ...rest,
    doc: wholeDocument(document),
    audience: audienceSchema.parse(row.audience),
    segments: segmentsSchema.parse(row.segments),
    links: row.links === null ? null : linksSchema.parse(row.links),
    split,
    variants: split?.variants.length ? await frozenVariants(sql, id) : [],
    variant: 0,
    conditions: z.array(z.string()).parse(row.conditions),
    itemsPlan: itemsPlanSchema.parse(row.itemsPlan),
    attachments: z.array(z.string()).parse(row.attachments),
    name,
    day,
    pace,
    surroundings: around,
  };
}

/** Lets a launch that has not started leave at another time. Gives whether it was still time. */
export async function moveLaunch(
  sql: Sql,
  id: string,
  { sendAt, pace, startsAt }: Pick<Launch, "sendAt" | "pace"> & { startsAt: Date },
): Promise<boolean> {
  const rows = await sql`update launches set send_at = ${sendAt}, pace = ${jsonb(pace)},
      starts_at = ${startsAt} where id = ${id} and state = 'scheduled' returning id`;
  return rows.length > 0;
}

/** A launch as a calendar shows it. */
export interface Dated {
  readonly campaignId: string;
  readonly name: string;
  readonly sendAt: Date;
  readonly state: Launch["state"];
}

/** The launches of a time that have gone out or are to, the first first; at most so many. */
export const launchesBetween = (sql: Sql, from: Date, to: Date, most: number): Promise<Dated[]> =>
  sql<Dated>`select l.campaign_id as "campaignId", k.name, l.send_at as "sendAt", l.state
    from launches l join campaigns k on k.id = l.campaign_id
    where l.state <> 'cancelled' and k.deleted_at is null and l.send_at >= ${from} and l.send_at < ${to}
    order by l.send_at, l.id limit ${most}`;

/** Whom a launch goes to, without its email. */
export type Destined = Pick<
  Launch,
  "campaignId" | "name" | "sendAt" | "audience" | "segments" | "topic"
>;

/** Launches that are to leave, the next first, but for those of a campaign. */
export async function destinedLaunches(
  sql: Sql,
  except: string,
  most: number,
): Promise<Destined[]> {
  const rows = await sql<Destined>`
    select l.campaign_id as "campaignId", k.name, l.send_at as "sendAt", l.audience, l.segments,
      l.topic_id as topic
    from launches l join campaigns k on k.id = l.campaign_id
    where l.state = 'scheduled' and l.campaign_id <> ${except} and k.deleted_at is null
    order by l.send_at, l.id limit ${most}`;
  return rows.map((row) => ({
    ...row,
    audience: audienceSchema.parse(row.audience),
    segments: segmentsSchema.parse(row.segments),
  }));
}

/** How a launch is spread over time. */
export async function paceOf(sql: Sql, id: string): Promise<Pace> {
  const row = first(await sql<{ pace: unknown }>`select pace from launches where id = ${id}`);
  return row?.pace ? paceSchema.parse(row.pace) : AT_ONCE;
}
