/** The addresses that get nothing, as CSV. */
import { allSuppressions } from "#server/store/suppressions.ts";
import { csvResponse } from "../csv-response.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.held-export.ts";

export async function loader({ context }: Route.LoaderArgs) {
  const { sql } = at(context);
  async function* rows() {
    yield ["Email address", "Reason", "Since"];
    for (const { email, reason, at: since } of await allSuppressions(sql)) {
      yield [email, reason, since.toISOString()];
    }
  }
  return csvResponse("held-back.csv", rows());
}
