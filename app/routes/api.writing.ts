/** Asks the writing helper about a text or a subject. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { earlierSubjects } from "#server/store/results.ts";
import type { WritingQuestion } from "../compose/wire.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.writing.ts";

const lang = z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/);
const questionSchema = z.discriminatedUnion("about", [
  z.object({
    about: z.literal("text"),
    paragraphs: z.array(z.string().max(LIMITS.pasteText)).max(500),
    lang,
  }),
  z.object({
    about: z.literal("subject"),
    subject: z.string().max(LIMITS.lineLength),
    preview: z.string().max(LIMITS.lineLength),
    lang,
  }),
]);

export async function action({ request, params, context }: Route.ActionArgs) {
  const campaign = await campaignOf(context, params.campaign);
  const { services, sql } = at(context);
  const parsed = questionSchema.safeParse(await jsonOf(request));
  if (!parsed.success) return refuse("This is too long to be looked at, or could not be read.");
  const question: WritingQuestion = parsed.data;
  if (question.about === "text") {
    return Response.json(await services.writing.text(question.paragraphs, question.lang));
  }
  const { subject, preview } = question;
  const earlier = await earlierSubjects(sql, campaign.id);
  return Response.json(
    await services.writing.subject({ subject, preview, earlier }, question.lang),
  );
}

const refuse = (message: string) => Response.json({ message }, { status: 400 });
