import { readFile } from "node:fs/promises";
import { inject } from "vitest";
import type { Database } from "../db/database.ts";
import { openInMemory } from "../db/open.ts";

/** A database in memory with every migration run. */
export async function openTestDatabase(): Promise<Database> {
  return openInMemory(new Blob([await readFile(inject("databaseDump"))]));
}
