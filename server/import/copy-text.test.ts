import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
import type { Field } from "#core/fields/index.ts";
import { FIELDS, valuesArbitrary } from "#core/testing/arbitrary-rules.ts";
import type { Database } from "../db/database.ts";
import { valuesSql } from "../store/columns.ts";
import { destinationOf } from "../store/staging/destination.ts";
import { dropStaging, makeRows, stagingOf } from "../store/staging/staging.ts";
import { openTestDatabase } from "../testing/database.ts";
import { rowWriter } from "./copy-text.ts";

let database: Database;
beforeAll(async () => {
  database = await openTestDatabase();
});
afterAll(() => database.close());

const ID = "copytext0001";
const fields: readonly Field[] = FIELDS;

it("writes rows that the database reads back as they were, whatever is in them", async () => {
  const { sql } = database;
  const write = rowWriter(fields);
  const known = new Map(fields.map((field) => [field.id, field]));
  await fc.assert(
    fc.asyncProperty(fc.array(valuesArbitrary, { minLength: 1, maxLength: 12 }), async (people) => {
      const into = await makeRows(sql, ID, destinationOf("contacts"), fields);
      const rows = people.map((values, i) => {
        const email = `p${i}@example.org`;
        const known = [email, email, email];
        return write(
          i,
          known,
          fields.map(({ id }) => (values[id] ?? null) as never),
        );
      });
      await database.copy(into, new TextEncoder().encode(rows.join("")));
      const found = await sql<{ values: object }>`
        select ${valuesSql(known, "s")} as values from ${stagingOf(ID).rows} s order by line`;
      expect(found.map((row) => row.values)).toEqual(people);
    }),
    { numRuns: 60 },
  );
  await dropStaging(sql, ID);
}, 60_000);
