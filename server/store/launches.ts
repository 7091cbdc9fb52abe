/** Launches and their recipients: who gets a campaign, and how far each message has come. */
import { DateTime } from "luxon";
import { z } from "zod";
import type { DerivedTag } from "#core/derived/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { canonical, type Json } from "#core/json.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { seesCode } from "#core/merge/index.ts";
import { type CompiledLink, compile } from "#core/render/index.ts";
import type { World } from "#core/rules/index.ts";
import { linkSchema, type When } from "#core/text/index.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import {
  type Audience,
  audienceSchema,
  audienceSql,
  leftTopicSql,
  type Segment,
  segmentsSchema,
} from "./audience.ts";
import { tearCodes } from "./codes.ts";
import { bitsSql } from "./conditions.ts";
import { wholeDocument } from "./documents.ts";
import { suppressAll } from "./suppressions.ts";
import { tagValuesSql } from "./tag-values.ts";

const frozenSchema = z.object({
  brand: z.object({ name: z.string(), postalAddress: z.string() }),
  publicAddress: z.string(),
  name: z.string().default(""),
  derived: z.array(z.custom<DerivedTag>()).default([]),
  fallbacks: z.array(z.tuple([z.string(), z.string()])).default([]),
  pictures: z.array(
    z.object({
      id: z.string(),
      file: z.string(),
      width: z.number(),
      height: z.number(),
      name: z.string(),
      alpha: z.boolean().default(false),
    }),
  ),
});

const linksSchema: z.ZodType<readonly CompiledLink[]> = z.array(
  z.object({ node: z.string(), to: linkSchema, words: z.string() }),
);

export interface Launch {
  readonly id: string;
  readonly campaignId: string;
  /** What its campaign was called, and the day its messages are of (ISO date in its zone). */
  readonly name: string;
  readonly day: string;
  readonly state: "scheduled" | "sending" | "done" | "cancelled";
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
}

interface LaunchRow
  extends Omit<
    Launch,
    "name" | "day" | "doc" | "audience" | "segments" | "surroundings" | "links" | "conditions"
  > {
  document: string;
  audience: unknown;
  segments: unknown;
  surroundings: unknown;
  links: unknown;
  conditions: unknown;
}

/** Freezes what a sending needs. Throws a DatabaseError (23505) when one is on its way already. */
export async function createLaunch(
  sql: Sql,
  launch: Pick<
    Launch,
    "campaignId" | "name" | "sendAt" | "zone" | "doc" | "audience" | "segments" | "surroundings"
  > & {
    member: string;
    /** The number of the state of the email. */
    seq: number;
  },
  now: Date,
): Promise<string> {
  const id = newId();
  const { brand, publicAddress, pictures, derived, fallbacks } = launch.surroundings;
  const frozen = JSON.stringify({
    brand,
    publicAddress,
    name: launch.name,
    pictures: [...pictures.values()],
    derived: [...(derived ?? new Map()).values()],
    fallbacks: [...(fallbacks ?? new Map())],
  });
  const { links, conditions } = compile(launch.doc, launch.surroundings);
  await sql`insert into launches (id, campaign_id, state, send_at, zone, document, audience, segments,
      surroundings, links, conditions, topic_id, member_id, created_at, document_seq)
    values (${id}, ${launch.campaignId}, 'scheduled', ${launch.sendAt}, ${launch.zone},
      ${canonical(launch.doc)}, ${JSON.stringify(launch.audience)}::jsonb,
      ${JSON.stringify(launch.segments)}::jsonb, ${frozen}::jsonb, ${JSON.stringify(links)}::jsonb,
      ${JSON.stringify(conditions)}::jsonb,
      (select topic_id from campaigns where id = ${launch.campaignId}),
      ${launch.member}, ${now}, ${launch.seq})`;
  return id;
}

export async function getLaunch(sql: Sql, id: string): Promise<Launch | null> {
  const row = first(
    await sql<LaunchRow>`select id, campaign_id as "campaignId", state, send_at as "sendAt", zone, topic_id as topic, document,
        audience, segments, surroundings, links, conditions, started_at as "startedAt", finished_at as "finishedAt"
      from launches where id = ${id}`,
  );
  if (!row) return null;
  const { document, ...rest } = row;
  const frozen = frozenSchema.parse(row.surroundings);
  const { brand, publicAddress, name } = frozen;
  // The day it was set to leave: the same before it starts and after a restart.
  const day = DateTime.fromJSDate(row.sendAt, { zone: row.zone }).toISODate()!;
  return {
    ...rest,
    doc: wholeDocument(document),
    audience: audienceSchema.parse(row.audience),
    segments: segmentsSchema.parse(row.segments),
    links: row.links === null ? null : linksSchema.parse(row.links),
    conditions: z.array(z.string()).parse(row.conditions),
    name,
    day,
    surroundings: {
      brand,
      publicAddress,
      pictures: new Map(frozen.pictures.map((p) => [p.id, p])),
      derived: new Map(frozen.derived.map((tag) => [tag.id, tag])),
      fallbacks: new Map(frozen.fallbacks),
    },
  };
}

/** Cancels a launch that has not started. Gives whether it was still time. */
export async function cancelLaunch(sql: Sql, id: string): Promise<boolean> {
  const rows = await sql`update launches set state = 'cancelled'
    where id = ${id} and state = 'scheduled' returning id`;
  return rows.length > 0;
}

/** Starts a launch: one recipient per reader, once, however often this is called. */
export async function startLaunch(
  sql: Sql,
  launch: Launch,
  world: World,
  now: Date,
): Promise<boolean> {
  const started =
    await sql`update launches set state = 'sending', started_at = coalesce(started_at, ${now})
    where id = ${launch.id} and state in ('scheduled', 'sending') returning id`;
  if (started.length === 0) return false;
  await sql`insert into recipients (launch_id, contact_id, email, next_try_at, bits)
    select ${launch.id}, c.id, c.email, ${now}, ${bitsSql(launch.conditions, world)} from contacts c
    where ${audienceSql(launch.audience, world)} and not ${leftTopicSql(launch.topic)}
      and not exists (select 1 from suppressions s where s.email_folded = c.email_folded)
    order by c.id on conflict (launch_id, contact_id) do nothing`;
  return true;
}

export interface Claimed {
  readonly id: number;
  readonly email: string;
  readonly contactId: number;
  readonly values: Record<string, Json>;
  /** Which of the launch's conditions hold for them. */
  readonly bits: string;
  readonly tries: number;
}

/** What a launch claims with. */
export interface ClaimedLaunch extends Pick<Launch, "id" | "conditions"> {
  readonly refs: readonly string[];
  readonly codes: ReadonlyMap<string, readonly When[] | null>;
}

/**
 * Claims the next messages of a launch: looks again at suppression and address, and stores the values
 * each is merged with; codes are torn off their rolls for those who see one. Those who have left since are held.
 * Within a transaction. `more` is false when nothing was due.
 */
export async function claimRecipients(
  sql: Sql,
  { id: launchId, conditions, refs, codes }: ClaimedLaunch,
  schema: Pick<World, "fields" | "tables">,
  now: Date,
): Promise<{ claimed: Claimed[]; more: boolean }> {
  const batch = await sql<Claimed & { held: boolean }>`
    with batch as (
      select r.id, c.email, ${tagValuesSql(refs, schema, "c")} as values,
        (c.id is null
          or exists (select 1 from suppressions s where s.email_folded = c.email_folded)
          or exists (select 1 from topic_choices t join launches l on l.topic_id = t.topic_id
            where l.id = r.launch_id and t.contact_id = c.id and not t.wants)) as held
      from recipients r left join contacts c on c.id = r.contact_id
      where r.launch_id = ${launchId} and r.state in ('waiting', 'deferred')
        and r.next_try_at <= ${now}
      order by r.id limit ${LIMITS.sendBatch} for update of r skip locked
    )
    update recipients r set
      state = case when b.held then 'held' else 'claimed' end,
      settled_at = case when b.held then ${now}::timestamptz end,
      tries = r.tries + case when b.held then 0 else 1 end,
      email = coalesce(b.email, r.email),
      values = case when b.held then r.values else coalesce(r.values, b.values) end
    from batch b where r.id = b.id
    returning r.id, r.email, r.contact_id as "contactId", r.values, r.bits, r.tries, b.held`;
  const claimed = batch.filter((row) => !row.held);
  const values = new Map<number, Record<string, Json>>();
  for (const [roll, whens] of codes) {
    const those = claimed.filter(({ bits }) => seesCode(whens, conditions, bits));
    const ids = those.map(({ id }) => id);
    for (const row of await tearCodes(sql, launchId, roll, ids, now))
      values.set(row.id, row.values);
  }
  return {
    claimed: claimed.map((row) => ({ ...row, values: values.get(row.id) ?? row.values })),
    more: batch.length > 0,
  };
}

/** Marks claimed messages as about to be handed over: from here on a crash leaves them unsure. */
export async function markHanded(sql: Sql, ids: readonly number[]): Promise<void> {
  await sql`update recipients set state = 'handed' where state = 'claimed'
    and id in (select value::bigint from jsonb_array_elements_text(${JSON.stringify(ids)}::jsonb))`;
}

export interface Outcome {
  readonly id: number;
  readonly state: "accepted" | "bounced" | "deferred" | "waiting" | "unsure";
  readonly reply: string;
  readonly nextTryAt: Date;
}

/** Writes down how hand-overs went, with their events. */
export async function settle(sql: Sql, outcomes: readonly Outcome[], now: Date): Promise<void> {
  if (outcomes.length === 0) return;
  const rows = JSON.stringify(
    outcomes.map((o) => ({ ...o, nextTryAt: o.nextTryAt.toISOString() })),
  );
  await sql`
    with outcome as (
      select * from jsonb_to_recordset(${rows}::jsonb)
        as o(id bigint, state text, reply text, "nextTryAt" timestamptz)
    ), settled as (
      update recipients r set state = o.state, reply = o.reply, next_try_at = o."nextTryAt",
        settled_at = case when o.state in ('accepted', 'bounced') then ${now}::timestamptz end
      from outcome o where r.id = o.id and r.state in ('claimed', 'handed')
      returning r.id, r.contact_id, r.launch_id, r.state, r.reply
    )
    insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id, data)
    select s.state, ${now}::timestamptz, s.contact_id, s.launch_id, l.campaign_id, s.id,
      jsonb_build_object('reply', s.reply)
    from settled s join launches l on l.id = s.launch_id where s.state in ('accepted', 'bounced')`;
  const bounced = outcomes.filter((o) => o.state === "bounced").map((o) => o.id);
  if (bounced.length === 0) return;
  const addresses = await sql<{ email: string }>`select c.email
    from recipients r join contacts c on c.id = r.contact_id
    where r.state = 'bounced' and r.id = any (${bounced}::bigint[])`;
  await suppressAll(
    sql,
    addresses.map(({ email }) => email),
    "bounced",
    now,
  );
}

/** What a crash left behind: messages claimed but not handed over go back; the rest are returned. */
export async function recoverRecipients(
  sql: Sql,
  launchId: string,
): Promise<{ id: number; email: string }[]> {
  await sql`update recipients set state = 'waiting' where launch_id = ${launchId} and state = 'claimed'`;
  return sql<{ id: number; email: string }>`
    select id, email from recipients where launch_id = ${launchId} and state = 'handed' order by id`;
}

/** When the next message of a launch is due, or null when all are settled. */
export async function nextDue(sql: Sql, launchId: string): Promise<Date | null> {
  return first(
    await sql<{ at: Date | null }>`select min(next_try_at) as at from recipients
      where launch_id = ${launchId} and state in ('waiting', 'deferred')`,
  )!.at;
}

export async function finishLaunch(sql: Sql, id: string, now: Date): Promise<void> {
  await sql`update launches set state = 'done', finished_at = ${now}
    where id = ${id} and state = 'sending'`;
}

export interface Progress {
  readonly total: number;
  readonly accepted: number;
  readonly bounced: number;
  readonly deferred: number;
  readonly held: number;
  readonly unsure: number;
}

export async function progressOf(sql: Sql, launchId: string): Promise<Progress> {
  return first(
    await sql<Progress>`select count(*)::int as total,
        count(*) filter (where state = 'accepted')::int as accepted,
        count(*) filter (where state = 'bounced')::int as bounced,
        count(*) filter (where state = 'deferred')::int as deferred,
        count(*) filter (where state = 'held')::int as held,
        count(*) filter (where state = 'unsure')::int as unsure
      from recipients where launch_id = ${launchId}`,
  )!;
}

export interface Recipient {
  readonly id: number;
  readonly launchId: string;
  readonly contactId: number | null;
  readonly email: string;
  readonly values: Record<string, Json>;
  readonly bits: string;
}

export async function getRecipient(sql: Sql, id: number): Promise<Recipient | null> {
  return first(
    await sql<Recipient>`select id, launch_id as "launchId", contact_id as "contactId", email,
      coalesce(values, '{}'::jsonb) as values, bits from recipients where id = ${id}`,
  );
}
