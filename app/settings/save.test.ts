import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { SHIPPED } from "#core/templates/index.ts";
import { addSamples, countSamples, removeSamples } from "#server/audience/samples.ts";
import { firstSteps } from "#server/campaigns/first-steps.ts";
import { shipTemplates } from "#server/campaigns/shipped.ts";
import type { Services } from "#server/services.ts";
import { getLists } from "#server/store/audience.ts";
import { addFields } from "#server/store/fields.ts";
import { getSettings } from "#server/store/settings.ts";
import {
  addMember,
  createSession,
  createSignInLink,
  listMembers,
  type Member,
  memberOfSession,
  redeemSignInLink,
} from "#server/store/team.ts";
import { listTemplates } from "#server/store/templates.ts";
import { startTestServices } from "#server/testing/services.ts";
import { action } from "../routes/settings.tsx";
import { answered, routeArgs } from "../testing/route.ts";

let services: Services;
let owner: Member;
let designer: Member;
const now = new Date("2026-03-02T10:00:00Z");
beforeAll(async () => {
  services = await startTestServices();
  const { sql } = services.database;
  owner = await addMember(sql, { name: "Ada", email: "ada@larkmoor.example", role: "owner" }, now);
  designer = await addMember(
    sql,
    { name: "Bo", email: "bo@larkmoor.example", role: "designer" },
    now,
  );
});
afterAll(() => services.database.close());

const team = async (who: Member, form: Record<string, string>) =>
  answered<{
    result: { status?: string; error?: Record<string, string[]> };
    address?: { url: string };
  }>(await action(routeArgs(services, who, { form: { what: "team", ...form } })));
const problem = async (who: Member, form: Record<string, string>) =>
  (await team(who, form)).result.error?.[""]?.[0];

it("only an owner says who is in the team, and one always stays", async () => {
  const invite = { do: "invite", name: "Cy", email: "cy@larkmoor.example", role: "owner" };
  expect(await problem(designer, invite)).toContain("Only an owner");
  expect(await problem(designer, { do: "address", member: owner.id })).toContain("Only an owner");
  expect(await problem(owner, { do: "role", member: owner.id, role: "designer" })).toContain(
    "needs an owner",
  );
  expect(await problem(owner, { do: "leave", member: owner.id })).toContain("Somebody else");
  expect(await problem(owner, { do: "leave", member: "nobody" })).toContain("not in the team");
  const wrong = await team(owner, { ...invite, role: "emperor" });
  expect(wrong.result.error?.role?.[0]).toContain("role");
  const twice = await team(owner, { ...invite, email: "BO@larkmoor.example" });
  expect(twice.result.error?.email?.[0]).toContain("signs in with this address");
});

it("who is taken out is signed out, can sign in no more, and may come back", async () => {
  const { sql } = services.database;
  const session = await createSession(sql, designer.id, now);
  const link = await createSignInLink(sql, designer.id, now);
  expect((await team(owner, { do: "leave", member: designer.id })).result.error).toBeFalsy();
  expect(await memberOfSession(sql, session, now)).toBeNull();
  expect(await redeemSignInLink(sql, link, now)).toBeNull();
  expect((await listMembers(sql)).map(({ name }) => name)).toEqual(["Ada"]);

  const again = { do: "invite", name: "Bo B.", email: "bo@larkmoor.example", role: "reviewer" };
  const { address } = await team(owner, again);
  const token = /sign-in\/(.+)$/.exec(address!.url)![1]!;
  // The same person as before: what they did bears their name.
  expect(await redeemSignInLink(sql, token, services.clock.now())).toBe(designer.id);
});

it("templates that ship are put in once, also after they were deleted", async () => {
  const { database } = services;
  await shipTemplates(database, now);
  await shipTemplates(database, now);
  const shipped = SHIPPED.filter(({ category }) => category !== "bare");
  expect((await listTemplates(database.sql)).map(({ name }) => name)).toEqual(
    shipped.map(({ name }) => name),
  );
  await database.sql`delete from templates`;
  await shipTemplates(database, now);
  expect(await listTemplates(database.sql)).toEqual([]);
});

it("samples come and go with their list, and leave other people alone", async () => {
  const { database } = services;
  await addFields(database.sql, [{ id: "city", label: "City", type: "number" }]);
  await addSamples(database, now);
  await addSamples(database, now);
  expect(await countSamples(database)).toBe(20);
  expect((await getLists(database.sql)).map(({ name, people }) => [name, people])).toEqual([
    ["Samples", 20],
  ]);
  expect(await firstSteps(services, owner)).toMatchObject({
    people: true,
    email: false,
    you: false,
  });
  expect(await removeSamples(database)).toBe(20);
  expect(await getLists(database.sql)).toEqual([]);
  expect(await firstSteps(services, owner)).toMatchObject({ people: false });
});

it("keeps campaign parameters that can stand in an address, each once", async () => {
  const save = async (lines: readonly [name: string, words: string][]) => {
    const form = Object.fromEntries(
      lines.flatMap(([name, words], i) => [
        [`parameters[${i}].name`, name],
        [`parameters[${i}].words`, words],
      ]),
    );
    return answered<{ result: { status?: string; error?: Record<string, string[]> } }>(
      await action(routeArgs(services, owner, { form: { what: "links", ...form } })),
    );
  };
  const { sql } = services.database;
  const kept = async () => (await getSettings(sql)).linkParameters;
  await save([
    ["source", "letter & more"],
    ["campaign", ""],
    ["", ""],
  ]);
  const known = [
    { name: "source", words: "letter & more" },
    { name: "campaign", words: "" },
  ];
  expect(await kept()).toEqual(known);
  for (const name of ["", "two words", "a=b", "a&b", "1st", "a#b", "x".repeat(41), "é"]) {
    const answer = await save([[name, "words"]]);
    expect([answer.status, Object.keys(answer.result.error ?? {})], name).toEqual([
      400,
      ["parameters[0].name"],
    ]);
  }
  const twice = await save([
    ["source", "a"],
    ["source", "b"],
  ]);
  expect(twice.result.error).toEqual({ parameters: ["Each name once."] });
  const long = await save([["source", "x".repeat(LIMITS.parameterWords + 1)]]);
  expect(Object.keys(long.result.error ?? {})).toEqual(["parameters[0].words"]);
  expect(await kept()).toEqual(known);
  await save([]);
  expect(await kept()).toEqual([]);
});

it("words of the house are added once, in small letters, and taken out; what is no word is refused", async () => {
  const { sql } = services.database;
  const words = async (form: Record<string, string>) =>
    answered<{ result: { error?: Record<string, string[]> } }>(
      await action(routeArgs(services, owner, { form: { what: "words", ...form } })),
    );
  await words({ do: "add", word: " Larkmoor " });
  await words({ do: "add", word: "larkmoor" });
  await words({ do: "add", word: "coombe" });
  expect((await getSettings(sql)).words).toEqual(["larkmoor", "coombe"]);
  for (const word of ["two words", "<b>", "x", ""]) {
    expect((await words({ do: "add", word })).result.error?.word?.[0]).toMatch(/word/);
  }
  await words({ do: "remove", word: "Larkmoor" });
  await words({ do: "remove", word: "larkmoor" });
  expect((await getSettings(sql)).words).toEqual(["coombe"]);
});
