/** What the proof shows of a review. */
import type { RouterContextProvider } from "react-router";
import type { Counted } from "#server/campaigns/findings.ts";
import { reviewStateOf, standingsToday } from "#server/reviews/deciding.ts";
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
  const standings = await standingsToday(
    services,
    campaign,
    await listReviewers(sql, campaign.id),
    state,
  );
  const reviewers = standings.map(({ reviewer, standing, since }) => {
    const { id, name, required, decision, revokedAt, expiresAt } = reviewer;
    const ended = revokedAt !== null || expiresAt <= now;
    return {
      ...{ id, name, required, standing, since },
      decided: decision && { at: ago(decision.at, now, zone), note: decision.note },
      link: ended ? null : `${services.config.publicAddress}${reviewPath(services, reviewer)}`,
      until: day(expiresAt, now, zone),
    };
  });
  return {
    reviewers,
    comments: shownComments(await listComments(sql, campaign.id), doc, now, zone),
    places: placesIn(doc),
  };
}
