/** How those who look at an email stand to it as it is now, and whose approval is missing. */
import { createHash } from "node:crypto";
import { canonical } from "#core/json.ts";
import {
  contentOf,
  type Decision,
  hasChanged,
  liveChanges,
  liveStateOf,
  type ReviewState,
  type Standing,
  standingOf,
} from "#core/reviews/index.ts";
import type { Counted } from "../campaigns/findings.ts";
import type { Services } from "../services.ts";
import { rulesOfAudience, segmentsBehind } from "../store/audience.ts";
import type { Campaign } from "../store/campaigns.ts";
import { rulesOf } from "../store/conditions.ts";
import { listSteps } from "../store/history.ts";
import { listReviewers, type Reviewer } from "../store/reviews.ts";

const mark = (text: string) => createHash("sha256").update(text).digest("base64url").slice(0, 32);

/** The state of a campaign's email that somebody decides about. */
export async function reviewStateOf(
  { database }: Pick<Services, "database">,
  { audience, topic }: Pick<Campaign, "audience" | "topic">,
  { stored, around, readers }: Pick<Counted, "stored" | "around" | "readers">,
): Promise<ReviewState> {
  const rules = rulesOf(readers.conditions).filter((rule) => rule !== null);
  const segments = await segmentsBehind(database.sql, [...rulesOfAudience(audience), ...rules]);
  const behind = segments.map(({ id, rule }) => ({ id, rule }));
  return {
    seq: stored.seq,
    content: mark(contentOf(stored.doc, around)),
    audience: mark(canonical({ audience, topic, segments: behind })),
    live: liveStateOf(around),
  };
}

/** What has changed since somebody decided, in words. */
export interface Since {
  /** The latest first. */
  readonly steps: readonly string[];
  /** Who gets it has changed. */
  readonly readers: boolean;
  /** Items that come and go by themselves: they leave a decision as it is. */
  readonly items: readonly string[];
}

const STEPS = 20;

async function since(
  { database }: Pick<Services, "database">,
  campaign: Pick<Campaign, "documentId">,
  decision: Decision,
  now: ReviewState,
): Promise<Since> {
  const steps =
    decision.content === now.content ? [] : await listSteps(database.sql, campaign.documentId);
  const made = steps
    .filter(({ seq, undone }) => seq > decision.seq && !undone)
    .map(({ words, person }) => `${words}, ${person}`);
  const elsewhere = made.length === 0 && decision.content !== now.content;
  return {
    steps: elsewhere ? ["The brand or a derived tag was changed"] : made.slice(0, STEPS),
    readers: decision.audience !== now.audience,
    items: liveChanges(decision.live, now.live),
  };
}

export interface ReviewerStanding {
  readonly reviewer: Reviewer;
  readonly standing: Standing;
  /** Null where nothing was decided, or nothing has changed since. */
  readonly since: Since | null;
}

/** How a reviewer stands to the email. */
export async function standingToday(
  services: Pick<Services, "database">,
  campaign: Campaign,
  reviewer: Reviewer,
  now: ReviewState,
): Promise<ReviewerStanding> {
  const { decision } = reviewer;
  const found = decision && (await since(services, campaign, decision, now));
  const changed = decision && (hasChanged(decision, now) || (found?.items.length ?? 0) > 0);
  return { reviewer, standing: standingOf(decision, now), since: changed ? found : null };
}

/** Those whose approval is asked for and who have not approved it as it is now, by their names. */
export async function missingApprovals(
  services: Pick<Services, "database">,
  campaign: Campaign,
  email: Pick<Counted, "stored" | "around" | "readers">,
): Promise<readonly string[]> {
  const reviewers = await listReviewers(services.database.sql, campaign.id);
  const required = reviewers.filter((one) => one.required);
  if (required.length === 0) return [];
  const now = await reviewStateOf(services, campaign, email);
  return required
    .filter(({ decision }) => standingOf(decision, now) !== "approved")
    .map(({ name }) => name);
}

/** What is missing, in words. */
export const missingWords = (names: readonly string[]): string =>
  `Not approved in this state yet: ${names.join(", ")}`;
