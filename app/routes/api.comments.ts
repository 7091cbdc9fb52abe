/** What the team says about a campaign's email, and who else looks at it. */

import { comment, ReviewError } from "#server/reviews/saying.ts";
import { loadDocument } from "#server/store/documents.ts";
import {
  listComments,
  requireReviewer,
  resolveComment,
  revokeReviewer,
} from "#server/store/reviews.ts";
import { at, campaignOf, jsonOf, zoneOf } from "../request.ts";
import { memberSaysSchema } from "../review/schema.ts";
import { shownComments } from "../review/shown.ts";
import type { Route } from "./+types/api.comments.ts";

const refuse = (message: string, status: number) => Response.json({ message }, { status });

/** The comments. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const campaign = await campaignOf(context, params.campaign);
  const { sql, now } = at(context);
  const { doc } = (await loadDocument(sql, campaign.documentId))!;
  const comments = await listComments(sql, campaign.id);
  return Response.json(shownComments(comments, doc, now, await zoneOf(context)));
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const said = memberSaysSchema.safeParse(await jsonOf(request));
  if (!said.success) return refuse(said.error.issues[0]!.message, 400);
  const campaign = await campaignOf(context, params.campaign);
  const { services, sql, member, now } = at(context);
  const { data } = said;
  try {
    switch (data.do) {
      case "comment":
        await comment(services, campaign, { member }, data);
        break;
      case "resolve":
        await resolveComment(sql, campaign.id, data.comment, data.resolved ? now : null);
        break;
      case "revoke":
        await revokeReviewer(sql, campaign.id, data.reviewer, now);
        break;
      case "require":
        await requireReviewer(sql, campaign.id, data.reviewer, data.required);
    }
  } catch (error) {
    if (error instanceof ReviewError) return refuse(error.message, 409);
    throw error;
  }
  return Response.json({});
}
