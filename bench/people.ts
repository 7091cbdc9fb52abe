/** Rules, segments, the contacts table and imports on a large audience, against the same done by hand. */
import { mkdtemp, rm, stat, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pino from "pino";
import { type Key, keysOf, type Values } from "#core/fields/index.ts";
import {
  compileRule,
  didOnce,
  type Rule,
  ruleSql,
  type Subject,
  type World,
} from "#core/rules/index.ts";
import { createContactViews, viewSchema } from "#server/contact-views.ts";
import type { Database } from "#server/db/database.ts";
import { migrate, openInWorker } from "#server/db/open.ts";
import { applyImport } from "#server/import/apply.ts";
import { checkImport } from "#server/import/check.ts";
import { importFile } from "#server/import/files.ts";
import type { Services } from "#server/services.ts";
import { valuesSql } from "#server/store/columns.ts";
import { createImport, setOptions, setState } from "#server/store/imports.ts";
import { csvOf, FIELDS, fields, fill, writeCsv } from "./people-data.ts";
import type { Figure } from "./run.ts";

const PEOPLE = 100_000;
const EVENTS = 2_000_000;
const NOW = new Date("2026-03-02T10:00:00Z");
const world: World = {
  fields,
  tables: new Map(),
  segments: new Map(),
  names: new Map(),
  now: { today: "2026-03-02", at: NOW, zone: "UTC" },
};
const test = (field: string, op: string, argument: unknown): Rule =>
  ({ type: "field", field, op, argument }) as Rule;

/** Five rules on fields, as a marketer writes them. */
const FIVE: Rule = {
  type: "all",
  rules: [
    test("kind_0", "among", ["Friend", "Patron"]),
    test("count_0", "above", 200),
    test("day_0", "after", "1990-01-01"),
    { type: "none", rules: [test("text_0", "contains", "mere")] },
    { type: "any", rules: [test("flag_0", "yes", null), test("kind_1", "is", "Volunteer")] },
  ],
};
const WITH_ACTIVITY: Rule = {
  type: "all",
  rules: [{ ...didOnce("opened", 90), times: { op: "atLeast", count: 2 } }, ...FIVE.rules],
};
const friendly = new Set<Key | null | undefined>(["friend", "patron"]);
const byHand = ({ keys: k }: Subject): boolean =>
  friendly.has(k.kind_0) &&
  k.count_0 !== undefined &&
  (k.count_0 as number) > 200 &&
  k.day_0 !== undefined &&
  (k.day_0 as string) > "1990-01-01" &&
  !(k.text_0 !== undefined && (k.text_0 as string).includes("mere")) &&
  (k.flag_0 === true || k.kind_1 === "volunteer");

/** The least of several runs, ms. */
async function least(runs: number, work: () => unknown): Promise<number> {
  let best = Number.POSITIVE_INFINITY;
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    await work();
    best = Math.min(best, performance.now() - start);
  }
  return best;
}

const WORKER = new URL("../server/db/worker.ts", import.meta.url);
const READER = new URL("../server/import/worker.ts", import.meta.url);

async function withDatabase<T>(
  work: (database: Database, folder: string) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), "septima-bench-"));
  const database = await openInWorker(join(folder, "database"), WORKER);
  try {
    await migrate(database);
    return await work(database, folder);
  } finally {
    await database.close();
    await rm(folder, { recursive: true, force: true });
  }
}

async function rulesInMemory(database: Database, figure: Figure): Promise<void> {
  const rows = await database.sql<{ values: Values }>`
    select ${valuesSql(fields, "c")} as values from contacts c`;
  const subjects: Subject[] = rows.map(({ values }) => ({
    keys: keysOf(values, fields),
    lists: new Set(),
    activity: [],
    record: () => null,
  }));
  const fits = compileRule(FIVE, world);
  const count = (test: (who: Subject) => boolean) => {
    let n = 0;
    for (const who of subjects) if (test(who)) n++;
    return n;
  };
  if (count(fits) !== count(byHand)) throw new Error("The rule and the hand disagree");
  for (let i = 0; i < 3; i++) [count(fits), count(byHand)];
  const ours = await least(9, () => count(fits));
  figure("rules_vs_handwritten", ours / (await least(9, () => count(byHand))));
}

/** How many contacts hold a segment of five fields and one activity; and the same by hand. */
async function segmentTimes(database: Database): Promise<{ ours: number; hand: number }> {
  const { sql } = database;
  const ours = () =>
    sql<{
      n: number;
    }>`select count(*)::int as n from contacts c where ${ruleSql(WITH_ACTIVITY, world)}`;
  const hand = () => sql<{ n: number }>`
    select count(*)::int as n from contacts c
    where c.id in (select contact_id from events where kind in ('opened', 'clicked')
        and at >= '2025-12-03' and at <= ${NOW} group by contact_id
        having count(distinct launch_id) >= 2)
      and c.x_kind_0 in ('friend', 'patron') and c.f_count_0 > 200 and c.f_day_0 > '1990-01-01'
      and coalesce(position('mere' in c.x_text_0), 0) = 0
      and (c.f_flag_0 or c.x_kind_1 = 'volunteer')`;
  const [a] = await ours();
  const [b] = await hand();
  if (a!.n !== b!.n || a!.n === 0) throw new Error(`The segment catches ${a!.n}, by hand ${b!.n}`);
  return { ours: await least(5, ours), hand: await least(5, hand) };
}

async function tablePages(database: Database, figure: Figure): Promise<void> {
  const views = createContactViews();
  const view = viewSchema.parse({ sort: "text_0" });
  const { token } = await views.open(database.sql, view, world);
  const page = (from: number) => views.rows(database.sql, token, view, world, from, 100);
  await page(0);
  const first = await least(9, () => page(0));
  figure("table_page_deep_vs_first", (await least(9, () => page(90_000))) / first);
}

function importServices(database: Database, folder: string): Services {
  return {
    database,
    clock: { now: () => NOW },
    log: pino({ level: "silent" }),
    imports: { folder, reader: READER },
  } as unknown as Services;
}

const ID = "importbench1";
/** Reads a file, finds out what would happen, and takes it in. */
async function importFileOf(services: Services, bytes: number): Promise<void> {
  const { sql } = services.database;
  await sql`delete from imports`;
  await createImport(sql, { id: ID, name: "people.csv", bytes }, "m", NOW);
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
  const { addFields } = await import("#server/store/fields.ts");
  const { constantSql } = await import("#core/rules/index.ts");
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
      await database.copy(constantSql(`bare (${columns.join(", ")})`), rows, "csv");
    };
    const bare = await least(2, copy);
    let ours = Number.POSITIVE_INFINITY;
    for (let i = 0; i < 2; i++) {
      await database.exec("truncate contacts cascade; vacuum analyze contacts");
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
    const { addFields } = await import("#server/store/fields.ts");
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

export async function peopleGroup(figure: Figure): Promise<void> {
  const small = await withDatabase(async (database) => {
    await fill(database, PEOPLE / 10, EVENTS / 10);
    return segmentTimes(database);
  });
  await withDatabase(async (database) => {
    await fill(database, PEOPLE, EVENTS);
    const { ours, hand } = await segmentTimes(database);
    figure("segment_vs_handwritten_sql", ours / hand);
    figure("segment_growth_10x", ours / small.ours);
    await tablePages(database, figure);
    await rulesInMemory(database, figure);
  });
  await importAgainstCopy(figure);
  await importMemory(figure);
}
