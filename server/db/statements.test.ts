import { PGlite } from "@electric-sql/pglite";
import { afterAll, beforeAll, beforeEach, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { type Statements, statementsOf } from "./statements.ts";

let pg: PGlite;
let statements: Statements;
beforeAll(async () => {
  pg = await PGlite.create("memory://");
});
afterAll(() => pg.close());
beforeEach(async () => {
  await pg.exec(
    "deallocate all; drop table if exists plants; create table plants (id int, name text)",
  );
  await pg.exec("insert into plants values (1, 'Ash'), (2, 'Beech')");
  statements = statementsOf(pg);
});

const rows = async (text: string, ...params: unknown[]) =>
  (await statements.query(text, params)).rows;
const run = async (text: string) => {
  await pg.exec(text);
  statements.ran(text);
};
/** The names the database knows, and what it reads for them. */
const named = async () =>
  (await pg.query<{ statement: string }>("select statement from pg_prepared_statements")).rows.map(
    ({ statement }) => statement,
  );

it("answers each time as it does at first, whatever the values are", async () => {
  const text = `select $1::int as n, $2::text as words, $3::timestamptz as at, $4::jsonb as data,
    $5::text[] as list, $6::boolean as yes, $7::bigint as large`;
  const at = new Date("2026-03-02T09:05:07Z");
  const given = [
    [1, "it's", at, JSON.stringify({ a: [1, null] }), ["a,b", 'c"'], true, "9007199254740993"],
    [null, "", null, "null", [], false, null],
    [-5, "zoë\n\\", at, '"x"', [null, "d"], null, "7"],
  ];
  const plain = [];
  for (const params of given) plain.push((await pg.query(text, params)).rows);
  const asked = [];
  for (const params of given) asked.push(await rows(text, ...params));
  expect(asked).toEqual(plain);
  expect(await named()).toEqual([text]);
});

it("says how many rows it has touched, and works where there are none", async () => {
  const grow = "update plants set name = name || '!' where id >= $1";
  for (const id of [1, 2, 3]) {
    const { rows, affected } = await statements.query(grow, [id]);
    expect([rows, affected]).toEqual([[], 3 - id]);
  }
  const all = "select name from plants order by id";
  for (let i = 0; i < 3; i++) {
    expect(await rows(all)).toEqual([{ name: "Ash!" }, { name: "Beech!!" }]);
  }
});

it("keeps no statement that is asked once", async () => {
  await rows("select 1 as once");
  expect(await named()).toEqual([]);
});

it("sees a table that has become another", async () => {
  const all = "select * from plants where id = $1";
  for (let i = 0; i < 3; i++) expect(await rows(all, 1)).toEqual([{ id: 1, name: "Ash" }]);
  await rows("alter table plants add column height int");
  for (let i = 0; i < 3; i++) {
    expect(await rows(all, 1)).toEqual([{ id: 1, name: "Ash", height: null }]);
  }
  await run("alter table plants alter column id type text");
  for (let i = 0; i < 3; i++) {
    expect(await rows(all, "1")).toEqual([{ id: "1", name: "Ash", height: null }]);
  }
});

it("sees a table that has become what it was, where a transaction is taken back", async () => {
  const all = "select * from plants where id = $1";
  await run("begin");
  await rows("alter table plants drop column name");
  for (let i = 0; i < 3; i++) expect(await rows(all, 1)).toEqual([{ id: 1 }]);
  await run("rollback");
  for (let i = 0; i < 3; i++) expect(await rows(all, 1)).toEqual([{ id: 1, name: "Ash" }]);
});

it("is asked for a table while that becomes another, and knows it afterwards", async () => {
  const all = "select * from plants where id = $1";
  for (let i = 0; i < 2; i++) await rows(all, 1);
  const asked = () => Array.from({ length: 3 }, () => rows(all, 1));
  const [before, change, beside] = [
    asked(),
    rows("alter table plants add column height int"),
    asked(),
  ];
  for (const one of await Promise.all([...before, ...beside])) {
    expect(one).toMatchObject([{ id: 1, name: "Ash" }]);
  }
  await change;
  for (let i = 0; i < 3; i++) {
    expect(await rows(all, 1)).toEqual([{ id: 1, name: "Ash", height: null }]);
  }
});

it("goes on after an error, as it was and in a transaction", async () => {
  const divide = "select 12 / $1::int as n";
  const wrong = "select 1 from nowhere";
  for (let i = 0; i < 3; i++) {
    await expect(rows(divide, 0)).rejects.toMatchObject({ code: "22012" });
    expect(await rows(divide, 3)).toEqual([{ n: 4 }]);
    await expect(rows(wrong)).rejects.toMatchObject({ code: "42P01" });
  }
  await run("begin");
  await expect(rows(divide, 0)).rejects.toMatchObject({ code: "22012" });
  await expect(rows(divide, 3)).rejects.toMatchObject({ code: "25P02" });
  await run("rollback");
  expect(await rows(divide, 3)).toEqual([{ n: 4 }]);
});

it("keeps as many as it may, those asked last, and none that is long or has much to carry", async () => {
  const most = LIMITS.statementsKept;
  const text = (n: number) => `select ${n} as n`;
  for (let n = 0; n < most; n++) for (let i = 0; i < 2; i++) await rows(text(n));
  await rows(text(0));
  for (let i = 0; i < 2; i++) await rows(text(most));
  // What is gone is let go with the next question.
  await rows(text(0));
  const known = await named();
  expect(known).toHaveLength(most);
  expect(known).toContain(text(0));
  expect(known).toContain(text(most));
  expect(known).not.toContain(text(1));
  expect(await rows(text(1))).toEqual([{ n: 1 }]);
  const long = `select 7 as n -- ${"x".repeat(LIMITS.statementKept)}`;
  for (let i = 0; i < 2; i++) expect(await rows(long)).toEqual([{ n: 7 }]);
  const large = "x".repeat(LIMITS.statementValue + 1);
  const length = "select length($1::text) as n";
  for (let i = 0; i < 2; i++) expect(await rows(length, large)).toEqual([{ n: large.length }]);
  expect(await named()).not.toContain(length);
  for (let i = 0; i < 2; i++) expect(await rows(length, "few")).toEqual([{ n: 3 }]);
  expect(await named()).toContain(length);
  expect(await named()).not.toContain(long);
});
