/** Reviewers of campaigns, what they decided, and the comments of all. */
import { type Decision, liveStateSchema } from "#core/reviews/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";

export interface Reviewer {
  readonly id: number;
  readonly campaign: string;
  readonly name: string;
  readonly email: string | null;
  /** Nothing is scheduled before they have approved it. */
  readonly required: boolean;
  readonly nonce: string;
  /** The member who invited them. */
  readonly member: string | null;
  readonly expiresAt: Date;
  readonly revokedAt: Date | null;
  /** What they decided last. */
  readonly decision: Decision | null;
}

interface Row extends Omit<Reviewer, "decision"> {
  readonly decision: (Omit<Decision, "at" | "live"> & { at: string; live: unknown }) | null;
}
const reviewer = ({ decision, ...row }: Row): Reviewer => ({
  ...row,
  decision: decision && {
    ...decision,
    at: new Date(decision.at),
    live: liveStateSchema.parse(decision.live),
  },
});

/** Reviewers of a campaign, or the one with an id; the first invited first. */
async function found(sql: Sql, by: { campaign?: string; id?: number }): Promise<Reviewer[]> {
  const rows = await sql<Row>`
    select r.id, r.campaign_id as campaign, r.name, r.email, r.required, r.nonce,
      r.member_id as member, r.expires_at as "expiresAt", r.revoked_at as "revokedAt",
      (select jsonb_build_object('approves', d.approves, 'note', d.note, 'seq', d.seq,
          'content', d.content, 'audience', d.audience, 'live', d.live, 'at', d.at)
        from decisions d where d.reviewer_id = r.id order by d.id desc limit 1) as decision
    from reviewers r join campaigns c on c.id = r.campaign_id
    where c.deleted_at is null
      and (${by.campaign ?? null}::text is null or r.campaign_id = ${by.campaign ?? null}::text)
      and (${by.id ?? null}::bigint is null or r.id = ${by.id ?? null}::bigint)
    order by r.id`;
  return rows.map(reviewer);
}

export const listReviewers = (sql: Sql, campaign: string): Promise<Reviewer[]> =>
  found(sql, { campaign });

export const getReviewer = async (sql: Sql, id: number): Promise<Reviewer | null> =>
  first(await found(sql, { id }));

export async function addReviewer(
  sql: Sql,
  one: Omit<Reviewer, "id" | "revokedAt" | "decision">,
  at: Date,
): Promise<number> {
  return first(
    await sql<{ id: number }>`insert into reviewers
      (campaign_id, name, email, required, nonce, member_id, created_at, expires_at)
      values (${one.campaign}, ${one.name}, ${one.email}, ${one.required}, ${one.nonce},
        ${one.member}, ${at}, ${one.expiresAt}) returning id`,
  )!.id;
}

/** Ends a reviewer's link; their approval is waited for no more, and what they said stays. */
export async function revokeReviewer(
  sql: Sql,
  campaign: string,
  id: number,
  at: Date,
): Promise<void> {
  await sql`update reviewers set revoked_at = ${at}, required = false
    where id = ${id} and campaign_id = ${campaign} and revoked_at is null`;
}

/** Whether nothing is scheduled before a reviewer has approved it. */
export async function requireReviewer(
  sql: Sql,
  campaign: string,
  id: number,
  required: boolean,
): Promise<void> {
  await sql`update reviewers set required = ${required}
    where id = ${id} and campaign_id = ${campaign} and revoked_at is null`;
}

export async function decide(
  sql: Sql,
  reviewer: number,
  { approves, note, seq, content, audience, live, at }: Decision,
): Promise<void> {
  await sql`insert into decisions (reviewer_id, approves, note, seq, content, audience, live, at)
    values (${reviewer}, ${approves}, ${note}, ${seq}, ${content}, ${audience},
      ${jsonb(live)}, ${at})`;
}

export interface Comment {
  readonly id: number;
  readonly author: string;
  /** Who it is of: a reviewer, or somebody of the team. */
  readonly reviewer: number | null;
  readonly replyTo: number | null;
  /** The node it is about; null for the whole email. */
  readonly node: string | null;
  readonly words: string;
  readonly at: Date;
  readonly resolved: boolean;
}

/** Everything that was said about a campaign, in its order. */
export const listComments = (sql: Sql, campaign: string): Promise<Comment[]> => sql<Comment>`
  select id, author, reviewer_id as reviewer, reply_to as "replyTo", node, words, at,
    resolved_at is not null as resolved
  from comments where campaign_id = ${campaign} order by id`;

export const countComments = async (sql: Sql, campaign: string): Promise<number> =>
  first(
    await sql<{
      n: number;
    }>`select count(*)::int as n from comments where campaign_id = ${campaign}`,
  )!.n;

export interface NewComment {
  readonly campaign: string;
  readonly reviewer: number | null;
  readonly member: string | null;
  readonly author: string;
  readonly replyTo: number | null;
  readonly node: string | null;
  readonly words: string;
  readonly at: Date;
}

/** Whether the very same was said by the same person in the same place since a moment: it came twice. */
export async function isSaidSince(
  sql: Sql,
  one: Omit<NewComment, "at" | "author">,
  since: Date,
): Promise<boolean> {
  const { campaign, reviewer, member, replyTo, node, words } = one;
  const rows = await sql`select 1 from comments where campaign_id = ${campaign} and words = ${words}
    and reviewer_id is not distinct from ${reviewer}::bigint
    and member_id is not distinct from ${member}::text
    and reply_to is not distinct from ${replyTo}::bigint
    -- A reply stands where its comment does.
    and (reply_to is not null or node is not distinct from ${node}::text)
    and at >= ${since} limit 1`;
  return rows.length > 0;
}

/** A reply stands under what it answers, about the same node, and opens it again. Gives false where that is gone. */
export async function addComment(sql: Sql, one: NewComment): Promise<boolean> {
  const { campaign, reviewer, member, author, replyTo, node, words, at } = one;
  if (replyTo === null) {
    await sql`insert into comments (campaign_id, reviewer_id, member_id, author, node, words, at)
      values (${campaign}, ${reviewer}, ${member}, ${author}, ${node}, ${words}, ${at})`;
    return true;
  }
  const rows = await sql`
    with asked as (update comments set resolved_at = null
      where id = ${replyTo} and campaign_id = ${campaign} and reply_to is null returning id, node)
    insert into comments (campaign_id, reviewer_id, member_id, author, reply_to, node, words, at)
    select ${campaign}, ${reviewer}, ${member}::text, ${author}, id, node, ${words}, ${at}::timestamptz
    from asked returning id`;
  return rows.length > 0;
}

/** Says that nothing is left to be done about a comment, or that something is. */
export async function resolveComment(
  sql: Sql,
  campaign: string,
  id: number,
  at: Date | null,
): Promise<void> {
  await sql`update comments set resolved_at = ${at}
    where id = ${id} and campaign_id = ${campaign} and reply_to is null`;
}
