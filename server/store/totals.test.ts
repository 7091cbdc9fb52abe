/** What is counted as it happens is what counting everything would give. */
import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { addContacts } from "./contacts.ts";
import { measuresOf, measuresOfAll } from "./results.ts";

let database: Database;
let contacts: number[];
const now = new Date("2026-03-02T10:00:00Z");
const PEOPLE = 4;
const KINDS = [
  "accepted",
  "bounced",
  "opened",
  "clicked",
  "unsubscribed",
  "complained",
  "bought",
] as const;
beforeAll(async () => {
  database = await openTestDatabase();
  const emails = Array.from({ length: PEOPLE }, (_, i) => `p${i}@example.org`);
  contacts = await addContacts(
    database.sql,
    emails.map((email) => ({ email, values: {}, createdAt: now })),
  );
});
afterAll(() => database.close());

async function newLaunch(id: string): Promise<number[]> {
  const { sql } = database;
  await sql`insert into documents (id, body, updated_at) values (${id}, '{}', ${now})`;
  await sql`insert into campaigns (id, name, document_id, audience, created_at, updated_at)
    values (${id}, ${id}, ${id}, '{}', ${now}, ${now})`;
  await sql`insert into launches (id, campaign_id, state, send_at, zone, document, audience, segments,
      surroundings, member_id, created_at)
    values (${id}, ${id}, 'sending', ${now}, 'UTC', '{}', '{}', '[]', '{}', 'm', ${now})`;
  const rows = await sql<{ id: number }>`
    insert into recipients (launch_id, contact_id, email, state, next_try_at)
    select ${id}, c.id, c.email, 'accepted', ${now} from contacts c order by c.id returning id`;
  return rows.map((row) => row.id);
}

let made = 0;
it("counts each person once, whatever comes how often, in what pieces, and turns out to be a machine's", async () => {
  const event = fc.record({
    kind: fc.constantFrom(...KINDS),
    who: fc.nat(PEOPLE - 1),
    /** Known as a machine's at once, or afterwards. */
    machine: fc.constantFrom("no", "no", "at once", "later"),
  });
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(event, { maxLength: 6 }), { maxLength: 6 }),
      async (pieces) => {
        const { sql } = database;
        const id = `l${made++}`;
        const recipients = await newLaunch(id);
        for (const piece of pieces) {
          const rows = piece.map(({ kind, who, machine }) => ({
            ...{ kind, recipient: recipients[who]!, data: { later: machine === "later" } },
            machine: machine === "at once" && (kind === "opened" || kind === "clicked"),
          }));
          await sql`insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id, machine, data)
          select r.kind, ${now}::timestamptz, ${contacts[0]!}::bigint, ${id}, ${id}, r.recipient, r.machine, r.data
          from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb)
            as r(kind text, recipient bigint, machine boolean, data jsonb)`;
          await sql`update events set machine = true where launch_id = ${id} and (data ->> 'later')::boolean
            and kind in ('opened', 'clicked')`;
        }
        const reads = (kind: string) => kind === "opened" || kind === "clicked";
        const all = pieces.flat().filter(({ kind, machine }) => machine === "no" || !reads(kind));
        const people = (...kinds: string[]) =>
          new Set(all.filter(({ kind }) => kinds.includes(kind)).map(({ who }) => who)).size;
        expect(await measuresOf(sql, id)).toEqual({
          readers: PEOPLE,
          accepted: people("accepted"),
          bounced: people("bounced"),
          opened: people("opened", "clicked"),
          clicked: people("clicked"),
          unsubscribed: people("unsubscribed"),
          complained: people("complained"),
          ordered: people("bought"),
        });
      },
    ),
    { numRuns: 60 },
  );
});

it("keeps how many readers there were once nothing waits any more, without those held back", async () => {
  const { sql } = database;
  const [first] = await newLaunch("ending");
  await sql`update recipients set state = 'held' where id = ${first!}`;
  expect((await measuresOf(sql, "ending")).readers).toBe(PEOPLE - 1);
  await sql`update launches set state = 'done', finished_at = ${now} where id = 'ending'`;
  await sql`delete from recipients where launch_id = 'ending'`;
  expect((await measuresOf(sql, "ending")).readers).toBe(PEOPLE - 1);
  expect(await measuresOfAll(sql, [])).toEqual(new Map());
});
