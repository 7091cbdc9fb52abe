import { afterAll, beforeAll, expect, it } from "vitest";
import { createDocument } from "#core/blocks/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { addList, addToList, getLists } from "./audience.ts";
import { forgetRemoved, hideCampaign, labelOfRemoved, putBack, takeOut } from "./bin.ts";
import { archiveCampaign, createCampaign, getCampaign, listCampaigns } from "./campaigns.ts";
import { addContacts } from "./contacts.ts";
import { listLabels, setLabels } from "./labels.ts";
import { getForms, saveForm } from "./signups.ts";
import { addMember } from "./team.ts";
import { addTopic, getTopics } from "./topics.ts";

const now = new Date("2026-03-02T10:00:00Z");
const words = { en: "News" };
let database: Database;
let ids: number[];
beforeAll(async () => {
  database = await openTestDatabase();
  ids = await addContacts(
    database.sql,
    ["a", "b", "c"].map((name) => ({ email: `${name}@example.org`, values: {}, createdAt: now })),
  );
});
afterAll(() => database.close());

const remove = (table: Parameters<typeof takeOut>[1], id: string) =>
  database.tx((sql) => takeOut(sql, table, id, `The ${table}`, now));
const restore = (id: string) => database.tx((sql) => putBack(sql, id));
const members = (list: string) =>
  database.sql<{
    id: number;
  }>`select contact_id as id from list_members where list_id = ${list} order by 1`;

it("puts a list back with its people, and what fed it feeds it again", async () => {
  const { sql } = database;
  const list = await addList(sql, "Guests", ids, now);
  const form = await saveForm(
    sql,
    null,
    { name: "Join", language: "en", list, title: "", wording: "", fields: [], topics: [] },
    now,
  );
  const before = await sql`select * from list_members where list_id = ${list} order by contact_id`;
  const removed = (await remove("lists", list))!;
  expect((await getLists(sql)).map(({ id }) => id)).not.toContain(list);
  expect((await getForms(sql)).find(({ id }) => id === form)?.list).toBeNull();
  expect(await restore(removed)).toBe("The lists");
  expect(await sql`select * from list_members where list_id = ${list} order by contact_id`).toEqual(
    before,
  );
  expect((await getForms(sql)).find(({ id }) => id === form)?.list).toBe(list);
  // Once is enough.
  expect(await restore(removed)).toBeNull();
});

it("keeps more rows than one value holds", async () => {
  const { sql } = database;
  const many = LIMITS.removedRows + 500;
  await sql`insert into contacts (email, email_folded, email_key, added, created_at)
    select a, a, a, '2026-03-02', ${now} from (select 'many' || g || '@example.org' as a from generate_series(1, ${many}) g) e`;
  const list = await addList(sql, "Many", [], now);
  await sql`insert into list_members (list_id, contact_id)
    select ${list}, id from contacts where email_folded like 'many%'`;
  const removed = (await remove("lists", list))!;
  expect(await sql`select 1 from removed_rows where removed_id = ${removed}`).toHaveLength(4);
  expect(await restore(removed)).toBe("The lists");
  expect(await members(list)).toHaveLength(many);
});

it("leaves away what hung on something that has gone since", async () => {
  const { sql } = database;
  const list = await addList(sql, "Some", ids, now);
  const removed = (await remove("lists", list))!;
  await sql`delete from contacts where id = ${ids[0]!}`;
  await restore(removed);
  expect((await members(list)).map(({ id }) => id)).toEqual(ids.slice(1));
  await addToList(sql, list, [ids[1]!]);
});

it("puts a topic back with what readers said, unless its place is taken", async () => {
  const { sql } = database;
  const topic = await addTopic(sql, words, words, now);
  await sql`insert into topic_choices (topic_id, contact_id, wants, at) values (${topic}, ${ids[1]!}, false, ${now})`;
  const removed = (await remove("topics", topic))!;
  expect(await getTopics(sql)).toEqual([]);
  await restore(removed);
  expect((await getTopics(sql)).map(({ id }) => id)).toEqual([topic]);
  expect(await sql`select wants from topic_choices where topic_id = ${topic}`).toEqual([
    { wants: false },
  ]);
  const again = (await remove("topics", topic))!;
  await sql`insert into topics (id, name, about, position, created_at)
    values (${topic}, '{}'::jsonb, '{}'::jsonb, 0, ${now})`;
  expect(await restore(again)).toBeNull();
});

it("hides a campaign that is not on its way, and puts it back", async () => {
  const { sql } = database;
  const campaign = await createCampaign(sql, "Spring", createDocument([]), now);
  await database.tx((tx) => setLabels(tx, campaign, ["Season", "season", "Shop"]));
  const hide = () => database.tx((tx) => hideCampaign(tx, campaign, "Spring", now));
  const removed = (await hide())!;
  expect(await getCampaign(sql, campaign)).toBeNull();
  expect(await listLabels(sql)).toEqual([]);
  expect(await hide()).toBeNull();
  expect(await labelOfRemoved(sql, removed)).toBe("Spring");
  expect(await restore(removed)).toBe("Spring");
  expect((await getCampaign(sql, campaign))?.labels.map(({ name }) => name)).toEqual([
    "season",
    "Shop",
  ]);
  const [label] = await listLabels(sql);
  expect(await listCampaigns(sql, { label: label!.id })).toHaveLength(1);
  expect(await archiveCampaign(sql, campaign, now)).toBe(true);
  expect(await listCampaigns(sql, { archived: false })).toEqual([]);
  const member = await addMember(sql, { name: "A", email: "a@example.org", role: "owner" }, now);
  await sql`insert into launches (id, campaign_id, state, send_at, zone, document, audience, segments, surroundings, conditions, member_id, created_at)
    values ('l', ${campaign}, 'scheduled', ${now}, 'UTC', '{}', '{}', '[]', '{}', '[]', ${member.id}, ${now})`;
  expect(await hide()).toBeNull();
  expect(await archiveCampaign(sql, campaign, null)).toBe(false);
});

it("knows nothing of what is not there, and forgets in time", async () => {
  expect(await remove("lists", "nowhere")).toBeNull();
  const list = await addList(database.sql, "Old", [], now);
  const removed = (await remove("lists", list))!;
  await forgetRemoved(database.sql, new Date(now.getTime() + 1));
  expect(await restore(removed)).toBeNull();
});
