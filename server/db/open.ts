/** Opening the database: lock, worker, migrations. */
import { mkdir, readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { MessageChannel } from "node:worker_threads";
import lockfile from "proper-lockfile";
import { projectRoot } from "../root.ts";
import { startThread } from "../thread.ts";
import { connect, type Database, type Slow } from "./database.ts";
import { type Engine, openEngine } from "./engine.ts";
import { host } from "./host.ts";

/** A start that cannot go on, with the one line a person needs. */
export class StartError extends Error {}

/** Takes the data folder for this process. Gives the way to let it go. */
export async function lockFolder(folder: string): Promise<() => Promise<void>> {
  await mkdir(folder, { recursive: true });
  try {
    // A process that was killed leaves its lock behind: it counts as gone after `stale` without a sign.
    return await lockfile.lock(folder, {
      stale: 5_000,
      update: 1_000,
      retries: { retries: 14, minTimeout: 500, maxTimeout: 500, factor: 1 },
    });
  } catch (error) {
    if ((error as { code?: string }).code !== "ELOCKED") throw error;
    throw new StartError(
      `The data folder ${folder} is in use by another Septima. Stop that one, or set SEPTIMA_DATA to another folder.`,
    );
  }
}

/** Starts the database worker on a folder. `entry` is the worker's file. */
export async function openInWorker(folder: string, entry: URL, slow?: Slow): Promise<Database> {
  const worker = startThread(entry, { folder });
  await new Promise<void>((ok, fail) => {
    worker.once("message", () => ok());
    worker.once("error", fail);
    worker.once("exit", (code) => fail(new Error(`The database worker ended with ${code}`)));
  });
  worker.removeAllListeners("error").removeAllListeners("exit");
  // From here on a worker that dies takes the process with it: without its data nothing can go on.
  let closing = false;
  const lost = (why: unknown) => {
    if (closing) return;
    console.error("The database has ended, and Septima with it.", why);
    process.exit(1);
  };
  worker.on("error", lost).on("exit", lost);
  const database = connect(worker, slow);
  return {
    ...database,
    async close() {
      await database.close();
      closing = true;
      await worker.terminate();
    },
  };
}

/** A new database in memory on this thread; for tests and benchmarks. */
export const openInMemory = async (): Promise<Database> => onThisThread(await openEngine(null));

/** An engine of this thread behind the same door. */
export function onThisThread(engine: Engine): Database {
  const { port1, port2 } = new MessageChannel();
  host(port1, engine);
  const database = connect(port2);
  return {
    ...database,
    async close() {
      await database.close();
      port1.close();
    },
  };
}

/** Runs the numbered migrations that have not run yet, each in a transaction of its own. */
export async function migrate(
  database: Pick<Database, "sql" | "exec">,
  progress: (line: string) => void = () => {},
): Promise<void> {
  await database.exec(
    "create table if not exists migrations (name text primary key, at timestamptz not null default now())",
  );
  const done = new Set(
    (await database.sql<{ name: string }>`select name from migrations`).map((r) => r.name),
  );
  const folder = join(projectRoot(), "server/db/migrations");
  const names = (await readdir(folder)).filter((name) => name.endsWith(".sql")).sort();
  for (const name of names) {
    if (done.has(name)) continue;
    progress(`migration ${name}`);
    const text = await readFile(join(folder, name), "utf8");
    await database.exec(
      `begin; ${text}; insert into migrations (name) values ('${name.replaceAll("'", "''")}'); commit;`,
    );
  }
}
