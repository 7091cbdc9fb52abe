/** Loaders and actions of the library: code rolls and derived tags. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { DerivedTag } from "#core/derived/index.ts";
import { apply } from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import type { Rule } from "#core/rules/index.ts";
import { doc, line, paragraph, tag } from "#core/text/index.ts";
import { addCodes, addRoll, getRoll, getRolls, nextCodes } from "#server/store/codes.ts";
import { derivedUses, getDerived } from "#server/store/derived.ts";
import { loadDocument } from "#server/store/documents.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { type Asked, answered, routeArgs } from "../testing/route.ts";
import { action as tagAction, loader as tagPage } from "./library.derived-tag.tsx";
import { action as rollAction, loader as rollPage } from "./library.roll.tsx";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
});
afterAll(() => services.close());

describe("a code roll", () => {
  const fresh = { name: "Autumn", emptyText: "", warnAt: 0, expires: null, again: false };
  const newRoll = () => addRoll(services.database.sql, fresh, services.clock.now());
  const ask = async (roll: string, asked: Asked) => {
    const answer = await rollAction(routeArgs(services, made.member, asked, { roll }));
    return answered<{ said: string; result: { error?: Record<string, string[]> } }>(answer);
  };
  const file = (text: string): Asked => {
    const body = new FormData();
    body.set("do", "file");
    body.set("codes", new Blob([text]), "codes.txt");
    return { body };
  };

  it("takes a file, and tells what was a header, empty, repeated or no code", async () => {
    const roll = await newRoll();
    await addCodes(services.database.sql, roll, ["LARK-2"]);
    const { said } = await ask(roll, file("Code\nLARK-1\n\nLARK-1\nLARK-2\nLARK\u00073\n"));
    expect(said).toContain("1 code added. 1 was on the roll already.");
    expect(said).toContain("“Code” was taken for the name of the column.");
    expect(said).toContain("1 stood there more than once.");
    expect(said).toContain("1 line was empty.");
    expect(said).toContain("Line 6 is no code");
    expect(await nextCodes(services.database.sql, roll, 9)).toEqual(["LARK-2", "LARK-1"]);
    const nothing = await ask(roll, file("\n \n"));
    expect(nothing).toMatchObject({ status: 409 });
    expect(nothing.result.error?.codes).toEqual(["There is no code in this file."]);
    expect((await ask(roll, file(""))).result.error?.codes).toEqual(["Choose a file."]);
  });
  it("makes codes by a pattern, as many as asked for, and refuses one that can be guessed", async () => {
    const roll = await newRoll();
    const form = { do: "make", pattern: "LARK-####-@@@", number: "500" };
    expect((await ask(roll, { form })).said).toBe("500 codes made.");
    const page = await rollPage(routeArgs(services, made.member, {}, { roll }));
    expect(page.roll).toMatchObject({ all: 500, left: 500 });
    for (const code of page.next) expect(code).toMatch(/^LARK-\d{4}-[A-Z]{3}$/);
    const short = await ask(roll, { form: { ...form, pattern: "LARK-#" } });
    expect(short.status).toBe(409);
    expect(short.result.error?.pattern?.[0]).toBeTruthy();
    const odd = await ask(roll, { form: { ...form, number: "many" } });
    expect(odd).toMatchObject({ status: 400 });
    expect(odd.result.error?.number).toEqual(["Write a whole number."]);
    expect((await getRoll(services.database.sql, roll))!.all).toBe(500);
  });
  it("keeps its settings, and refuses a date that is none", async () => {
    const roll = await newRoll();
    const form = { do: "save", name: "Spring", emptyText: "at the till", warnAt: "20" };
    const bad = await ask(roll, { form: { ...form, expires: "soon" } });
    expect(bad.result.error?.expires?.[0]).toContain("Write a date.");
    await ask(roll, { form: { ...form, expires: "2027-03-01", again: "on" } });
    expect(await getRoll(services.database.sql, roll)).toMatchObject({
      name: "Spring",
      emptyText: "at the till",
      warnAt: 20,
      expires: "2027-03-01",
      again: true,
    });
  });
  it("goes only while none of its codes has been given, and is told to be gone after that", async () => {
    const { sql } = services.database;
    const [free, given] = [await newRoll(), await newRoll()];
    await addCodes(sql, given, ["A"]);
    await sql`update codes set launch_id = ${"l"} where roll_id = ${given}`.catch(() => {});
    await ask(free, { form: { do: "remove" } });
    expect((await getRolls(sql)).map(({ id }) => id)).not.toContain(free);
    await expect(ask(free, { form: { do: "remove" } })).rejects.toMatchObject({
      init: { status: 404 },
    });
  });
});

describe("a derived tag", () => {
  const named: Rule = { type: "field", field: "first_name", op: "hasValue", argument: null };
  const greeting: Omit<DerivedTag, "id"> = {
    name: "Greeting",
    kind: "text",
    cases: [{ rule: named, value: { words: line("Dear ", tag("contact:first_name")) } }],
    otherwise: { words: line("Dear friend") },
  };
  const ask = async (id: string, form: Record<string, string>) => {
    const answer = await tagAction(routeArgs(services, made.member, { form }, { tag: id }));
    return answer instanceof Response
      ? {
          gone: answer.headers.get("location")?.replace(/\?removed=.*/, ""),
          problems: [],
          status: answer.status,
        }
      : answered<{ problems: { at: number | null; message: string }[] }>(answer);
  };
  const save = (id: string, body: object) => ask(id, { do: "save", tag: JSON.stringify(body) });
  const all = () => getDerived(services.database.sql);

  it("is made, and says at which case something is wrong", async () => {
    expect(await save("new", greeting)).toMatchObject({ gone: "/library/derived" });
    expect((await all()).get("greeting")).toEqual({ id: "greeting", ...greeting });
    const page = await tagPage(routeArgs(services, made.member, {}, { tag: "greeting" }));
    expect(page).toMatchObject({ found: { name: "Greeting" }, uses: [] });

    expect((await save("new", { ...greeting, name: " " })).problems).toEqual([
      { at: null, message: "Give it a name." },
    ]);
    const gone = { ...named, field: "gone" };
    const wrong = { ...greeting, cases: [greeting.cases[0], { ...greeting.cases[0], rule: gone }] };
    expect((await save("new", wrong)).problems).toMatchObject([{ at: 1 }]);
    const sender = {
      kind: "sender",
      name: "Sender",
      cases: [{ rule: named, value: { name: line("x"), address: line("nobody") } }],
      otherwise: { name: line("x"), address: line(tag("contact:email")) },
    };
    expect((await save("new", sender)).problems).toEqual([
      { at: 0, message: "This is not a mail address." },
      { at: -1, message: "The last address must be a fixed one." },
    ]);
    expect(await save("new", { kind: "explode" })).toMatchObject({ status: 409 });
    expect(await ask("new", { do: "explode" })).toMatchObject({ status: 400 });
    expect([...(await all()).keys()]).toEqual(["greeting"]);
  });
  it("must not name itself, by way of others either", async () => {
    const outer = {
      ...greeting,
      name: "Outer",
      otherwise: { words: line(tag("derived:greeting")) },
    };
    await save("new", outer);
    const circle = { ...greeting, otherwise: { words: line(tag("derived:outer")) } };
    expect((await save("greeting", circle)).problems).toMatchObject([
      { at: null, message: "It would name itself, by way of another derived tag." },
    ]);
    expect((await all()).get("greeting")!.otherwise).toEqual(greeting.otherwise);
  });
  it("stays while an email or another tag uses it, and says which", async () => {
    const { sql } = services.database;
    const { documentId } = made.campaign;
    const { doc: email } = (await loadDocument(sql, documentId))!;
    const words = doc(paragraph(tag("derived:outer"))) as never;
    const edited = apply(email, { type: "set", node: "n1", path: ["words"], value: words });
    await sql`update documents set body = ${canonical(edited)} where id = ${documentId}`;
    expect(await derivedUses(sql)).toEqual(
      new Map([
        ["outer", ["“A letter”"]],
        ["greeting", ["“Outer”"]],
      ]),
    );
    expect((await ask("outer", { do: "remove" })).problems).toEqual([
      { at: null, message: "It is used by “A letter”." },
    ]);
    await sql`update documents set body = ${canonical(email)} where id = ${documentId}`;
    expect(await ask("outer", { do: "remove" })).toMatchObject({ gone: "/library/derived" });
    expect(await ask("greeting", { do: "remove" })).toMatchObject({ gone: "/library/derived" });
    expect((await all()).size).toBe(0);
  });
});
