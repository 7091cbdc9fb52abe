/** What happened with a contact, the latest first. */
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";

export interface TimelineEntry {
  readonly kind: string;
  readonly at: Date;
  readonly campaign: string | null;
  readonly campaignId: string | null;
  /** What the link clicked says, or what was bought or asked. */
  readonly about: string | null;
  /** The category bought from, or the answer given. */
  readonly group: string | null;
}

export const timelineOf = (sql: Sql, contact: number): Promise<TimelineEntry[]> =>
  sql<TimelineEntry>`
    select e.kind, e.at, k.name as campaign, k.id as "campaignId", e.class as "group",
      coalesce(s.name, e.item, l.links -> (e.link - 1) ->> 'words') as about
    from events e
    left join campaigns k on k.id = e.campaign_id
    left join launches l on l.id = e.launch_id and e.link is not null
    left join event_subjects s on s.kind = case e.kind when 'viewed' then 'bought' else e.kind end and s.id = e.item
    where e.contact_id = ${contact}
    order by e.at desc, e.id desc limit ${LIMITS.timeline}`;
