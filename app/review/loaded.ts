/** What the proof shows of a review. */
import type { RouterContextProvider } from "react-router";
import type { Counted } from "#server/campaigns/findings.ts";
import { reviewStateOf, standingToday } from "#server/reviews/deciding.ts";
import { reviewPath } from "#server/reviews/links.ts";
import type { Campaign } from "#server/store/campaigns.ts";
import { listComments, listReviewers } from "#server/store/reviews.ts";
import { at, zoneOf } from "../request.ts";
import { ago, day } from "../ui/words.ts";
import type { ShownReviewer } from "./reviewers.tsx";
import { placesIn, type ShownComment, shownComments } from "./shown.ts";

export interface ShownReview {
  readonly reviewers: readonly ShownReviewer[];
  readonly comments: readonly ShownComment[];
  readonly places: readonly { value: string; label: string }[];
}

export async function reviewShown(
  context: Readonly<RouterContextProvider>,
  campaign: Campaign,
  email: Counted,
): Promise<ShownReview> {
  const { services, sql, now } = at(context);
  const zone = await zoneOf(context);
  const { doc } = email.stored;
  const state = await reviewStateOf(services, campaign, email);
  const reviewers = (await listReviewers(sql, campaign.id)).map(async (one) => {
    const { standing, since } = await standingToday(services, campaign, one, state);
    const ended = one.revokedAt !== null || one.expiresAt <= now;
    return {
      id: one.id,
      name: one.name,
      required: one.required,
      standing,
      since,
      decided: one.decision && { at: ago(one.decision.at, now, zone), note: one.decision.note },
      link: ended ? null : `${services.config.publicAddress}${reviewPath(services, one)}`,
      until: day(one.expiresAt, now, zone),
    };
  });
  return {
    reviewers: await Promise.all(reviewers),
    comments: shownComments(await listComments(sql, campaign.id), doc, now, zone),
    places: placesIn(doc),
  };
}
