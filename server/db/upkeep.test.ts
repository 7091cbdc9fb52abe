import { afterAll, beforeAll, expect, it, vi } from "vitest";
import { openTestDatabase } from "../testing/database.ts";
import type { Database } from "./database.ts";
import { first } from "./database.ts";
import { startUpkeep, tendTable } from "./upkeep.ts";

let database: Database;
beforeAll(async () => {
  database = await openTestDatabase();
});
afterAll(() => database.close());

const dead = async () =>
  first(
    await database.sql<{ n: number; known: number }>`
      select s.n_dead_tup::int as n, c.reltuples::int as known
      from pg_stat_user_tables s join pg_class c on c.oid = s.relid where s.relname = 'lists'`,
  )!;

/** What is counted is told once a second at most, unless that is asked for. */
const told = () => database.sql`select pg_stat_force_next_flush()`;

it("learns of rows that have come, and frees the room of those that are gone", async () => {
  const { sql } = database;
  await sql`insert into lists (id, name, created_at)
    select 'list-' || g, 'List ' || g, now() from generate_series(1, 2000) g`;
  await told();
  expect(await tendTable(sql)).toBe("lists");
  expect((await dead()).known).toBe(2_000);
  expect(await tendTable(sql)).toBeNull();

  await sql`delete from lists where id <> 'list-1'`;
  await told();
  expect((await dead()).n).toBe(1_999);
  expect(await tendTable(sql)).toBe("lists");
  expect(await dead()).toEqual({ n: 0, known: 1 });
  expect(await tendTable(sql)).toBeNull();
});

it("goes on after a failure, and comes to an end", async () => {
  vi.useFakeTimers();
  const failed = vi.fn();
  const sql = vi.fn().mockRejectedValueOnce(new Error("away")).mockResolvedValue([]);
  const stop = startUpkeep(sql, failed);
  await vi.advanceTimersByTimeAsync(2_500);
  expect(failed).toHaveBeenCalledTimes(1);
  expect(sql).toHaveBeenCalledTimes(2);
  await stop();
  await vi.advanceTimersByTimeAsync(5_000);
  expect(sql).toHaveBeenCalledTimes(2);
  vi.useRealTimers();
});
