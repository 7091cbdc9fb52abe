import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
import { compileRule, foldedValues, ruleSql } from "#core/rules/index.ts";
import { FIELDS, ruleArbitrary, valuesArbitrary } from "#core/testing/arbitrary-rules.ts";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";

let database: Database;
beforeAll(async () => {
  database = await openTestDatabase();
});
afterAll(() => database.close());

const fields = new Map(FIELDS.map((field) => [field.id, field]));
const now = { today: "2026-03-02" };

it("catches the same people in memory and in SQL", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(valuesArbitrary, { minLength: 1, maxLength: 12 }),
      fc.array(ruleArbitrary, { minLength: 1, maxLength: 6 }),
      async (people, rules) => {
        const contacts = people.map((values, i) => ({
          email: `p${i}@example.org`,
          values: values as Record<string, never>,
        }));
        const rows = contacts.map((contact) => ({
          ...contact,
          folded: foldedValues(contact.values),
        }));
        await database.sql`delete from contacts`;
        await database.sql`insert into contacts (email, email_folded, values, folded, created_at)
          select r.email, r.email, r.values, r.folded, now()
          from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb)
            as r(email text, values jsonb, folded jsonb)`;
        for (const rule of rules) {
          const found = await database.sql<{ email: string }>`
            select c.email from contacts c where ${ruleSql(rule, fields, now)} order by c.email`;
          const inMemory = contacts.filter(compileRule(rule, fields, now)).map((c) => c.email);
          expect({ rule, people: found.map((row) => row.email) }).toEqual({
            rule,
            people: inMemory.sort(),
          });
        }
      },
    ),
    { numRuns: 120 },
  );
}, 60_000);
