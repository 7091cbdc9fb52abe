import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, it } from "vitest";
import { constantSql, fragment } from "#core/rules/index.ts";
import { type Database, DatabaseError } from "./database.ts";
import { lockFolder, migrate, openInMemory, StartError } from "./open.ts";

let database: Database;
beforeAll(async () => {
  database = await openInMemory();
  await database.exec("create table things (id int primary key, name text)");
});
afterAll(() => database.close());

it("makes every value a parameter, whatever is in it", async () => {
  const hostile = `'); drop table things; --`;
  await database.sql`insert into things values (1, ${hostile})`;
  const where = fragment`name = ${hostile} and ${constantSql("id > 0")}`;
  expect(await database.sql`select * from things where ${where}`).toEqual([
    { id: 1, name: hostile },
  ]);
});

it("answers errors with their SQLSTATE and goes on", async () => {
  const again = database.sql`insert into things values (1, 'again')`;
  await expect(again).rejects.toThrow(DatabaseError);
  await expect(again).rejects.toMatchObject({ code: "23505" });
  expect(await database.sql`select 1 as one`).toEqual([{ one: 1 }]);
});

it("keeps a transaction apart from what runs beside it, and rolls back on an error", async () => {
  const failing = database.tx(async (sql) => {
    await sql`insert into things values (2, 'two')`;
    await new Promise((ok) => setTimeout(ok, 30));
    throw new Error("no");
  });
  const beside = database.sql`select id from things where id = 2`;
  await expect(failing).rejects.toThrow("no");
  expect(await beside).toEqual([]);
  expect(await database.tx((sql) => sql`select 3 as three`)).toEqual([{ three: 3 }]);
});

it("refuses the outer door and a second transaction inside one", async () => {
  const outer = database.tx(async () => database.sql`select 1`);
  await expect(outer).rejects.toThrow("use the sql it was given");
  const nested = database.tx(() => database.tx(async () => 1));
  await expect(nested).rejects.toThrow("already open");
});

it("runs each migration once", async () => {
  const lines: string[] = [];
  await migrate(database, (line) => lines.push(line));
  expect(lines.length).toBeGreaterThan(0);
  await migrate(database, () => {
    throw new Error("again");
  });
});

it("says in a line that another process holds the data folder", async () => {
  const folder = await mkdtemp(join(tmpdir(), "septima-lock-"));
  const unlock = await lockFolder(folder);
  const second = lockFolder(folder);
  await expect(second).rejects.toThrow(StartError);
  await expect(second).rejects.toThrow("is in use by another Septima");
  await unlock();
  await (await lockFolder(folder))();
  await rm(folder, { recursive: true });
}, 20_000);

it("lets what comes first go before what waits, and never into a transaction of another", async () => {
  const order: string[] = [];
  const ask = (name: string) => database.sql`select 1`.then(() => order.push(name));
  const transaction = database.tx(async (sql) => {
    await new Promise<void>((ok) => setTimeout(ok, 60));
    await sql`select 1`;
    order.push("out");
  });
  // Asked for while the transaction holds the database.
  await new Promise<void>((ok) => setTimeout(ok, 20));
  const work = [ask("a"), ask("b"), database.first(() => ask("first"))];
  await Promise.all([transaction, ...work]);
  expect(order).toEqual(["out", "first", "a", "b"]);
});

it("leaves the team its turn in a flood of what comes first, and work beside it none", async () => {
  const order: string[] = [];
  const ask = (name: string) => database.sql`select 1`.then(() => order.push(name));
  const transaction = database.tx(async (sql) => {
    await new Promise<void>((ok) => setTimeout(ok, 60));
    await sql`select 1`;
  });
  await new Promise<void>((ok) => setTimeout(ok, 20));
  const beside = database.beside(() => ask("beside"));
  const team = [ask("team"), ask("team")];
  const flood = Array.from({ length: 10 }, () => database.first(() => ask("first")));
  await Promise.all([transaction, beside, ...team, ...flood]);
  const four = ["first", "first", "first", "first"];
  expect(order).toEqual([...four, "team", ...four, "team", "first", "first", "beside"]);
});

it("finds what points at a row that goes without reading everything", async () => {
  const bare = await database.sql`
    select c.conrelid::regclass::text as table, (
      select string_agg(a.attname, ', ') from pg_attribute a
      where a.attrelid = c.conrelid and a.attnum = any (c.conkey)) as columns
    from pg_constraint c
    where c.contype = 'f' and not exists (
      select 1 from pg_index i where i.indrelid = c.conrelid
        and (string_to_array(i.indkey::text, ' ')::int2[])[1:array_length(c.conkey, 1)] @> c.conkey
        and (i.indpred is null or pg_get_expr(i.indpred, i.indrelid) like '(% IS NOT NULL)'))`;
  expect(bare).toEqual([]);
});

it("lets what nobody waits for go last, and never keeps it waiting for ever", async () => {
  const order: string[] = [];
  const ask = (name: string) => database.sql`select 1`.then(() => order.push(name));
  /** Gives how long the others took, ms. */
  const both = async () => {
    // While nobody asks for anything it has its turn at once.
    await database.sql`select 1`;
    order.length = 0;
    const began = performance.now();
    const late = database.last(async () => {
      await ask("late one");
      await ask("late two");
    });
    // Others go on asking, each after the other's answer.
    for (const name of ["a", "b", "c"]) await ask(name);
    const took = performance.now() - began;
    await late;
    return took;
  };
  // On a machine that is busy with something else it has its turn after a while, and rightly so: then once more.
  for (let i = 0; i < 20 && (await both()) > 200; i++);
  expect(order).toEqual(["a", "b", "c", "late one", "late two"]);
  // What is done beside it goes on for long: it is not waited for.
  let going = true;
  let statements = 0;
  const long = database.beside(async () => {
    for (; going; statements++) await database.sql`select pg_sleep(0.004)`;
  });
  await database.sql`select 1`;
  await database.last(() => database.sql`select 1`);
  expect(statements).toBeLessThan(25);
  going = false;
  await long;
  // In a transaction it has its turn with the rest of it.
  expect(await database.last(() => database.tx((sql) => sql`select 2 as n`))).toEqual([{ n: 2 }]);
});
