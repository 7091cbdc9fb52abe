/** Records, changed by several hands: nothing goes over what somebody has not seen. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { addFields, addTable, getSchema } from "#server/store/fields.ts";
import { addRecords, getRecord } from "#server/store/records.ts";
import type { Member } from "#server/store/team.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { aDesigner, answered, routeArgs } from "../testing/route.ts";
import { action } from "./people.records.tsx";

let services: TestServices;
let member: Member;
let id = 0;
const fieldsOf = async () => (await getSchema(services.database.sql, "plots")).fields;
beforeAll(async () => {
  services = await startTestServices();
  member = await aDesigner(services);
  const { sql } = services.database;
  await addTable(sql, "plots", "Plots", services.clock.now());
  await addFields(
    sql,
    ["soil", "size"].map((field) => ({ id: field, label: field, type: "text" as const })),
    "plots",
  );
  const records = [{ name: "North", values: { soil: "Clay" } }];
  [id] = (await addRecords(sql, "plots", await fieldsOf(), records, services.clock.now())) as [
    number,
  ];
});
afterAll(() => services.database.close());

it("two who change different fields keep both; who writes over the other's is told, and may then", async () => {
  const save = async (form: Record<string, string>) => {
    const asked = { do: "change", id: String(id), name: "North", ...form };
    const made = action(routeArgs(services, member, { form: asked }, { table: "plots" }) as never);
    const answer = await made;
    return answer instanceof Response
      ? { status: answer.status }
      : answered<{ error?: Record<string, string[]>; seen?: Record<string, string> }>(answer);
  };
  const values = async () =>
    (await getRecord(services.database.sql, "plots", await fieldsOf(), id))!.values;
  const shown = { "was.soil": "Clay", "was.size": "" };
  expect((await save({ ...shown, "f.soil": "Clay", "f.size": "Small" })).status).toBe(302);
  expect((await save({ ...shown, "f.soil": "Loam", "f.size": "" })).status).toBe(302);
  expect(await values()).toMatchObject({ soil: "Loam", size: "Small" });
  const late = await save({ ...shown, "f.soil": "Chalk", "f.size": "" });
  expect(late).toMatchObject({ status: 409, seen: { soil: "Loam" } });
  expect(JSON.stringify(late)).toContain("changed to “Loam” meanwhile");
  expect(await values()).toMatchObject({ soil: "Loam" });
  const again = { ...shown, "was.soil": "Loam", "f.soil": "Chalk", "f.size": "" };
  expect((await save(again)).status).toBe(302);
  expect(await values()).toMatchObject({ soil: "Chalk", size: "Small" });
});

it("keeps a name that somebody else gave it meanwhile, and tells who would write over it", async () => {
  const { sql } = services.database;
  const save = async (name: string, was: string) => {
    const asked = { do: "change", id: String(id), name, "was.*": was, "was.size": "Small" };
    const form = { ...asked, "f.size": "Small" };
    const made = await action(routeArgs(services, member, { form }, { table: "plots" }) as never);
    return made instanceof Response ? { status: made.status } : answered<object>(made);
  };
  const called = async () => (await getRecord(sql, "plots", await fieldsOf(), id))!.name;
  expect((await save("North field", "North")).status).toBe(302);
  expect((await save("North", "North")).status).toBe(302);
  expect(await called()).toBe("North field");
  const late = await save("Far north", "North");
  expect(late).toMatchObject({ status: 409, seen: { "*": "North field" } });
  expect(JSON.stringify(late)).toContain("changed to “North field” meanwhile");
  expect(await called()).toBe("North field");
  expect((await save("Far north", "North field")).status).toBe(302);
  expect(await called()).toBe("Far north");
});

it("says so where the record has been deleted meanwhile", async () => {
  const form = { do: "change", id: String(id + 1), name: "Nowhere", "was.*": "South" };
  const args = routeArgs(services, member, { form }, { table: "plots" });
  const answer = answered<object>((await action(args as never)) as never);
  expect(answer).toMatchObject({ status: 409 });
  expect(JSON.stringify(answer)).toContain("deleted meanwhile");
});
