import { readFile } from "node:fs/promises";
import { inject } from "vitest";
import type { Database } from "../db/database.ts";
import { ENGINE_SETTINGS, type Engine, openEngine } from "../db/engine.ts";
import { onThisThread } from "../db/open.ts";

/** Engines whose test is over: emptying one takes a sixth of the time that starting one does. */
const idle: Engine[] = [];

interface Shape {
  readonly tables: string;
  /** Every column, in words. */
  readonly columns: string;
}
async function shapeOf(engine: Engine): Promise<Shape> {
  const { rows } = await engine.query(
    `select string_agg(distinct format('%I', table_name), ',') filter (where table_name <> 'migrations') tables,
       string_agg(format('%s.%s %s', table_name, column_name, data_type), ','
         order by table_name, column_name) columns
     from information_schema.columns where table_schema = 'public'`,
    [],
  );
  return rows[0] as Shape;
}
/** How a database is before any test. */
let fresh: Shape | null = null;

/** Empties an engine for the next test; one that has other tables and columns by now, or that cannot be emptied, is given up. */
async function empty(engine: Engine): Promise<void> {
  try {
    await engine.exec("rollback");
    // By itself: several statements in one text are one transaction, in which this cannot be.
    await engine.exec("discard all");
    const { tables, columns } = await shapeOf(engine);
    if (columns !== fresh?.columns) throw new Error("The test has changed its tables.");
    await engine.exec(`truncate ${tables} restart identity cascade`);
    await engine.exec(ENGINE_SETTINGS);
    idle.push(engine);
  } catch {
    await engine.close();
  }
}

/** What a test works with: nothing of it reaches the engine once it is over. */
function lent(engine: Engine): Engine {
  let over = false;
  const open = () => {
    if (over) throw new Error("The test of this database is over.");
    return engine;
  };
  return {
    query: async (...given) => open().query(...given),
    exec: async (...given) => open().exec(...given),
    copy: async (...given) => open().copy(...given),
    async close() {
      over = true;
      await empty(engine);
    },
  };
}

/** A database in memory with every migration run, and nothing in it. */
export async function openTestDatabase(): Promise<Database> {
  let engine = idle.pop();
  if (!engine) {
    engine = await openEngine(null, new Blob([await readFile(inject("databaseDump"))]));
    fresh ??= await shapeOf(engine);
  }
  return onThisThread(lent(engine));
}
