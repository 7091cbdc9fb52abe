import { mkdir, writeFile } from "node:fs/promises";
import { afterAll, beforeAll, beforeEach, expect, it } from "vitest";
import type { ImportOptions } from "#core/import/index.ts";
import { LIMITS } from "#core/limits.ts";
import { Stopped } from "../jobs/pieces.ts";
import { addList, getLists } from "../store/audience.ts";
import { addContacts, getContact } from "../store/contacts.ts";
import { addFields, addTable, CONTACTS, getFields } from "../store/fields.ts";
import { createImport, getImport, getRefused, setOptions, setState } from "../store/imports.ts";
import { addRecords, searchRecords } from "../store/records.ts";
import { destinationOf } from "../store/staging/destination.ts";
import { suppress } from "../store/suppressions.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { analyse } from "./analyse.ts";
import { applyImport, throwAway, undoImport } from "./apply.ts";
import { checkImport } from "./check.ts";
import { importFile } from "./files.ts";

const ID = "import000001";
const ALL = { search: "", from: 0, limit: 1_000 };
let services: TestServices;
let list: string;
beforeAll(async () => {
  services = await startTestServices();
  const { sql } = services.database;
  await mkdir(services.imports.folder, { recursive: true });
  await addFields(sql, [
    { id: "name", label: "Name", type: "text" },
    { id: "visits", label: "Visits", type: "number" },
    { id: "gift", label: "Gift", type: "yesNo", standard: false },
  ]);
  list = await addList(sql, "From the fair", [], services.clock.now());
});
afterAll(() => services.close());
beforeEach(async () => {
  const { sql } = services.database;
  await sql`delete from contacts`;
  await sql`delete from imports`;
  await sql`delete from suppressions`;
});

const people = () => services.database.sql<{ email: string }>`
  select email, f_name as name, f_visits as visits, f_gift as gift, held from contacts order by email`;

async function put(text: string | Uint8Array, name = "people.csv", table = CONTACTS) {
  await writeFile(importFile(services.imports.folder, ID), text);
  await createImport(
    services.database.sql,
    { id: ID, table, name, bytes: text.length },
    "m",
    services.clock.now(),
  );
}

/** Reads the file as it would be guessed, with some answers of a person. */
async function check(
  text: string | Uint8Array,
  answers: Partial<ImportOptions> = {},
  name?: string,
  table = CONTACTS,
) {
  await put(text, name, table);
  const { sql } = services.database;
  const file = importFile(services.imports.folder, ID);
  const found = await analyse(
    file,
    name ?? "people.csv",
    await getFields(sql, table),
    destinationOf(table).key,
  );
  const options: ImportOptions = {
    shape: found.shape,
    columns: [...found.targets],
    dates: found.dates,
    decimal: found.decimal,
    empty: "keep",
    known: "change",
    refused: "without",
    cells: "refuse",
    choices: "refuse",
    list: null,
    ...answers,
  };
  await setOptions(
    sql,
    ID,
    options,
    found.columns.map((column) => column.name),
  );
  await setState(sql, ID, "checking");
  await checkImport(services, ID);
  return (await getImport(sql, ID))!;
}
async function apply() {
  await setState(services.database.sql, ID, "applying");
  await applyImport(services, ID);
}

const known = () =>
  addContacts(services.database.sql, [
    {
      email: "ann@example.org",
      values: { name: "Ann", visits: 3 },
      createdAt: services.clock.now(),
    },
    { email: "bob@example.org", values: { name: "Bob" }, createdAt: services.clock.now() },
  ]);

it("says what would happen, does it, and takes it back as a whole", async () => {
  await known();
  await suppress(services.database.sql, "cleo@example.org", "unsubscribed", services.clock.now());
  const before = await people();
  const found = await check(
    "Email,Name,Visits,Shade\nANN@example.org,Anne,,Deep\nbob@example.org,Bob,,\ncleo@EXAMPLE.org,Cléo,2,Light\nno address,x,1,\ncleo@example.org,Again,9,\n",
    { list },
  );
  expect(found).toMatchObject({
    state: "checked",
    read: 5,
    added: 1,
    changed: 1,
    same: 1,
    refused: 2,
  });
  expect(await people()).toEqual(before);
  expect(
    (await getRefused(services.database.sql, ID)).map(({ line, reason }) => [line, reason]),
  ).toEqual([
    [5, "“no address” is not a mail address"],
    [6, "the same address as in row 4"],
  ]);
  await apply();
  expect(await people()).toEqual([
    { email: "ann@example.org", name: "Anne", visits: 3, gift: null, held: null },
    { email: "bob@example.org", name: "Bob", visits: null, gift: null, held: null },
    { email: "cleo@example.org", name: "Cléo", visits: 2, gift: false, held: "unsubscribed" },
  ]);
  expect((await getFields(services.database.sql)).get("shade")?.type).toBe("text");
  expect((await getLists(services.database.sql))[0]!.people).toBe(3);
  await setState(services.database.sql, ID, "undoing");
  await undoImport(services, ID);
  expect(await people()).toEqual(before);
  expect((await getLists(services.database.sql))[0]!.people).toBe(0);
  expect((await getImport(services.database.sql, ID))!.state).toBe("undone");
  // The field it made is gone with it.
  expect((await getFields(services.database.sql)).has("shade")).toBe(false);
});

it("leaves out cells that cannot be read, with a mark, and takes their rows", async () => {
  await known();
  const found = await check(
    "Email,Name,Visits\nann@example.org,Anne,many\nnew@example.org,Nell,4\nnowhere,x,1\n",
    { cells: "leave" },
  );
  expect(found).toMatchObject({ added: 1, changed: 1, refused: 1, leftOut: 1 });
  const marks = await getRefused(services.database.sql, ID);
  expect(marks.map(({ line, taken }) => [line, taken])).toEqual([
    [2, true],
    [4, false],
  ]);
  expect(marks[0]!.reason).toContain("Visits");
  await apply();
  const [ann, , nell] = await people();
  expect(ann).toMatchObject({ name: "Anne", visits: 3 });
  expect(nell).toMatchObject({ email: "new@example.org", visits: 4 });
});

it("adds choices that a field does not have, where that is asked for", async () => {
  const { sql } = services.database;
  const kind = {
    id: "kind",
    label: "Kind",
    type: "choice",
    options: ["Friend", "Patron"],
  } as const;
  await addFields(sql, [kind]);
  const text =
    "Email,Kind\na@example.org,friend\nb@example.org,Volunteer\nc@example.org,volunteer\n";
  expect(await check(text)).toMatchObject({ added: 1, refused: 2 });
  await sql`delete from imports`;
  expect(await check(text, { choices: "add" })).toMatchObject({ added: 3, refused: 0 });
  await apply();
  expect((await getFields(sql)).get("kind")?.options).toEqual(["Friend", "Patron", "Volunteer"]);
  const kinds = await sql<{ kind: string }>`select f_kind as kind from contacts order by email`;
  expect(kinds.map((row) => row.kind)).toEqual(["Friend", "Volunteer", "Volunteer"]);
});

it("reads the dates of each column in the order its own values tell", async () => {
  const { sql } = services.database;
  await addFields(sql, [
    { id: "born", label: "Born", type: "date" },
    { id: "seen", label: "Seen", type: "date" },
  ]);
  await put(
    "Email,Born,Seen\na@example.org,25/12/1980,03/31/2026\nb@example.org,1/2/1990,4/5/2026\n",
  );
  const file = importFile(services.imports.folder, ID);
  const found = await analyse(file, "people.csv", await getFields(sql), "email");
  expect(found.dates).toBe(null);
  expect(found.targets.slice(1)).toEqual([
    { to: "field", field: "born", dates: "dmy" },
    { to: "field", field: "seen", dates: "mdy" },
  ]);
  await sql`delete from imports`;
  await check(
    "Email,Born,Seen\na@example.org,25/12/1980,03/31/2026\nb@example.org,1/2/1990,4/5/2026\n",
  );
  await apply();
  const rows = await sql`select f_born as born, f_seen as seen from contacts order by email`;
  expect(rows).toEqual([
    { born: "1980-12-25", seen: "2026-03-31" },
    { born: "1990-02-01", seen: "2026-04-05" },
  ]);
});

it("looks at the beginning of a long file, wherever that is broken off", async () => {
  const rows = Array.from({ length: 9_000 }, (_, i) => `p${i}@example.org,"A, B\nand ${i} more"`);
  await put(`Email,Name\n${rows.join("\n")}\n`);
  const file = importFile(services.imports.folder, ID);
  const found = await analyse(file, "people.csv", await getFields(services.database.sql), "email");
  expect(found.columns.map(({ name }) => name)).toEqual(["Email", "Name"]);
  expect(found.targets[0]).toEqual({ to: "email" });
});

it("takes values away where empty cells are to do that, and leaves known people alone where asked", async () => {
  await known();
  await check("Email,Name,Visits\nann@example.org,,\n", { empty: "clear" });
  await apply();
  expect((await people())[0]).toMatchObject({ name: null, visits: null });
  await services.database.sql`delete from imports`;
  const found = await check("Email,Name\nbob@example.org,Robert\n", { known: "leave" });
  expect(found).toMatchObject({ same: 1, changed: 0 });
});

it("reads other encodings, delimiters and JSON", async () => {
  const latin = Buffer.from("Email;Name\nrene@example.org;René\n", "latin1");
  expect(await check(new Uint8Array(latin))).toMatchObject({ added: 1 });
  await apply();
  expect((await people())[0]).toMatchObject({ name: "René" });
  await services.database.sql`delete from imports`;
  const json = JSON.stringify([
    { email: "j@example.org", name: "Jo", visits: 4 },
    { email: "k@example.org" },
  ]);
  expect(await check(json, {}, "people.json")).toMatchObject({ added: 2 });
  await apply();
  expect((await people()).find(({ email }) => email === "j@example.org")).toMatchObject({
    visits: 4,
  });
});

it("says where a quotation mark is never closed, and changes nobody", async () => {
  const rows = Array.from(
    { length: 60_000 },
    (_, i) => `p${i}@example.org,${i === 50 ? '"' : ""}x`,
  );
  const found = await check(`Email,Name\n${rows.join("\n")}`);
  expect(found.state).toBe("failed");
  expect(found.problem).toContain("quotation mark");
  expect(await people()).toEqual([]);
});

it("takes a wide file, the same address a hundred times, and throws a file away without a trace", async () => {
  const names = Array.from({ length: 300 }, (_, i) => `Column ${i}`);
  const cells = names.map((_, i) => `v${i}`);
  const rows = Array.from({ length: 100 }, () => `a@example.org,${cells.join(",")}`);
  const text = `Email,${names.join(",")}\n${rows.join("\n")}\n`;
  const skipped = names.map((_, i) =>
    i < 20
      ? ({ to: "new", field: `wide_${i}`, label: `Wide ${i}`, type: "text" } as const)
      : ({ to: "skip" } as const),
  );
  const found = await check(text, { columns: [{ to: "email" }, ...skipped] });
  expect(found).toMatchObject({ state: "checked", added: 1, refused: 99 });
  await throwAway(services, ID);
  expect(await services.database.sql`select 1 from imports`).toEqual([]);
  expect((await getFields(services.database.sql)).has("wide_0")).toBe(false);
  const left = await services.database
    .sql`select 1 from pg_class where relname like 'import\_import0%'`;
  expect(left).toEqual([]);
});

it("takes records in beside contacts, and back, with what pointed to them", async () => {
  const { sql } = services.database;
  const now = services.clock.now();
  await addTable(sql, "wardens", "Wardens", now);
  await addTable(sql, "sites", "Sites", now);
  await addFields(sql, [{ id: "opens", label: "Opens", type: "text" }], "sites");
  await addFields(
    sql,
    [{ id: "warden", label: "Warden", type: "record", table: "wardens" }],
    "sites",
  );
  await addFields(sql, [{ id: "site", label: "Site", type: "record", table: "sites" }]);
  const [maud] = await addRecords(sql, "wardens", new Map(), [{ name: "Maud", values: {} }], now);
  const fields = await getFields(sql, "sites");
  await addRecords(sql, "sites", fields, [{ name: "Hill", values: { opens: "9" } }], now);
  const before = await searchRecords(sql, "sites", fields, ALL);
  const found = await check(
    "Opens,Name,Warden,Acres\n10,hill,maud,4\n11,Walled garden,,2.5\n12,HILL,,\n13,,,\n1,Lake,Nobody,\n",
    {},
    "sites.csv",
    "sites",
  );
  expect(found).toMatchObject({ state: "checked", added: 1, changed: 1, refused: 3 });
  expect((await getRefused(sql, ID)).map(({ reason }) => reason)).toEqual([
    "the same name as in row 2",
    "no name",
    "Warden: there is no record called “Nobody”",
  ]);
  await apply();
  const after = await getFields(sql, "sites");
  expect(
    (await searchRecords(sql, "sites", after, ALL)).map(({ name, values }) => [name, values]),
  ).toEqual([
    ["Hill", { opens: "10", warden: maud, acres: 4 }],
    ["Walled garden", { opens: "11", acres: 2.5 }],
  ]);
  const [walled] = await sql<{
    id: number;
  }>`select id from records_sites where name = 'Walled garden'`;
  const [ann] = await addContacts(sql, [
    { email: "ann@example.org", values: { site: walled!.id }, createdAt: now },
  ]);
  await setState(sql, ID, "undoing");
  await undoImport(services, ID);
  expect(await searchRecords(sql, "sites", fields, ALL)).toEqual(before);
  expect((await getContact(sql, ann!))!.values.site).toBeUndefined();
});

/** Services that are told to end once so many transactions are through. */
function stoppedAfter(transactions: number): TestServices {
  const stopping = new AbortController();
  const { database } = services;
  let left = transactions;
  const tx: typeof database.tx = async (work, deadline) => {
    const result = await database.tx(work, deadline);
    if (--left === 0) stopping.abort();
    return result;
  };
  return { ...services, database: { ...database, tx }, stopping: stopping.signal };
}
const manyRows = (n: number) =>
  `Email,Name,Town\nann@example.org,Anna,Hill\n${Array.from(
    { length: n },
    (_, i) => `p${i}@example.org,Person ${i},Town ${i % 7}\n`,
  ).join("")}`;

it("goes on where it was stopped, though what waited is lost, and is taken back in pieces as well", async () => {
  await known();
  const before = await people();
  await check(manyRows(1_500), { list });
  const { sql } = services.database;
  await setState(sql, ID, "applying");
  await expect(applyImport(stoppedAfter(3), ID)).rejects.toThrow(Stopped);
  const half = (await getImport(sql, ID))!;
  expect(half.state).toBe("applying");
  expect(half.applied).toBeGreaterThan(0);
  const inside = (await people()).length;
  expect(inside).toBeGreaterThan(2);
  expect(inside).toBeLessThan(1_502);
  // As a crash of the database leaves it.
  await sql`truncate import_import000001_rows, import_import000001_kept`;
  await applyImport(services, ID);
  expect((await getImport(sql, ID))!.state).toBe("done");
  expect(await people()).toHaveLength(1_502);
  expect((await people()).find(({ email }) => email === "ann@example.org")).toMatchObject({
    name: "Anna",
  });
  expect((await getLists(sql))[0]!.people).toBe(1_501);
  await setState(sql, ID, "undoing");
  await expect(undoImport(stoppedAfter(2), ID)).rejects.toThrow(Stopped);
  expect((await people()).length).toBeGreaterThan(2);
  await undoImport(services, ID);
  expect(await people()).toEqual(before);
  expect((await getLists(sql))[0]!.people).toBe(0);
});

it("reads JSON as it comes: lines, an array, and what is wrong in either", async () => {
  const lines = Array.from({ length: 3 }, (_, i) => JSON.stringify({ email: `l${i}@example.org` }));
  expect(await check(`\n  ${lines.join("\r\n")}\n`, {}, "people.ndjson")).toMatchObject({
    added: 3,
  });
  await services.database.sql`delete from imports`;
  const broken = await check(`[${lines.join(",")}, {"email": `, {}, "people.json").catch((e) => e);
  expect(String(broken.problem ?? broken)).toContain("not JSON");
  await services.database.sql`delete from imports`;
  const nested = { email: "n@example.org", name: { a: [1, { b: 2 }] } };
  expect(await check(JSON.stringify([nested]), {}, "people.json")).toMatchObject({ added: 1 });
  await services.database.sql`delete from imports`;
  const deep = `[{"email":"d@example.org","name":${"[".repeat(5_000)}${"]".repeat(5_000)}}]`;
  const refused = await check(deep, {}, "people.json").catch((e) => e);
  expect(String(refused.problem ?? refused)).toContain("too deep");
  await services.database.sql`delete from imports`;
  const late = Array.from({ length: LIMITS.importJsonNames + 1 }, (_, i) => ({
    email: `j${i}@example.org`,
    ...(i === LIMITS.importJsonNames && { "tel.": "1" }),
  }));
  expect(await check(JSON.stringify(late), {}, "people.json")).toMatchObject({
    added: LIMITS.importJsonNames,
    refused: 1,
  });
});
