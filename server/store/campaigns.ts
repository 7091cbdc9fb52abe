/** Campaigns and templates. */
import type { Pause } from "#core/delivery/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { constantSql, fragment, identifier, type Sql as SqlPiece } from "#core/rules/index.ts";
import { type SplitPlan, splitPlanSchema } from "#core/splits/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { newId } from "../ids.ts";
import { type Audience, audienceSchema, NOBODY } from "./audience.ts";
import { createDocumentRow } from "./documents.ts";
import type { Label } from "./labels.ts";
import { wordsFit } from "./search.ts";
import { ON_ITS_WAY, UNSENT } from "./unsent.ts";

export type CampaignState = "draft" | "scheduled" | "sending" | "sent";

export interface Campaign {
  readonly id: string;
  readonly name: string;
  readonly documentId: string;
  /** The last edit of its document. */
  readonly seq: number;
  readonly audience: Audience;
  /** The topic readers know it under; null where it belongs to none. */
  readonly topic: string | null;
  readonly createdAt: Date;
  readonly updatedAt: Date;
  readonly state: CampaignState;
  /** The launch that counts: on its way, or the latest done. */
  readonly launchId: string | null;
  readonly sendAt: Date | null;
  readonly zone: string | null;
  /** Why its sending stands still; null where it does not. */
  readonly paused: Pause | null;
  /** Put aside: it is listed only where that is asked for. */
  readonly archived: boolean;
  readonly labels: readonly Label[];
  /** How its email is tried in variants; null where nobody has said anything. */
  readonly split: SplitPlan | null;
  /** The campaign it is the content of a variant of; it has that one's readers and is in no list. */
  readonly variantOf: string | null;
}

/** What a list of campaigns is narrowed by. */
export interface CampaignFilter {
  readonly id?: string;
  /** Beginnings of words in names. */
  readonly search?: string;
  /** One of these; left out or empty, any. */
  readonly states?: readonly CampaignState[];
  /** The id of a label. */
  readonly label?: string | null;
  /** Those put aside, those that are not, or (left out) all. */
  readonly archived?: boolean;
}
export interface CampaignOrder {
  /** Changed last first; or by when it goes or went out, the latest or the next first. */
  readonly order?: "changed" | "sent" | "next";
  readonly from?: number;
  readonly limit?: number;
}

interface Row extends Omit<Campaign, "audience" | "split"> {
  audience: unknown;
  split: unknown;
}
const campaign = (row: Row): Campaign => ({
  ...row,
  audience: audienceSchema.parse(row.audience),
  split: row.split === null ? null : splitPlanSchema.parse(row.split),
});

/** Campaigns that are not deleted, with their latest launch. */
function foundSql(filter: CampaignFilter): SqlPiece {
  const label = filter.label ?? null;
  const archived = filter.archived ?? null;
  const states = filter.states?.length ? [...filter.states] : null;
  return fragment`select * from (
      select c.id, c.name, c.document_id as "documentId", d.seq, coalesce(m.audience, c.audience) as audience,
        case when m.id is null then c.topic_id else m.topic_id end as topic, c.split, c.variant_of as "variantOf",
        c.created_at as "createdAt", greatest(c.updated_at, d.updated_at) as "updatedAt",
        c.archived_at is not null as archived,
        l.id as "launchId", l.send_at as "sendAt", l.zone, l.pause as paused,
        case l.state when 'scheduled' then 'scheduled' when 'sending' then 'sending'
          when 'paused' then 'sending'
          when 'done' then 'sent' else 'draft' end as state
      from campaigns c join documents d on d.id = c.document_id
      left join campaigns m on m.id = c.variant_of
      left join lateral (select * from launches l where l.campaign_id = c.id and l.state <> 'cancelled'
        order by l.created_at desc limit 1) l on true
      where c.deleted_at is null and m.deleted_at is null
        and (${filter.id ?? null}::text is not null or c.variant_of is null)
        and (${filter.id ?? null}::text is null or c.id = ${filter.id ?? null}::text)
        and ${wordsFit(identifier("c", "name"), filter.search ?? "")}
        and (${archived}::boolean is null or (c.archived_at is not null) = ${archived}::boolean)
        and (${label}::text is null or exists (select 1 from campaign_labels cl
          where cl.campaign_id = c.id and cl.label_id = ${label}::text))
    ) all_campaigns
    where ${states}::text[] is null or state = any (${states}::text[])`;
}

const ORDERS = {
  changed: constantSql(`"updatedAt" desc, id`),
  sent: constantSql(`"sendAt" desc nulls last, id`),
  next: constantSql(`"sendAt" nulls last, id`),
};

export async function listCampaigns(
  sql: Sql,
  filter: CampaignFilter & CampaignOrder = {},
): Promise<Campaign[]> {
  const order = ORDERS[filter.order ?? "changed"];
  const rows = await sql<Row>`
    select p.*, (select coalesce(jsonb_agg(jsonb_build_object('id', b.id, 'name', b.name) order by b.name_folded), '[]'::jsonb)
        from campaign_labels cl join labels b on b.id = cl.label_id where cl.campaign_id = p.id) as labels
    from (select * from (${foundSql(filter)}) found order by ${order}
      offset ${filter.from ?? 0} limit ${filter.limit ?? null}::int) p
    order by ${order}`;
  return rows.map(campaign);
}

export const countCampaigns = async (sql: Sql, filter: CampaignFilter = {}): Promise<number> =>
  first(await sql<{ n: number }>`select count(*)::int as n from (${foundSql(filter)}) found`)!.n;

export async function getCampaign(sql: Sql, id: string): Promise<Campaign | null> {
  return first(await listCampaigns(sql, { id }));
}

/** The documents of a campaign and of its variants, as long as nothing of it has been sent. */
export const documentsNotSent = async (
  sql: Sql,
  id: string,
  scheduledToo: boolean,
): Promise<string[]> =>
  (
    await sql<{ document: string }>`select k.document_id as document from campaigns k
      where (k.id = ${id} or k.variant_of = ${id}) and ${UNSENT}
        and (${scheduledToo}::boolean or not ${ON_ITS_WAY})`
  ).map(({ document }) => document);

export async function createCampaign(
  sql: Sql,
  name: string,
  doc: EmailDocument,
  now: Date,
  audience: Audience = NOBODY,
  topic: string | null = null,
): Promise<string> {
  const documentId = await createDocumentRow(sql, doc, now);
  const id = newId();
  await sql`insert into campaigns (id, name, document_id, audience, topic_id, created_at, updated_at)
    values (${id}, ${name}, ${documentId}, ${jsonb(audience)}, ${topic}, ${now}, ${now})`;
  return id;
}

/** Makes a campaign that is the content of a variant of another; gives its id. */
export async function createVariant(
  sql: Sql,
  of: Pick<Campaign, "id" | "name">,
  doc: EmailDocument,
  name: string,
  now: Date,
): Promise<string> {
  const id = await createCampaign(sql, name, doc, now);
  await sql`update campaigns set variant_of = ${of.id} where id = ${id}`;
  return id;
}

export const setSplit = async (
  sql: Sql,
  id: string,
  split: SplitPlan | null,
  now: Date,
): Promise<void> =>
  void (await sql`update campaigns set split = ${jsonb(split ?? undefined)}, updated_at = ${now}
    where id = ${id}`);

export async function renameCampaign(sql: Sql, id: string, name: string, now: Date): Promise<void> {
  await sql`update campaigns set name = ${name}, updated_at = ${now} where id = ${id}`;
}

/** Puts a campaign aside, or back among the others; nothing while it is on its way. */
export async function archiveCampaign(sql: Sql, id: string, at: Date | null): Promise<boolean> {
  const changed = await sql`update campaigns c set archived_at = ${at}
    where c.id = ${id} and c.deleted_at is null and not exists (select 1 from launches l
      where l.campaign_id = c.id and l.state in ('scheduled', 'sending', 'paused')) returning 1`;
  return changed.length > 0;
}

export async function setAudience(
  sql: Sql,
  id: string,
  audience: Audience,
  now: Date,
): Promise<void> {
  await sql`update campaigns set audience = ${jsonb(audience)}, updated_at = ${now}
    where id = ${id}`;
}
