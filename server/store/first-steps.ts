/** What an installation has already of what a first send takes. */
import { first, type Sql } from "../db/database.ts";

export interface Begun {
  readonly people: boolean;
  readonly email: boolean;
  readonly test: boolean;
  /** Something has gone out: then nobody needs to be led any more. */
  readonly sent: boolean;
  /** The latest campaign that is not sent, for the steps that are taken in it. */
  readonly campaign: string | null;
}

export async function begunSoFar(sql: Sql): Promise<Begun> {
  return first(
    await sql<Begun>`select
      exists (select 1 from contacts) as people,
      exists (select 1 from campaigns where deleted_at is null) as email,
      exists (select 1 from test_sends) as test,
      exists (select 1 from launches where state in ('sending', 'paused', 'done')) as sent,
      (select id from campaigns where deleted_at is null and variant_of is null order by updated_at desc limit 1) as campaign`,
  )!;
}
