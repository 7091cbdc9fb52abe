/** The people of a view of the contacts table as rows of a file, which an import reads back as they were. */
import { LIMITS } from "#core/limits.ts";
import type { World } from "#core/rules/index.ts";
import type { Services } from "../services.ts";
import type { View } from "../store/views.ts";
import { recordBook, writeValues } from "./field-values.ts";

/** A header, then a row for each person; read page by page. */
export async function* peopleRows(
  { database, views }: Pick<Services, "database" | "views">,
  view: View,
  world: World,
): AsyncGenerator<readonly string[]> {
  const { sql } = database;
  const fields = [...world.fields.values()];
  const book = await recordBook(sql, world.fields, world.tables);
  const { token, total } = await views.open(sql, view, world);
  yield ["Email address", ...fields.map(({ label }) => label)];
  const again = async () => world;
  for (let from = 0; from < total; from += LIMITS.exportRows) {
    const page = await views.rows(sql, token, view, world.fields, again, from, LIMITS.exportRows);
    for (const { email, values } of page) {
      const cells = writeValues(values, world.fields, book);
      yield [email, ...fields.map(({ id }) => cells[id] ?? "")];
    }
  }
}
