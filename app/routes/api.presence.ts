/** Where a person is in a campaign's email: told to everybody else who has it open. */
import { z } from "zod";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.presence.ts";

const requestSchema = z.object({
  tab: z.string().regex(/^[A-Za-z0-9_-]{4,40}$/),
  /** The node that is selected; null for none. */
  at: z.string().max(40).nullable(),
});

export async function action({ request, params, context }: Route.ActionArgs) {
  const { documentId } = await campaignOf(context, params.campaign);
  const { services } = at(context);
  const parsed = requestSchema.safeParse(await jsonOf(request));
  if (!parsed.success)
    return Response.json({ message: "This could not be read." }, { status: 400 });
  services.followers.move(documentId, parsed.data.tab, parsed.data.at);
  return new Response(null, { status: 204 });
}
