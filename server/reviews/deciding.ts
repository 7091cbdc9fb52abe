/** How those who look at an email stand to it as it is now, and whose approval is missing. */
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
import { markOf } from "../ids.ts";
import type { Services } from "../services.ts";
import { rulesOfAudience, segmentsBehind } from "../store/audience.ts";
import type { Campaign } from "../store/campaigns.ts";
import { rulesOf } from "../store/conditions.ts";
import { type HistoryStep, listSteps } from "../store/history.ts";
import { listReviewers, type Reviewer } from "../store/reviews.ts";

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
    content: markOf(contentOf(stored.doc, around)),
    audience: markOf(canonical({ audience, topic, segments: behind })),
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

function since(decision: Decision, now: ReviewState, history: readonly HistoryStep[]): Since {
  const isOther = decision.content !== now.content;
  const made = history
    .filter(({ seq, undone }) => isOther && seq > decision.seq && !undone)
    .map(({ words, person }) => `${words}, ${person}`);
  const elsewhere = isOther && made.length === 0;
  return {
    steps: elsewhere
      ? ["The brand, a derived tag or a parameter was changed"]
      : made.slice(0, STEPS),
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

/** How reviewers stand to the email. Its history is read once for all of them, where anything has changed. */
export async function standingsToday(
  { database }: Pick<Services, "database">,
  campaign: Pick<Campaign, "documentId">,
  reviewers: readonly Reviewer[],
  now: ReviewState,
): Promise<readonly ReviewerStanding[]> {
  const changed = reviewers.some(({ decision }) => decision && decision.content !== now.content);
  const history = changed ? await listSteps(database.sql, campaign.documentId) : [];
  return reviewers.map((reviewer) => {
    const { decision } = reviewer;
    const found = decision && since(decision, now, history);
    const isSame = !found || (!hasChanged(decision!, now) && found.items.length === 0);
    return { reviewer, standing: standingOf(decision, now), since: isSame ? null : found };
  });
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
