/** Test sends of a campaign. */
import type { Sql } from "../db/database.ts";

export interface TestSend {
  readonly id: number;
  readonly addresses: string[];
  readonly readAs: number | null;
  readonly failed: string[];
  readonly at: Date;
}

export async function recordTest(
  sql: Sql,
  test: Omit<TestSend, "id"> & { campaignId: string; member: string },
): Promise<void> {
  await sql`insert into test_sends (campaign_id, addresses, read_as, failed, member_id, at)
    values (${test.campaignId}, ${JSON.stringify(test.addresses)}::jsonb, ${test.readAs},
      ${JSON.stringify(test.failed)}::jsonb, ${test.member}, ${test.at})`;
}

/** The latest tests of a campaign. */
export const listTests = (sql: Sql, campaignId: string): Promise<TestSend[]> => sql<TestSend>`
  select id, addresses, read_as as "readAs", failed, at from test_sends
  where campaign_id = ${campaignId} order by id desc limit 8`;
