import { expect, it } from "vitest";
import { nextStep } from "#core/document/index.ts";
import { listTests } from "../store/tests.ts";
import type { Database } from "./database.ts";
import { migrate, openInMemory } from "./open.ts";

/** A database as it was before some migrations; gives the way to run them. */
async function before(...names: string[]): Promise<{ database: Database; go(): Promise<void> }> {
  const database = await openInMemory();
  await database.exec(
    "create table migrations (name text primary key, at timestamptz not null default now())",
  );
  for (const name of names) await database.sql`insert into migrations (name) values (${name})`;
  await migrate(database);
  return {
    database,
    async go() {
      await database.sql`delete from migrations where name = any(${names})`;
      await migrate(database);
    },
  };
}

it("brings the steps of undo and redo along from before they were named by browsers", async () => {
  const { database, go } = await before("012_edit_steps.sql", "013_launch_draft.sql");
  const { sql } = database;
  await sql`insert into documents (id, body, updated_at) values ('d', '{}', now())`;
  const row = (
    seq: number,
    step: number,
    minute: number,
    undoes: number | null = null,
    undoneBy: number | null = null,
  ) => sql`insert into edits (document_id, seq, envelope_id, member_id, tab, at, edit, inverse, step, undoes, undone_by)
    values ('d', ${seq}, ${`e${seq}`}, 'ada', 't', ${new Date(Date.UTC(2026, 2, 1, 9, minute))}, '{}', '{}',
      ${step}, ${undoes}, ${undoneBy})`;
  // Typed in one go (1, 2), another step (3); 3 taken back (4), then 1 and 2 (5, 6), and those done again (7, 8).
  await row(1, 1, 0, null, 6);
  await row(2, 1, 0, null, 5);
  await row(3, 3, 1, null, 4);
  await row(4, 4, 2, 3);
  await row(5, 5, 3, 2, 8);
  await row(6, 6, 3, 1, 7);
  await row(7, 7, 4);
  await row(8, 8, 4);
  await go();
  const rows = await sql<{ does: "do" | "undo" | "redo"; step: string; of: string | null }>`
    select does, step, of_step as of from edits order by seq`;
  expect(rows).toEqual([
    { does: "do", step: "e1", of: null },
    { does: "do", step: "e1", of: null },
    { does: "do", step: "e3", of: null },
    { does: "undo", step: "e4", of: "e3" },
    { does: "undo", step: "e5", of: "e1" },
    { does: "undo", step: "e5", of: "e1" },
    { does: "redo", step: "e7", of: "e5" },
    { does: "redo", step: "e7", of: "e5" },
  ]);
  expect(nextStep(rows, "undo")).toBe("e7");
  expect(nextStep(rows, "redo")).toBe("e4");
  await database.close();
});

it("folds the sigmas that were folded before as new ones are", async () => {
  const { database, go } = await before("014_sigma.sql");
  await database.sql`insert into record_tables (id, name, created_at) values ('sites', 'Sites', now())`;
  await database.exec("create table r_sites (id int, x_town text, f_town text)");
  await database.sql`insert into r_sites values (1, 'λαρισας', 'Λάρισας'), (2, 'hill', 'Hill')`;
  await go();
  expect(await database.sql`select x_town, f_town from r_sites order by id`).toEqual([
    { x_town: "λαρισασ", f_town: "Λάρισας" },
    { x_town: "hill", f_town: "Hill" },
  ]);
  await database.close();
});

it("brings tests along from before each of their messages was kept", async () => {
  const { database, go } = await before("022_proof.sql", "023_review.sql");
  const { sql } = database;
  await sql`insert into documents (id, body, updated_at) values ('d', '{}', now())`;
  await sql`insert into campaigns (id, name, document_id, audience, created_at, updated_at)
    values ('c', 'May', 'd', '{}', now(), now())`;
  await sql`insert into test_sends (campaign_id, addresses, failed, member_id, at)
    values ('c', '["ada@example.org", "ben@example.org"]', '["ben@example.org: mailbox full"]', 'ada', now())`;
  await go();
  const [test] = await listTests(sql, "c");
  expect(test!.messages.map(({ address, failed }) => [address, failed])).toEqual([
    ["ada@example.org", null],
    ["ben@example.org", "mailbox full"],
  ]);
  await database.close();
});

it("knows the subjects of what went out before, but of those that jsonb cannot hold", async () => {
  const { database, go } = await before("044_subjects_sent.sql");
  const { sql } = database;
  const subject = { type: "line", content: [{ type: "text", text: "May \u2013 “open”" }] };
  const sent = { whole: "Hello", nul: "a\u0000b", half: "a\ud83db" };
  for (const [id, words] of Object.entries(sent)) {
    const document = JSON.stringify({ root: { props: { envelope: { subject } } }, words });
    await sql`insert into documents (id, body, updated_at) values (${id}, '{}', now())`;
    await sql`insert into campaigns (id, name, document_id, audience, created_at, updated_at)
      values (${id}, 'May', ${id}, '{}', now(), now())`;
    await sql`insert into launches (id, campaign_id, state, send_at, zone, document, audience, segments, surroundings,
        conditions, member_id, created_at)
      values (${id}, ${id}, 'done', now(), 'UTC', ${document}, '{}', '[]', '{}', '[]', 'ada', now())`;
  }
  await go();
  const rows = await sql<{ id: string; subject: string | null }>`
    select id, subject from launches order by id`;
  expect(rows.map((one) => [one.id, one.subject && JSON.parse(one.subject)])).toEqual([
    ["half", null],
    ["nul", null],
    ["whole", subject],
  ]);
  await database.close();
});
