/** The people of a view of the contacts table as CSV; import reads it back. */
import { LIMITS } from "#core/limits.ts";
import { viewSchema } from "#server/contact-views.ts";
import { recordBook, writeValues } from "#server/field-values.ts";
import { worldOf } from "#server/world.ts";
import { csvResponse } from "../csv-response.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.export.ts";

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const view = viewSchema
    .catch(viewSchema.parse({}))
    .parse(Object.fromEntries(new URL(request.url).searchParams));
  const world = await worldOf(sql, services.clock);
  const { token, total } = await services.views.open(sql, view, world);
  const fields = [...world.fields.values()];
  const book = await recordBook(sql, world.fields, world.tables);
  async function* rows() {
    yield ["Email address", ...fields.map(({ label }) => label)];
    for (let from = 0; from < total; from += LIMITS.exportRows) {
      const page = await services.views.rows(
        sql,
        token,
        view,
        world.fields,
        async () => world,
        from,
        LIMITS.exportRows,
      );
      for (const { email, values } of page) {
        const cells = writeValues(values, world.fields, book);
        yield [email, ...fields.map(({ id }) => cells[id] ?? "")];
      }
    }
  }
  return csvResponse("people.csv", rows());
}
