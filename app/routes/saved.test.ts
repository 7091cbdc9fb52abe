/** Saved blocks: what is saved comes back as it was, whoever asks; what is none is refused. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { createBand, createBlock, createColumn } from "#core/blocks/index.ts";
import type { DocNode } from "#core/document/index.ts";
import { READY_MADE } from "#core/templates/saved.ts";
import { ids } from "#core/testing/rendered.ts";
import { takeOut } from "#server/store/bin.ts";
import { countSaved, emailOf, getSaved, listSaved } from "#server/store/saved.ts";
import type { Member } from "#server/store/team.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { aDesigner, routeArgs } from "../testing/route.ts";
import { loader as find, action as save } from "./api.saved.ts";
import { loader as look } from "./api.saved-look.ts";
import { action as change } from "./library.saved.tsx";

let services: TestServices;
let member: Member;
beforeAll(async () => {
  services = await startTestServices();
  member = await aDesigner(services);
});
afterAll(() => services.close());

const id = ids("s");
const blocks = [createBlock("heading", id), createBlock("button", id)];
const band = createBand(id, [createColumn(id, [createBlock("text", id)])]);
async function saved(name: string, nodes: readonly DocNode[] | unknown) {
  const answer = await save(routeArgs(services, member, { body: JSON.stringify({ name, nodes }) }));
  return { status: answer.status, ...((await answer.json()) as { id?: string; message?: string }) };
}

it("come back as they were saved, blocks as blocks and bands as bands", async () => {
  const { sql } = services.database;
  const one = await saved("Two blocks", blocks);
  const other = await saved("A band", [band]);
  expect(await getSaved(sql, one.id!)).toMatchObject({ kind: "block", nodes: blocks });
  expect(await getSaved(sql, other.id!)).toMatchObject({ kind: "band", nodes: [band] });
  const answer = await find(
    routeArgs(services, member, { path: "/library/saved.json?search=two" }),
  );
  const { saved: found } = (await answer.json()) as { saved: { name: string }[] };
  expect(found.map(({ name }) => name)).toEqual(["Two blocks"]);
});

it("are refused where they are no blocks of ours, or have no name", async () => {
  expect((await saved(" ", blocks)).message).toContain("Give it a name");
  expect((await saved("x", [])).message).toBe("Select something first.");
  expect((await saved("x", [{ ...blocks[0], type: "gone" }])).status).toBe(400);
  expect((await saved("x", [{ ...blocks[0], props: { level: 9 } }])).status).toBe(400);
  expect((await saved("x", "nothing")).status).toBe(400);
});

it("are looked at, renamed, deleted and put back", async () => {
  const { sql } = services.database;
  const [first] = await listSaved(sql, { words: "two blocks", limit: 9 });
  const asked = (form: Record<string, string>) => change(routeArgs(services, member, { form }));
  await asked({ do: "rename", saved: first!.id, name: "Head and button" });
  expect((await getSaved(sql, first!.id))!.name).toBe("Head and button");
  const page = await look(routeArgs(services, member, {}, { saved: first!.id }));
  expect(page.headers.get("Content-Security-Policy")).toContain("default-src 'none'");
  expect(await page.text()).toContain("A new heading");
  expect(
    await services.database.tx((tx) =>
      takeOut(tx, "saved_blocks", first!.id, "x", services.clock.now()),
    ),
  ).toBeTruthy();
  expect(await getSaved(sql, first!.id)).toBeNull();
});

it("that ship can all be put into an email, and nobody deletes them", async () => {
  const { sql } = services.database;
  const ships = (await listSaved(sql, { limit: 99 })).filter((one) => one.ships);
  expect(ships).toHaveLength(READY_MADE.length);
  for (const one of ships) expect(() => emailOf(one.nodes)).not.toThrow();
  const form = { do: "delete", saved: ships[0]!.id };
  await change(routeArgs(services, member, { form }));
  expect(await getSaved(sql, ships[0]!.id)).not.toBeNull();
});

it("are paged, those that ship behind all others, each once", async () => {
  const { sql } = services.database;
  for (let i = 0; i < 3; i++) await saved(`More ${i}`, [band]);
  const total = await countSaved(sql);
  const pages: string[] = [];
  for (let from = 0; from < total; from += 2) {
    pages.push(...(await listSaved(sql, { from, limit: 2 })).map(({ id: one }) => one));
  }
  expect(new Set(pages).size).toBe(total);
  expect(pages).toEqual((await listSaved(sql, { limit: 99 })).map(({ id: one }) => one));
  expect(pages.slice(-READY_MADE.length).every((one) => one.startsWith("ready:"))).toBe(true);
});
