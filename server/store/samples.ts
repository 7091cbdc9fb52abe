/** Contacts of a domain, taken out together with the lists that are empty then. */
import { first, type Sql } from "../db/database.ts";

/** How many contacts have an address of a domain. */
export const countOfDomain = async (sql: Sql, domain: string): Promise<number> =>
  first(
    await sql<{ n: number }>`
      select count(*)::int as n from contacts where right(email_folded, ${domain.length + 1}) = ${`@${domain}`}`,
  )!.n;

/** Takes them out, and their lists of this name where nobody else is on them. Gives how many there were. */
export async function removeDomain(sql: Sql, domain: string, list: string): Promise<number> {
  const gone = await sql`delete from contacts
    where right(email_folded, ${domain.length + 1}) = ${`@${domain}`} returning 1`;
  await sql`delete from lists l where l.name = ${list}
    and not exists (select 1 from list_members m where m.list_id = l.id)`;
  return gone.length;
}
