/** Makes one migrated database for all unit tests; each test file starts from its dump. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PGlite } from "@electric-sql/pglite";
import type { TestProject } from "vitest/node";
import { migrate } from "../db/open.ts";

declare module "vitest" {
  interface ProvidedContext {
    /** The file with the dump. */
    databaseDump: string;
  }
}

export default async function setup(project: TestProject) {
  const folder = await mkdtemp(join(tmpdir(), "septima-dump-"));
  const file = join(folder, "database.tar");
  const pg = await PGlite.create("memory://");
  await migrate({
    sql: async (strings) => (await pg.query(strings.join(""))).rows as never,
    exec: async (text) => void (await pg.exec(text)),
  });
  const dump = await pg.dumpDataDir("none");
  await pg.close();
  await writeFile(file, Buffer.from(await dump.arrayBuffer()));
  project.provide("databaseDump", file);
  return () => rm(folder, { recursive: true, force: true });
}
