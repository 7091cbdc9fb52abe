/** Files that go with a campaign's messages. */
import { type Attachment, codedFile } from "#core/mail/index.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";

export interface AttachedFile {
  readonly id: string;
  readonly name: string;
  readonly type: string;
  readonly bytes: number;
}

/** The files of a campaign, in the order they came. */
export const attachmentsOf = (sql: Sql, campaign: string): Promise<AttachedFile[]> =>
  sql<AttachedFile>`select id, name, type, bytes from attachments
    where campaign_id = ${campaign} and removed_at is null order by place`;

export async function attach(
  sql: Sql,
  campaign: string,
  { name, type, content }: { name: string; type: string; content: Uint8Array },
  now: Date,
): Promise<string> {
  const id = newId();
  await sql`insert into attachments (id, campaign_id, name, type, bytes, content, created_at)
    values (${id}, ${campaign}, ${name}, ${type}, ${content.length}, ${content}, ${now})`;
  return id;
}

/** Gives a campaign the files of another as well, in their order. */
export async function copyAttachments(
  sql: Sql,
  from: string,
  to: string,
  now: Date,
): Promise<void> {
  for (const { id } of await attachmentsOf(sql, from)) {
    await sql`insert into attachments (id, campaign_id, name, type, bytes, content, created_at)
      select ${newId()}, ${to}, name, type, bytes, content, ${now} from attachments where id = ${id}`;
  }
}

/** Takes a file out of a campaign. False where it is not in it. */
export const detach = async (sql: Sql, campaign: string, id: string, now: Date): Promise<boolean> =>
  (
    await sql`update attachments set removed_at = ${now}
      where id = ${id} and campaign_id = ${campaign} and removed_at is null returning 1`
  ).length > 0;

/** Files as they stand in messages, in the order of their ids; those that are gone are left out. */
export async function codedFiles(sql: Sql, ids: readonly string[]): Promise<Attachment[]> {
  const files: Attachment[] = [];
  for (const id of ids) {
    const row = first(
      await sql<{ name: string; type: string; content: Uint8Array }>`
        select name, type, content from attachments where id = ${id}`,
    );
    if (row) files.push({ name: row.name, type: row.type, coded: codedFile(row.content) });
  }
  return files;
}
