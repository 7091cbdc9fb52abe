/** What came of what was sent and sold: recipients and events, made up from one seed. */

import { itemRef } from "#core/items/index.ts";
import { type Chance, chance } from "#core/random.ts";
import type { Sql } from "#server/db/database.ts";
import { jsonb } from "#server/db/values.ts";
import { GOODS } from "#server/standins/shop.ts";
import { suppressAll } from "#server/store/suppressions.ts";

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** Opens come mostly in the first hours. */
const delay = (luck: Chance) => Math.floor(-Math.log(1 - luck.next()) * 7 * HOUR);

interface Row {
  kind: string;
  at: string;
  contact_id: number;
  recipient_id: number;
  link: number | null;
}

/** How ready a person is to open what comes, 0 to 1; some lose interest a year ago. */
function interest(contact: number, sentAt: Date, now: Date): number {
  const luck = chance(contact * 7_919);
  const own = 0.15 + 0.68 * luck.next();
  const drifts = luck.is(0.12) && now.getTime() - sentAt.getTime() < 300 * DAY;
  return luck.is(0.1) ? 0 : drifts ? 0 : own;
}

/** Fills a launch that is done with recipients and with what they did. `links` is how many it has. */
export async function writeHistory(
  sql: Sql,
  launchId: string,
  sentAt: Date,
  links: number,
  now: Date,
): Promise<void> {
  const recipients = await sql<{ id: number; contact_id: number; email: string }>`
    insert into recipients (launch_id, contact_id, email, state, values, tries, next_try_at, reply, settled_at)
    select ${launchId}, c.id, c.email,
      case when c.email like 'bounce%' then 'bounced' else 'accepted' end,
      jsonb_strip_nulls(jsonb_build_object('contact:first_name', c.f_first_name)),
      1, ${sentAt}::timestamptz, '250 2.0.0 Kept in the outbox', ${sentAt}::timestamptz
    from contacts c join list_members m on m.contact_id = c.id join lists l on l.id = m.list_id
    where l.name = 'Newsletter' and c.held is null and c.created_at <= ${sentAt} order by c.id
    returning id, contact_id, email`;
  const luck = chance(23 + Math.floor(sentAt.getTime() / DAY));
  const events: Row[] = [];
  const lost = { bounced: [] as string[], unsubscribed: [] as string[] };
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
      lost.bounced.push(recipient.email);
      continue;
    }
    add("accepted", 2_000);
    if (!luck.is(interest(recipient.contact_id, sentAt, now))) continue;
    const opened = delay(luck);
    add("opened", opened);
    if (luck.is(0.3)) add("opened", opened + delay(luck));
    if (luck.is(0.29)) {
      const link = luck.is(0.55) ? 2 : 1 + luck.below(links);
      add("clicked", opened + 20_000 + luck.below(90_000), link);
      if (luck.is(0.2)) add("clicked", opened + 200_000, 1 + luck.below(links));
    }
    if (luck.is(0.008)) {
      add("unsubscribed", opened + 60_000);
      lost.unsubscribed.push(recipient.email);
    }
  }
  await sql`insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id, link)
    select e.kind, e.at, e.contact_id, l.id, l.campaign_id, e.recipient_id, e.link
    from jsonb_to_recordset(${jsonb(events)})
      as e(kind text, at timestamptz, contact_id bigint, recipient_id bigint, link int)
    join launches l on l.id = ${launchId}`;
  await suppressAll(sql, lost.bounced, "bounced", sentAt);
  await suppressAll(sql, lost.unsubscribed, "unsubscribed", sentAt);
}

/** What the shop sells, named as its catalogue's items are. */
const PRODUCTS = GOODS.map(
  ([key, name, group, price]) => [itemRef("seed_shop", key), name, group, price] as const,
);
/** Some are bought more than others. */
const favourite = (luck: Chance) => PRODUCTS[Math.floor(luck.next() ** 1.7 * PRODUCTS.length)]!;
const QUESTION = "Which day suits you for a visit?";
const ANSWERS = ["A weekday", "The weekend"] as const;

/** Three years of purchases in the seed shop, what was looked at there lately, and the answers to one question. */
export async function writeActivity(sql: Sql, now: Date): Promise<void> {
  const subjects = [
    ...PRODUCTS.map(([id, name, group]) => ({ kind: "bought", id, name, classes: [group] })),
    { kind: "answered", id: "visit-day", name: QUESTION, classes: ANSWERS },
  ];
  await sql`insert into event_subjects (kind, id, name, classes)
    select * from jsonb_to_recordset(${jsonb(subjects)})
      as r(kind text, id text, name text, classes jsonb)`;
  const people = await sql<{ id: number; days: number }>`
    select id, floor(extract(epoch from ${now}::timestamptz - created_at) / 86400)::int as days
    from contacts order by id`;
  const luck = chance(41);
  const gaze = chance(43);
  const events: object[] = [];
  for (const { id, days } of people) {
    const add = (kind: string, item: string, group: string, data: object = {}) => {
      const ago = luck.below(Math.max(1, Math.min(days, 1_095))) * DAY + luck.below(DAY);
      const at = new Date(now.getTime() - ago).toISOString();
      events.push({ kind, at, contact_id: id, item, class: group, data });
    };
    const buys = luck.is(0.35) ? 1 + Math.floor(luck.next() ** 3 * 9) : 0;
    for (let i = 0; i < buys; i++) {
      const [item, , group, price] = favourite(luck);
      const quantity = 1 + luck.below(3);
      add("bought", item, group, { amount: price * quantity, currency: "GBP", quantity });
    }
    const looks = gaze.is(0.3) ? 1 + gaze.below(5) : 0;
    for (let i = 0; i < looks; i++) {
      const [item, , group] = gaze.pick(PRODUCTS);
      const at = new Date(now.getTime() - gaze.below(60 * DAY)).toISOString();
      events.push({ kind: "viewed", at, contact_id: id, item, class: group, data: {} });
    }
    if (luck.is(0.08)) add("answered", "visit-day", luck.pick(ANSWERS));
  }
  await sql`insert into events (kind, at, contact_id, item, class, data)
    select e.kind, e.at, e.contact_id, e.item, e.class, e.data
    from jsonb_to_recordset(${jsonb(events)}) as e(kind text, at timestamptz,
      contact_id bigint, item text, class text, data jsonb)`;
}
