/** The rows an import refused, with the line and the reason, as CSV. */
import { getImport, getRefused } from "#server/store/imports.ts";
import { csvResponse } from "../csv-response.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.import-refused.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const found = await getImport(sql, params.import);
  if (!found) return new Response("This import is gone.", { status: 404 });
  async function* rows() {
    yield ["Row", "Reason", "Imported", "What was written"];
    for (let after = -1; ; ) {
      const page = await getRefused(sql, params.import, after);
      for (const { line, reason, cells, taken } of page) {
        yield [String(line), reason, taken ? "without it" : "no", ...cells];
      }
      if (page.length === 0) return;
      after = page.at(-1)!.line;
    }
  }
  return csvResponse("refused.csv", rows());
}
