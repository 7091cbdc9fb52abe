/** What came of the sent campaign: recipients and events, made up from one seed. */
import type { Sql } from "#server/db/database.ts";
import { chance } from "./random.ts";

const HOUR = 3_600_000;

/** Opens come mostly in the first hours. */
const delay = (luck: ReturnType<typeof chance>) =>
  Math.floor(-Math.log(1 - luck.next()) * 7 * HOUR);

interface Row {
  kind: string;
  at: string;
  contact_id: number;
  recipient_id: number;
  link: number | null;
}

/** Fills a launch that is done with recipients and with what they did. `links` is how many it has. */
export async function writeHistory(
  sql: Sql,
  launchId: string,
  sentAt: Date,
  links: number,
): Promise<void> {
  const recipients = await sql<{ id: number; contact_id: number; email: string }>`
    insert into recipients (launch_id, contact_id, email, state, values, tries, next_try_at, reply, settled_at)
    select ${launchId}, c.id, c.email,
      case when c.email like 'bounce%' then 'bounced' else 'accepted' end,
      jsonb_strip_nulls(jsonb_build_object('contact:first_name', c.values -> 'first_name')),
      1, ${sentAt}::timestamptz, '250 2.0.0 Kept in the outbox', ${sentAt}::timestamptz
    from contacts c join list_members m on m.contact_id = c.id join lists l on l.id = m.list_id
    where l.name = 'Newsletter' order by c.id
    returning id, contact_id, email`;
  const luck = chance(23);
  const events: Row[] = [];
  for (const recipient of recipients) {
    const add = (kind: string, after: number, link: number | null = null) =>
      events.push({
        kind,
        at: new Date(sentAt.getTime() + after).toISOString(),
        contact_id: recipient.contact_id,
        recipient_id: recipient.id,
        link,
      });
    if (recipient.email.startsWith("bounce")) {
      add("bounced", 2_000);
      continue;
    }
    add("accepted", 2_000);
    if (!luck.is(0.49)) continue;
    const opened = delay(luck);
    add("opened", opened);
    if (luck.is(0.3)) add("opened", opened + delay(luck));
    if (luck.is(0.29)) {
      const link = luck.is(0.55) ? 2 : 1 + luck.below(links);
      add("clicked", opened + 20_000 + luck.below(90_000), link);
      if (luck.is(0.2)) add("clicked", opened + 200_000, 1 + luck.below(links));
    }
    if (luck.is(0.008)) add("unsubscribed", opened + 60_000);
  }
  await sql`insert into events (kind, at, contact_id, launch_id, recipient_id, link)
    select e.kind, e.at, e.contact_id, ${launchId}, e.recipient_id, e.link
    from jsonb_to_recordset(${JSON.stringify(events)}::jsonb)
      as e(kind text, at timestamptz, contact_id bigint, recipient_id bigint, link int)`;
  await sql`insert into suppressions (email_folded, reason, at)
    select c.email_folded, case e.kind when 'bounced' then 'bounced' else 'unsubscribed' end, min(e.at)
    from events e join contacts c on c.id = e.contact_id
    where e.launch_id = ${launchId} and e.kind in ('bounced', 'unsubscribed')
    group by c.email_folded, 2 on conflict do nothing`;
}
