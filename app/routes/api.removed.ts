/** Puts back what was removed. */
import { putBack } from "#server/store/bin.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.removed.ts";

export async function action({ params, context }: Route.ActionArgs) {
  const { services } = at(context);
  const label = await services.database.tx((sql) => putBack(sql, params.removed));
  return label === null
    ? { back: false, words: "It cannot be put back any more." }
    : { back: true, words: `${label} is back.` };
}
