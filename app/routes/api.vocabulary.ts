/** What a rule can speak of, for building one anywhere. */
import { vocabularyOf } from "#server/audience/vocabulary.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.vocabulary.ts";

export const loader = async ({ context }: Route.LoaderArgs) =>
  Response.json(await vocabularyOf(at(context).sql));
