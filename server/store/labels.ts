/** Labels on campaigns: for grouping and finding them. */
import { fold } from "#core/fields/index.ts";
import type { Sql } from "../db/database.ts";
import { newId } from "../ids.ts";

export interface Label {
  readonly id: string;
  readonly name: string;
}

/** Every label that a campaign has, by name. */
export const listLabels = (sql: Sql): Promise<Label[]> => sql<Label>`
  select b.id, b.name from labels b
  where exists (select 1 from campaign_labels cl join campaigns c on c.id = cl.campaign_id
    where cl.label_id = b.id and c.deleted_at is null)
  order by b.name_folded`;

/** Gives a campaign these labels and no others, in a transaction; those that are new are made. */
export async function setLabels(
  sql: Sql,
  campaign: string,
  names: readonly string[],
): Promise<void> {
  const byFold = new Map(names.map((name) => [fold(name), name]));
  for (const [folded, name] of byFold) {
    await sql`insert into labels (id, name, name_folded) values (${newId()}, ${name}, ${folded})
      on conflict (name_folded) do nothing`;
  }
  await sql`delete from campaign_labels where campaign_id = ${campaign}`;
  await sql`insert into campaign_labels (campaign_id, label_id)
    select ${campaign}, id from labels where name_folded = any (${[...byFold.keys()]}::text[])`;
  await sql`delete from labels b
    where not exists (select 1 from campaign_labels cl where cl.label_id = b.id)`;
}
