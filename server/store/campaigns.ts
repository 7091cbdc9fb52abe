/** Campaigns and templates. */
import type { Pause } from "#core/delivery/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { fold } from "#core/fields/index.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { type Audience, audienceSchema, NOBODY } from "./audience.ts";
import { createDocumentRow } from "./documents.ts";
import type { Label } from "./labels.ts";

export type CampaignState = "draft" | "scheduled" | "sending" | "sent";

export interface Campaign {
  readonly id: string;
  readonly name: string;
  readonly documentId: string;
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
}

/** What a list of campaigns is narrowed by. */
export interface CampaignFilter {
  readonly id?: string;
  /** Looks in names. */
  readonly search?: string;
  readonly state?: CampaignState | null;
  /** The id of a label. */
  readonly label?: string | null;
  /** Those put aside, those that are not, or (left out) all. */
  readonly archived?: boolean;
  readonly limit?: number;
}

interface Row extends Omit<Campaign, "audience"> {
  audience: unknown;
}
const campaign = (row: Row): Campaign => ({ ...row, audience: audienceSchema.parse(row.audience) });

/** Campaigns that are not deleted, changed last first. */
export async function listCampaigns(sql: Sql, filter: CampaignFilter = {}): Promise<Campaign[]> {
  const label = filter.label ?? null;
  const archived = filter.archived ?? null;
  const rows = await sql<Row>`
    select * from (
      select c.id, c.name, c.document_id as "documentId", c.audience, c.topic_id as topic, c.created_at as "createdAt",
        greatest(c.updated_at, d.updated_at) as "updatedAt",
        c.archived_at is not null as archived,
        (select coalesce(jsonb_agg(jsonb_build_object('id', b.id, 'name', b.name) order by b.name_folded), '[]'::jsonb)
          from campaign_labels cl join labels b on b.id = cl.label_id where cl.campaign_id = c.id) as labels,
        l.id as "launchId", l.send_at as "sendAt", l.zone, l.pause as paused,
        case l.state when 'scheduled' then 'scheduled' when 'sending' then 'sending'
          when 'paused' then 'sending'
          when 'done' then 'sent' else 'draft' end as state
      from campaigns c join documents d on d.id = c.document_id
      left join lateral (select * from launches l where l.campaign_id = c.id and l.state <> 'cancelled'
        order by l.created_at desc limit 1) l on true
      where c.deleted_at is null and (${filter.id ?? null}::text is null or c.id = ${filter.id ?? null}::text)
        and (${archived}::boolean is null or (c.archived_at is not null) = ${archived}::boolean)
        and (${label}::text is null or exists (select 1 from campaign_labels cl
          where cl.campaign_id = c.id and cl.label_id = ${label}::text))
    ) all_campaigns
    where (${filter.state ?? null}::text is null or state = ${filter.state ?? null}::text)
    order by "updatedAt" desc`;
  const search = fold(filter.search?.trim() ?? "");
  const found = rows.map(campaign).filter((c) => fold(c.name).includes(search));
  return filter.limit ? found.slice(0, filter.limit) : found;
}

export async function getCampaign(sql: Sql, id: string): Promise<Campaign | null> {
  return first(await listCampaigns(sql, { id }));
}

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
    values (${id}, ${name}, ${documentId}, ${JSON.stringify(audience)}::jsonb, ${topic}, ${now}, ${now})`;
  return id;
}

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
  await sql`update campaigns set audience = ${JSON.stringify(audience)}::jsonb, updated_at = ${now}
    where id = ${id}`;
}

export interface Template {
  readonly id: string;
  readonly name: string;
  readonly about: string;
  readonly documentId: string;
}

export const listTemplates = (sql: Sql): Promise<Template[]> => sql<Template>`
  select id, name, about, document_id as "documentId" from templates order by created_at`;

export async function getTemplate(sql: Sql, id: string): Promise<Template | null> {
  return first(
    await sql<Template>`select id, name, about, document_id as "documentId"
      from templates where id = ${id}`,
  );
}

export async function createTemplate(
  sql: Sql,
  template: { name: string; about: string; doc: EmailDocument },
  now: Date,
): Promise<string> {
  const documentId = await createDocumentRow(sql, template.doc, now);
  const id = newId();
  await sql`insert into templates (id, name, about, document_id, created_at)
    values (${id}, ${template.name}, ${template.about}, ${documentId}, ${now})`;
  return id;
}
