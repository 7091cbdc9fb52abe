/** The database itself. Runs where it is called: in the worker thread, or in a test. */
import { PGlite } from "@electric-sql/pglite";
import { statementsOf } from "./statements.ts";

export interface Engine {
  query(text: string, params: readonly unknown[]): Promise<{ rows: unknown[]; affected: number }>;
  exec(text: string): Promise<void>;
  /** Runs a COPY from these bytes. */
  copy(text: string, data: Uint8Array): Promise<void>;
  close(): Promise<void>;
}

/**
 * What holds for all statements. Sets of people that rules ask for are kept in memory while a statement runs. Nobody
 * looks after tables beside those who ask: a smaller sample keeps that short. A plan is made for the values of each time:
 * one for all values would be kept while a table grows a thousandfold.
 */
export const ENGINE_SETTINGS = `set timezone = 'UTC'; set work_mem = '64MB'; set default_statistics_target = 20;
  set plan_cache_mode = force_custom_plan`;

/**
 * Opens the database in a folder, or in memory where the folder is null. In memory it can start from a
 * dump, which is much faster than making a new one.
 */
export async function openEngine(folder: string | null, dump?: Blob): Promise<Engine> {
  const pg = await PGlite.create(folder ?? "memory://", { loadDataDir: dump });
  await pg.exec(ENGINE_SETTINGS);
  const statements = statementsOf(pg);
  return {
    query: statements.query,
    async exec(text) {
      try {
        await pg.exec(text);
      } finally {
        statements.ran(text);
      }
    },
    async copy(text, data) {
      await pg.query(text, [], { blob: new Blob([data as Uint8Array<ArrayBuffer>]) });
    },
    close: () => pg.close(),
  };
}
