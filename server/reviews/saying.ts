/** Inviting reviewers, and what is said and decided about an email; each tells those whom it concerns by letter. */
import { find } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { ReviewState } from "#core/reviews/index.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import type { Campaign } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import {
  addComment,
  addReviewer,
  countComments,
  decide,
  getReviewer,
  isSaidSince,
  listComments,
  listReviewers,
  type Reviewer,
} from "../store/reviews.ts";
import { listMembers, type Member } from "../store/team.ts";
import { queueLetter } from "./letters.ts";
import { newNonce, reviewPath } from "./links.ts";

/** Why something cannot be said; the message is for the person. */
export class ReviewError extends Error {}

const linkTo = ({ config, signer }: Services, reviewer: Reviewer) =>
  `${config.publicAddress}${reviewPath({ signer }, reviewer)}`;

export interface Invitation {
  readonly name: string;
  readonly email: string | null;
  readonly required: boolean;
  readonly days: number;
}

/** Gives somebody a link of their own, which is sent to them where they have an address. Throws a ReviewError. */
export async function invite(
  services: Services,
  campaign: Campaign,
  member: Member,
  { name, email, required, days }: Invitation,
): Promise<void> {
  const now = services.clock.now();
  await services.database.tx(async (sql) => {
    if ((await listReviewers(sql, campaign.id)).length >= LIMITS.reviewers) {
      throw new ReviewError(`A campaign has ${LIMITS.reviewers} reviewers at most.`);
    }
    const id = await addReviewer(
      sql,
      {
        campaign: campaign.id,
        name,
        email,
        required,
        nonce: newNonce(),
        member: member.id,
        expiresAt: new Date(now.getTime() + days * 24 * 3_600_000),
      },
      now,
    );
    if (email === null) return;
    const reviewer = (await getReviewer(sql, id))!;
    const letter = {
      to: email,
      subject: `Please look at “${campaign.name}”`,
      paragraphs: [
        `${member.name} asks you to look at the email “${campaign.name}” before it is sent.`,
        "Every version of it can be seen there, with room for comments and for your yes or no. The link is yours alone: please do not pass it on.",
      ],
      link: { words: "Look at the email", address: linkTo(services, reviewer) },
    };
    await queueLetter(sql, letter, now);
  });
  services.wake();
}

/** The member whom news of a review go to: who invited, else the one who has been there longest. */
async function ownerOf(sql: Sql, reviewer: Reviewer): Promise<Member | null> {
  const members = await listMembers(sql);
  return members.find(({ id }) => id === reviewer.member) ?? members[0] ?? null;
}

async function tellOwner(
  services: Services,
  sql: Sql,
  campaign: Campaign,
  reviewer: Reviewer,
  { subject, words }: { subject: string; words: string },
): Promise<void> {
  const owner = await ownerOf(sql, reviewer);
  if (!owner) return;
  const address = `${services.config.publicAddress}/campaigns/${campaign.id}/proof`;
  const link = { words: "Go to the proof", address };
  const letter = { to: owner.email, subject, paragraphs: [words], link };
  await queueLetter(sql, letter, services.clock.now());
}

export type Author =
  | { readonly reviewer: Reviewer }
  | { readonly member: Pick<Member, "id" | "name"> };

export interface Said {
  readonly words: string;
  /** The node it is about; null for the whole email. */
  readonly node: string | null;
  /** The comment it answers. */
  readonly replyTo: number | null;
}

/** Keeps a comment, or a reply to one. Throws a ReviewError. */
export async function comment(
  services: Services,
  campaign: Campaign,
  author: Author,
  { words, node, replyTo }: Said,
): Promise<void> {
  const at = services.clock.now();
  const reviewer = "reviewer" in author ? author.reviewer : null;
  const name = "reviewer" in author ? author.reviewer.name : author.member.name;
  const said = {
    campaign: campaign.id,
    reviewer: reviewer?.id ?? null,
    member: "member" in author ? author.member.id : null,
    replyTo,
    node,
    words,
  };
  await services.database.tx(async (sql) => {
    // Over a line that was cut nobody knows whether it came, and says it again.
    if (await isSaidSince(sql, said, new Date(at.getTime() - LIMITS.commentAgainMs))) return;
    if ((await countComments(sql, campaign.id)) >= LIMITS.comments) {
      throw new ReviewError(`There are ${LIMITS.comments} comments already.`);
    }
    if (node !== null) {
      const stored = await loadDocument(sql, campaign.documentId);
      if (!stored || !find(stored.doc, node)) {
        throw new ReviewError("This block is gone; choose another, or the whole email.");
      }
    }
    const kept = await addComment(sql, { ...said, author: name, at });
    if (!kept) throw new ReviewError("This comment is gone.");
    if (reviewer) {
      const subject = `${name} on “${campaign.name}”`;
      await tellOwner(services, sql, campaign, reviewer, { subject, words });
    } else if (replyTo !== null) await tellAsker(services, sql, campaign, name, replyTo, words);
  });
  services.wake();
}

/** A reviewer who said something hears what the team answers. */
async function tellAsker(
  services: Services,
  sql: Sql,
  campaign: Campaign,
  name: string,
  replyTo: number,
  words: string,
): Promise<void> {
  const asked = (await listComments(sql, campaign.id)).find(({ id }) => id === replyTo);
  const reviewer = asked?.reviewer ? await getReviewer(sql, asked.reviewer) : null;
  const now = services.clock.now();
  if (!reviewer?.email || reviewer.revokedAt || reviewer.expiresAt <= now) return;
  const link = { words: "Look at the email", address: linkTo(services, reviewer) };
  const subject = `${name} has answered, on “${campaign.name}”`;
  await queueLetter(sql, { to: reviewer.email, subject, paragraphs: [words], link }, now);
}

/** Keeps a yes or a no to the state somebody saw. Throws a ReviewError where that is not the email's any more. */
export async function decideOn(
  services: Services,
  campaign: Campaign,
  reviewer: Reviewer,
  { approves, note }: { approves: boolean; note: string },
  seen: Pick<ReviewState, "content" | "audience">,
  now: ReviewState,
): Promise<void> {
  if (seen.content !== now.content || seen.audience !== now.audience) {
    throw new ReviewError("The email has changed since it was shown here: look at it once more.");
  }
  await services.database.tx(async (sql) => {
    await decide(sql, reviewer.id, { ...now, approves, note, at: services.clock.now() });
    const says = approves ? "approves" : "asks for changes to";
    const subject = `${reviewer.name} ${says} “${campaign.name}”`;
    const words = note || `${reviewer.name} ${says} the email as it is now.`;
    await tellOwner(services, sql, campaign, reviewer, { subject, words });
  });
  services.wake();
}
