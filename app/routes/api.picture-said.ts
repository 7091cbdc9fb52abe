/** What a new image shows, said where it has just come. */
import { data } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { sayOfPicture } from "#server/store/pictures.ts";
import { submissionOf } from "../form.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.picture-said.ts";

const schema = z.object({
  alt: z.string().trim().max(LIMITS.lineLength).default(""),
  decorative: z.boolean().default(false),
});

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data({ problem: "This is too long." }, 400);
  const said = await sayOfPicture(at(context).sql, params.picture, submission.value);
  return said ? { problem: null } : data({ problem: "This image is gone." }, 404);
}
