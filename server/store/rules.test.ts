import fc from "fast-check";
import { afterAll, beforeAll, beforeEach, expect, it } from "vitest";
import { type Key, keysOf } from "#core/fields/index.ts";
import {
  compileRule,
  fragment,
  missesSql,
  type Rule,
  ruleSql,
  type Subject,
  type World,
} from "#core/rules/index.ts";
import { nowIn } from "#core/schedule/index.ts";
import {
  FIELDS,
  personArbitrary,
  type RandomPerson,
  ruleArbitrary,
  SCHEMA,
  SEGMENTS,
  SITE_FIELDS,
  SITES,
  WARDEN_FIELDS,
  WARDENS,
} from "#core/testing/arbitrary-rules.ts";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { addContacts } from "./contacts.ts";
import { addFields, addTable } from "./fields.ts";
import { addRecords } from "./records.ts";
import { suppress } from "./suppressions.ts";

let database: Database;
const ZONE = "America/St_Johns";
/** Just after midnight in the zone, the evening before in UTC terms of days. */
const AT = new Date("2026-03-02T03:31:00Z");
const world: World = {
  ...SCHEMA,
  segments: SEGMENTS,
  now: nowIn(ZONE, AT),
  names: new Map([
    ["list:a", "A"],
    ["list:b", "B"],
  ]),
};

const SITE_VALUES = [{ beds: 4, warden: 1 }, { warden: 2 }, { beds: -2 }];
const WARDEN_VALUES = [{ born: "1980-02-29", at: 2 }, { at: 1 }];

beforeAll(async () => {
  database = await openTestDatabase();
  const { sql } = database;
  await addTable(sql, "sites", "Sites", AT);
  await addTable(sql, "wardens", "Wardens", AT);
  await addFields(sql, SITE_FIELDS, "sites");
  await addFields(sql, WARDEN_FIELDS, "wardens");
  await addFields(sql, FIELDS);
  const fieldsOf = (table: string) => SCHEMA.tables.get(table)!.fields;
  const named = (names: readonly string[], values: readonly object[]) =>
    names.map((name, i) => ({ name, values: values[i] as Record<string, never> }));
  await addRecords(sql, "wardens", fieldsOf("wardens"), named(WARDENS, WARDEN_VALUES), AT);
  await addRecords(sql, "sites", fieldsOf("sites"), named(SITES, SITE_VALUES), AT);
  await sql`insert into lists (id, name, created_at) select v, v, now() from unnest(array['a', 'b']) v`;
  await sql`insert into documents (id, body, updated_at) values ('d', '{}', now())`;
  await sql`insert into campaigns (id, name, document_id, audience, created_at, updated_at)
    select v, v, 'd', '{}', now(), now() from unnest(array['one', 'two']) v`;
  await sql`insert into launches (id, campaign_id, state, send_at, zone, document, audience, segments,
      surroundings, member_id, created_at)
    select v, v, 'done', now(), 'UTC', '{}', '{}', '[]', '{}', 'm', now()
    from unnest(array['one', 'two']) v`;
});
afterAll(() => database.close());
beforeEach(async () => {
  await database.sql`delete from contacts`;
});

const addedAt = (person: RandomPerson) => new Date(AT.getTime() - person.addedDaysAgo * 86_400_000);

/** Puts people into the database. */
async function keep(people: readonly RandomPerson[]): Promise<number[]> {
  const { sql } = database;
  await sql`delete from contacts`;
  await sql`delete from events`;
  await sql`delete from suppressions`;
  const ids = await addContacts(
    sql,
    people.map((person, i) => ({
      email: `p${i}@example.org`,
      values: person.values,
      createdAt: addedAt(person),
    })),
  );
  const rows = people.flatMap((person, i) =>
    person.events.map((event) => ({
      contact: ids[i],
      kind: event.did,
      at: new Date(AT.getTime() - event.hoursAgo * 3_600_000).toISOString(),
      campaign: event.campaign,
      link: event.link,
      item: event.item,
      class: event.group,
    })),
  );
  await sql`insert into events (kind, at, contact_id, launch_id, campaign_id, link, item, class)
    select r.kind, r.at, r.contact, r.campaign, r.campaign, r.link, r.item, r.class
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as r(contact bigint, kind text,
      at timestamptz, campaign text, link int, item text, class text)`;
  for (const [i, person] of people.entries()) {
    for (const list of person.lists) {
      await sql`insert into list_members values (${list}, ${ids[i]})`;
    }
    if (person.held) await suppress(sql, `P${i}@example.org`, person.held, AT);
  }
  return ids;
}

const records: Record<string, { [field: string]: Key | undefined }[]> = {
  sites: SITE_VALUES.map((values, i) => ({ ...values, name: SITES[i]!.toLowerCase() })),
  wardens: WARDEN_VALUES.map((values, i) => ({ ...values, name: WARDENS[i]!.toLowerCase() })),
};
records.sites![2]!.name = "ile";

/** The same person in memory. */
const subject = (person: RandomPerson, i: number): Subject => ({
  keys: {
    ...keysOf(person.values, world.fields),
    email: `p${i}@example.org`,
    added: addedAt(person).toISOString().slice(0, 10),
    standing: person.held ?? "can be mailed",
  },
  lists: new Set(person.lists),
  activity: person.events.map(({ hoursAgo, campaign, ...event }) => ({
    ...event,
    campaign,
    launch: campaign,
    at: AT.getTime() - hoursAgo * 3_600_000,
  })),
  record: (table, id) => records[table]?.[id - 1] ?? null,
});

it("catches the same people in memory and in SQL", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(personArbitrary, { minLength: 1, maxLength: 8 }),
      fc.array(ruleArbitrary, { minLength: 1, maxLength: 8 }),
      async (people, rules) => {
        const ids = await keep(people);
        const subjects = people.map(subject);
        for (const rule of rules) {
          const found = await database.sql<{ id: number; misses: number }>`
            select c.id, ${missesSql(rule, world)} as misses from contacts c order by c.id`;
          const caught = await database.sql<{ id: number }>`
            select c.id from contacts c where ${ruleSql(rule, world)} order by c.id`;
          const fits = compileRule(rule, world);
          const inMemory = ids.filter((_, i) => fits(subjects[i]!));
          const inSql = caught.map((row) => row.id);
          expect({ rule, ids: inSql }).toEqual({ rule, ids: inMemory });
          // Who misses nothing is caught, and nobody else.
          expect(found.filter((row) => row.misses === 0).map((row) => row.id)).toEqual(inSql);
        }
      },
    ),
    { numRuns: 80 },
  );
}, 90_000);

it("counts people whose rule is turned round as all the others", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(personArbitrary, { minLength: 1, maxLength: 6 }),
      ruleArbitrary,
      async (people, rule) => {
        const ids = await keep(people);
        const none: Rule = { type: "none", rules: [rule] };
        const both = fragment`(${ruleSql(rule, world)})::int + (${ruleSql(none, world)})::int`;
        const rows = await database.sql<{ n: number | null }>`
          select coalesce(${both}, 1) as n from contacts c`;
        expect(rows.map((row) => row.n)).toEqual(ids.map(() => 1));
      },
    ),
    { numRuns: 30 },
  );
}, 60_000);
