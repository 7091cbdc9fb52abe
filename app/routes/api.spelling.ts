/** Looks words of an email up, as it is written. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { ownWordsOf } from "#server/campaigns/findings.ts";
import type { SpellingAnswer } from "../compose/wire.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.spelling.ts";

const askedSchema = z.object({
  words: z
    .array(z.tuple([z.string().max(40), z.array(z.string().max(80)).max(LIMITS.spellAsked)]))
    .max(LIMITS.languages + 1),
});

export async function action({ request, params, context }: Route.ActionArgs) {
  const asked = askedSchema.safeParse(await jsonOf(request));
  if (!asked.success) return Response.json({ message: "These are no words." }, { status: 400 });
  const campaign = await campaignOf(context, params.campaign);
  const { services } = at(context);
  const ours = await ownWordsOf(services, campaign);
  const words = await Promise.all(
    asked.data.words.map(async ([lang, all]): Promise<SpellingAnswer["words"][number]> => {
      const others = all.filter((word) => !ours.has(word.toLowerCase()));
      const wrong = await services.speller(others, lang);
      return [lang, [...wrong], wrong.size < LIMITS.spellingFindings];
    }),
  );
  return Response.json({ words } satisfies SpellingAnswer);
}
