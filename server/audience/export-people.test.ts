import { mkdir, writeFile } from "node:fs/promises";
import { Readable } from "node:stream";
import { text } from "node:stream/consumers";
import { stringify } from "csv-stringify";
import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
import { csvCell } from "#core/export/csv.ts";
import { FIELDS, SITES, valuesArbitrary } from "#core/testing/arbitrary-rules.ts";
import { analyse } from "../import/analyse.ts";
import { applyImport } from "../import/apply.ts";
import { checkImport } from "../import/check.ts";
import { importFile } from "../import/files.ts";
import { addContacts, getContact } from "../store/contacts.ts";
import { addFields, addTable, CONTACTS, getFields } from "../store/fields.ts";
import { createImport, getImport, setOptions, setState } from "../store/imports.ts";
import { addRecords } from "../store/records.ts";
import { viewSchema } from "../store/views.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { peopleRows } from "./export-people.ts";
import { worldOf } from "./world.ts";

const ID = "roundtrip001";
let services: TestServices;
beforeAll(async () => {
  services = await startTestServices();
  const { sql } = services.database;
  await mkdir(services.imports.folder, { recursive: true });
  await addTable(sql, "sites", "Sites", services.clock.now());
  const sites = ["First", ...SITES, "Last"].map((name) => ({ name, values: {} }));
  await addRecords(sql, "sites", new Map(), sites, services.clock.now());
  await addFields(sql, FIELDS);
});
afterAll(() => services.close());

/** Everybody by address, without what the database makes up. */
async function everybody() {
  const { sql } = services.database;
  const ids = await sql<{ id: number }>`select id from contacts order by email_key`;
  const found = await Promise.all(ids.map(({ id }) => getContact(sql, id)));
  return found.map((contact) => ({ email: contact!.email, values: contact!.values }));
}

async function exported(): Promise<string> {
  const view = viewSchema.parse({});
  const world = await worldOf(services.database.sql, services.clock);
  const cells: string[][] = [];
  for await (const row of peopleRows(services, view, world)) cells.push(row.map(csvCell));
  return text(Readable.from(cells).pipe(stringify({ record_delimiter: "windows", bom: true })));
}

async function imported(file: string): Promise<void> {
  const { sql } = services.database;
  const at = importFile(services.imports.folder, ID);
  await writeFile(at, file);
  const size = { id: ID, table: CONTACTS, name: "people.csv", bytes: file.length };
  await createImport(sql, size, "m", services.clock.now());
  const fields = await getFields(sql);
  const found = await analyse(at, "people.csv", fields, "email");
  const columns = [...found.targets];
  const header = found.columns.map(({ name }) => name);
  const answers = { dates: "ymd", decimal: ".", empty: "clear", known: "change" } as const;
  const rest = { refused: "nothing", cells: "refuse", choices: "refuse", list: null } as const;
  await setOptions(sql, ID, { shape: found.shape, columns, ...answers, ...rest }, header);
  await setState(sql, ID, "checking");
  await checkImport(services, ID);
  expect(await getImport(sql, ID)).toMatchObject({ state: "checked", refused: 0, newFields: [] });
  await setState(sql, ID, "applying");
  await applyImport(services, ID);
  await sql`delete from imports`;
}

const addresses = fc.uniqueArray(
  fc
    .stringMatching(/^[A-Za-z0-9][A-Za-z0-9.+_'-]{0,10}[A-Za-z0-9]$/)
    .filter((s) => !s.includes("..")),
  { minLength: 1, maxLength: 8, selector: (name) => name.toLowerCase() },
);

it("exports a file that an import reads back as the same people, whatever they hold", async () => {
  const { sql } = services.database;
  await fc.assert(
    fc.asyncProperty(addresses, fc.infiniteStream(valuesArbitrary), async (names, values) => {
      await sql`delete from contacts`;
      const people = names.map((name) => ({
        email: `${name}@example.org`,
        values: values.next().value!,
        createdAt: services.clock.now(),
      }));
      await addContacts(sql, people);
      const before = await everybody();
      const file = await exported();
      await sql`delete from contacts`;
      await imported(file);
      expect(await everybody()).toEqual(before);
    }),
    { numRuns: 25 },
  );
}, 60_000);
