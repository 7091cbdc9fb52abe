import { readFile } from "node:fs/promises";
import { inject } from "vitest";
import type { Database } from "../db/database.ts";
import { ENGINE_SETTINGS, type Engine, openEngine } from "../db/engine.ts";
import { onThisThread } from "../db/open.ts";

/** Engines whose test is over: emptying one takes a sixth of the time that starting one does. */
const idle: Engine[] = [];

/** What stands in a database, by what the engine calls it. */
interface Shape {
  /** Tables, their columns by table, and indexes, triggers and functions. */
  readonly tables: readonly string[];
  readonly columns: readonly { readonly table: string; readonly column: string }[];
  readonly others: string;
}
async function shapeOf(engine: Engine): Promise<Shape> {
  const { rows } = await engine.query(
    `with tables as (select oid, oid::regclass::text name from pg_class
       where relnamespace = 'public'::regnamespace and relkind = 'r')
     select (select array_agg(name order by name) from tables where name <> 'migrations') tables,
       (select json_agg(json_build_object('table', name, 'column', quote_ident(attname)) order by name, attnum)
         from pg_attribute join tables on oid = attrelid where attnum > 0 and not attisdropped) columns,
       (select md5(string_agg(what, ' ' order by what)) from (
         select 'is ' || oid from pg_class where relnamespace = 'public'::regnamespace
         union all select format('type %s.%s %s', attrelid, attnum, atttypid)
           from pg_attribute join tables on oid = attrelid where attnum > 0 and not attisdropped
         union all select 'trigger ' || oid from pg_trigger
         union all select oid || prosrc from pg_proc where pronamespace = 'public'::regnamespace) all_of_it(what)) others`,
    [],
  );
  return rows[0] as Shape;
}
/** How a database is before any test. */
let fresh: Shape | null = null;

/** Takes out the tables and columns that a test has made: a contact's fields are columns. */
async function restore(engine: Engine, { tables, columns, others }: Shape): Promise<void> {
  const made = (await shapeOf(engine)).columns.filter(
    (one) => !columns.some(({ table, column }) => table === one.table && column === one.column),
  );
  for (const { table, column } of made) {
    if (tables.includes(table)) {
      await engine.exec(`alter table ${table} drop column ${column} cascade`);
    } else await engine.exec(`drop table if exists ${table} cascade`);
  }
  if ((await shapeOf(engine)).others !== others) {
    throw new Error("The test has changed what stands in its database.");
  }
}

/** Empties an engine for the next test; one that is not as it was cannot be, and is given up. */
async function empty(engine: Engine): Promise<void> {
  try {
    await engine.exec("rollback");
    // By itself: several statements in one text are one transaction, in which this cannot be.
    await engine.exec("discard all");
    await restore(engine, fresh!);
    await engine.exec(`truncate ${fresh!.tables.join()} restart identity cascade`);
    // Nor what has been counted of its rows.
    await engine.exec("select pg_stat_force_next_flush()");
    await engine.exec("select pg_stat_reset()");
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
