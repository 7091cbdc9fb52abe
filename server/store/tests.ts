/** Test sends of a campaign, and those who are sent tests together. */
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";

export interface TestMessage {
  readonly address: string;
  /** As whom it was filled in; null for nobody. */
  readonly contact: number | null;
  /** Why it was not taken; null where it was. */
  readonly failed: string | null;
  readonly openedAt: Date | null;
}

export interface TestSend {
  readonly id: number;
  readonly at: Date;
  readonly messages: readonly TestMessage[];
}

/** Begins a test: gives the ids of its messages, in their order. */
export async function beginTest(
  sql: Sql,
  { campaign, member, at }: { campaign: string; member: string; at: Date },
  messages: readonly Pick<TestMessage, "address" | "contact">[],
): Promise<number[]> {
  const test = first(
    await sql<{ id: number }>`insert into test_sends (campaign_id, member_id, at)
      values (${campaign}, ${member}, ${at}) returning id`,
  )!.id;
  const rows = await sql<{ id: number }>`
    insert into test_messages (test_id, address, contact_id)
    select ${test}, m ->> 'address', (m ->> 'contact')::bigint
    from jsonb_array_elements(${jsonb(messages)}) with ordinality e(m, n)
    order by n returning id`;
  return rows.map(({ id }) => id);
}

/** Keeps why a message of a test was not taken. */
export async function failedTest(sql: Sql, message: number, reply: string): Promise<void> {
  await sql`update test_messages set failed = ${reply} where id = ${message}`;
}

/** Keeps that the message of a test was opened, the first time. */
export async function openedTest(sql: Sql, message: number, at: Date): Promise<void> {
  await sql`update test_messages set opened_at = ${at}
    where id = ${message} and opened_at is null`;
}

/** The latest tests of a campaign. */
export const listTests = (sql: Sql, campaign: string): Promise<TestSend[]> => sql<TestSend>`
  select t.id, t.at,
    coalesce((select jsonb_agg(jsonb_build_object('address', m.address, 'contact', m.contact_id,
        'failed', m.failed, 'openedAt', m.opened_at) order by m.id)
      from test_messages m where m.test_id = t.id), '[]') as messages
  from test_sends t where t.campaign_id = ${campaign} order by t.id desc limit 8`;

export interface TestGroup {
  readonly name: string;
  readonly addresses: readonly string[];
}

export const testGroups = (sql: Sql): Promise<TestGroup[]> =>
  sql<TestGroup>`select name, addresses from test_groups order by name`;

/** Keeps addresses under a name, in place of what stood there. */
export async function keepTestGroup(sql: Sql, { name, addresses }: TestGroup): Promise<void> {
  await sql`insert into test_groups (name, addresses)
    values (${name}, ${jsonb(addresses)})
    on conflict (name) do update set addresses = excluded.addresses`;
}

export async function removeTestGroup(sql: Sql, name: string): Promise<void> {
  await sql`delete from test_groups where name = ${name}`;
}
