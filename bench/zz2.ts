import { mkdir, writeFile } from "node:fs/promises";
import pino from "pino";
import { applyImport, undoImport } from "#server/import/apply.ts";
import { checkImport } from "#server/import/check.ts";
import { importFile } from "#server/import/files.ts";
import { addList } from "#server/store/audience.ts";
import { addFields } from "#server/store/fields.ts";
import { createImport, setOptions, setState } from "#server/store/imports.ts";
import { threadEntry, withDatabase } from "./people-database.ts";

const N = Number(process.argv[2] ?? 100000);
const NOW = new Date();
await withDatabase(async (database, folder) => {
  const { sql } = database;
  await addFields(sql, [{ id: "first_name", label: "First name", type: "text" }]);
  const list = await addList(sql, "l", [], NOW);
  await mkdir(folder + "/imports", { recursive: true });
  const slow: Record<string, [number, number]> = {};
  const times = new Map<string, number>();
  const wrap =
    (q: any) =>
    async (strings: any, ...holes: any[]) => {
      const b = performance.now();
      const r = await q(strings, ...holes);
      const k = strings.join("?").trim().slice(0, 60).replace(/\s+/g, " ");
      times.set(k, (times.get(k) ?? 0) + performance.now() - b);
      return r;
    };
  const db: any = { ...database, tx: (w: any, d: any) => database.tx((q: any) => w(wrap(q)), d) };
  const services: any = {
    database: db,
    clock: { now: () => new Date() },
    log: pino({ level: "silent" }),
    config: { pauses: process.env.REST === "1" },
    stopping: new AbortController().signal,
    imports: {
      folder: folder + "/imports",
      reader: threadEntry("import-worker.js", "server/import/worker.ts"),
    },
  };
  const id = "importbench1";
  const csv =
    "Email,First name,Notes\n" +
    Array.from({ length: N }, (_, i) => `p${i}@example.org,Person ${i},note note note ${i}\n`).join(
      "",
    );
  await writeFile(importFile(folder + "/imports", id), csv);
  await createImport(sql, { id, table: "contacts", name: "p.csv", bytes: csv.length }, "m", NOW);
  await setOptions(
    sql,
    id,
    {
      shape: { format: "csv", encoding: "utf-8", delimiter: ",", header: true },
      columns: [{ to: "email" }, { to: "field", field: "first_name" }, { to: "skip" }],
      dates: null,
      decimal: ".",
      empty: "keep",
      known: "change",
      refused: "without",
      list,
    } as any,
    [],
  );
  let t = performance.now();
  const lap = (w: string) => {
    console.log(
      [...times]
        .sort((a, b) => b[1] - a[1])
        .slice(0, 6)
        .map(([k, v]) => `   ${v.toFixed(0)} ${k}`)
        .join("\n"),
    );
    times.clear();
    console.log(w, ((performance.now() - t) / 1000).toFixed(1));
    t = performance.now();
  };
  await setState(sql, id, "checking");
  await checkImport(services, id);
  lap("check");
  await setState(sql, id, "applying");
  await applyImport(services, id);
  lap("apply");
  console.log(
    await sql`select count(*)::int as n from contacts`,
    await sql`select count(*)::int as n from list_members`,
  );
  t = performance.now();
  await setState(sql, id, "undoing");
  await undoImport(services, id);
  lap("undo");
  console.log(await sql`select count(*)::int as n from contacts`);
});
process.exit(0);
