/** Invites a reviewer of a campaign's email. */
import { data } from "react-router";
import { invite, ReviewError } from "#server/reviews/saying.ts";
import { submissionOf } from "../form.ts";
import { at, campaignOf } from "../request.ts";
import { inviteSchema } from "../review/schema.ts";
import type { Route } from "./+types/api.reviewers.ts";

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, inviteSchema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const campaign = await campaignOf(context, params.campaign);
  const { services, member } = at(context);
  const { email = null, days, ...asked } = submission.value;
  try {
    await invite(services, campaign, member, { ...asked, email, days: Number(days) });
  } catch (error) {
    if (!(error instanceof ReviewError)) throw error;
    return data(submission.reply({ formErrors: [error.message] }), 409);
  }
  return submission.reply();
}
