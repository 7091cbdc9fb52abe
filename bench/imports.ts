/** Taking in a file of people, against a bare COPY of the same rows; and what memory that takes. */
import { stat, writeFile } from "node:fs/promises";
import pino from "pino";
import { fragment, identifier, joinSql } from "#core/rules/index.ts";
import type { Database } from "#server/db/database.ts";
import { applyImport } from "#server/import/apply.ts";
import { checkImport } from "#server/import/check.ts";
import { importFile } from "#server/import/files.ts";
import type { Services } from "#server/services.ts";
import { addFields } from "#server/store/fields.ts";
import { createImport, setOptions, setState } from "#server/store/imports.ts";
import { csvOf, FIELDS, writeCsv } from "./people-data.ts";
import { least, threadEntry, withDatabase } from "./people-database.ts";
import type { Figure } from "./run.ts";

const PEOPLE = 100_000;
const NOW = new Date("2026-03-02T10:00:00Z");
const READER = threadEntry("import-worker.js", "server/import/worker.ts");

function importServices(database: Database, folder: string): Services {
  return {
    database,
    clock: { now: () => NOW },
    log: pino({ level: "silent" }),
    imports: { folder, reader: READER },
    stopping: new AbortController().signal,
    config: { pauses: true },
  } as unknown as Services;
}

const ID = "importbench1";
/** Reads a file, finds out what would happen, and takes it in. */
async function importFileOf(services: Services, bytes: number): Promise<void> {
  const { sql } = services.database;
  await sql`delete from imports`;
  await createImport(sql, { id: ID, table: "contacts", name: "people.csv", bytes }, "m", NOW);
  await setOptions(
    sql,
    ID,
    {
      shape: { format: "csv", encoding: "utf-8", delimiter: ",", header: true },
      columns: [{ to: "email" }, ...FIELDS.map(({ id }) => ({ to: "field" as const, field: id }))],
      dates: "ymd",
      decimal: ".",
      empty: "keep",
      known: "change",
      refused: "without",
      cells: "refuse",
      choices: "refuse",
      list: null,
    },
    [],
  );
  await setState(sql, ID, "checking");
  await checkImport(services, ID);
  await setState(sql, ID, "applying");
  await applyImport(services, ID);
}

async function importAgainstCopy(figure: Figure): Promise<void> {
  await withDatabase(async (database, folder) => {
    const { sql } = database;
    await addFields(sql, FIELDS);
    const services = importServices(database, folder);
    const csv = csvOf(PEOPLE);
    const rows = new TextEncoder().encode(csv);
    const columns = ["email", ...FIELDS.map(({ id }) => id)];
    await database.exec(`create table bare (${columns.map((c) => `${c} text`).join(", ")})`);
    const copy = async () => {
      await sql`truncate bare`;
      await database.copy(
        fragment`bare (${joinSql(
          columns.map((name) => identifier(name)),
          ", ",
        )})`,
        rows,
        "csv",
      );
    };
    const bare = await least(2, copy);
    let ours = Number.POSITIVE_INFINITY;
    for (let i = 0; i < 2; i++) {
      await database.exec("truncate contacts cascade");
      await writeFile(importFile(folder, ID), csv);
      ours = Math.min(ours, await least(1, () => importFileOf(services, rows.length)));
    }
    const [{ n }] = (await sql<{ n: number }>`select count(*)::int as n from contacts`) as [
      { n: number },
    ];
    if (n !== PEOPLE) throw new Error(`${n} people came in`);
    figure("csv_import_vs_copy", ours / bare);
  });
}

/** Memory while half a gigabyte comes in; what the garbage collector leaves counts. */
async function importMemory(figure: Figure): Promise<void> {
  await withDatabase(async (database, folder) => {
    await addFields(database.sql, FIELDS);
    const services = importServices(database, folder);
    await writeFile(importFile(folder, ID), csvOf(20_000));
    await importFileOf(services, 1);
    await database.exec("truncate contacts cascade");
    const file = importFile(folder, ID);
    await writeCsv(file, 500_000_000);
    const rss = () => process.memoryUsage().rss / 1e6;
    const before = rss();
    let most = before;
    const timer = setInterval(() => {
      most = Math.max(most, rss());
    }, 100);
    await importFileOf(services, (await stat(file)).size);
    clearInterval(timer);
    figure("import_rss_growth_mb", most - before);
  });
}

export async function importGroup(figure: Figure): Promise<void> {
  await importAgainstCopy(figure);
  await importMemory(figure);
}
