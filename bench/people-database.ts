/** A database of its own for a benchmark, in a thread as in the application; and the least of several runs. */
import { existsSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Database } from "#server/db/database.ts";
import { migrate, openInWorker } from "#server/db/open.ts";

/** The least of several runs, ms. */
export async function least(runs: number, work: () => unknown): Promise<number> {
  let best = Number.POSITIVE_INFINITY;
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    await work();
    best = Math.min(best, performance.now() - start);
  }
  return best;
}

/** A thread's entry as it is built, where it is; else from its source. */
export function threadEntry(built: string, source: string): URL {
  const file = new URL(`../build/server/${built}`, import.meta.url);
  return existsSync(file) ? file : new URL(`../${source}`, import.meta.url);
}
const WORKER = threadEntry("db-worker.js", "server/db/worker.ts");

export async function withDatabase<T>(
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
