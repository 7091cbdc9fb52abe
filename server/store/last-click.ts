/** What somebody does is the email's in which they clicked last, where that was in so many days before. */
import { fragment, type Sql as SqlPiece } from "#core/rules/index.ts";

/** A query for that email: its launch, campaign and recipient; no row where there was no such click of a person. */
export const lastClickSql = (contact: SqlPiece, at: SqlPiece, days: number): SqlPiece =>
  fragment`select e.launch_id, e.campaign_id, e.recipient_id from events e
    where e.contact_id = ${contact} and e.kind = 'clicked' and not e.machine
      and e.at <= ${at} and e.at > ${at} - make_interval(days => ${days}::int)
    order by e.at desc, e.id desc limit 1`;
