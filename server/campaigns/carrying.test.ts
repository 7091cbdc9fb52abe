/** A template's change on its way into campaigns. */
import { afterEach, beforeEach, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { SimpleEdit } from "#core/document/index.ts";
import { doc } from "#core/text/index.ts";
import { getCampaign } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import { addMember, type Member } from "../store/team.ts";
import { createTemplate, getTemplate } from "../store/templates.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { campaignsBehind, carryInto, changeTemplate, withChange } from "./carrying.ts";
import { findStart, startCampaign } from "./starting.ts";
import { makeStep } from "./step.ts";

let services: TestServices;
let member: Member;
let template: string;
const ids = { heading: "heading1", text: "text1" };
beforeEach(async () => {
  services = await startTestServices();
  const { sql } = services.database;
  const now = services.clock.now();
  const person = { name: "Ada", email: "ada@larkmoor.example", role: "designer" as const };
  member = await addMember(sql, person, now);
  const blocks = [
    createBlock("heading", () => ids.heading),
    createBlock("text", () => ids.text, { words: doc("As the template says") }),
  ];
  const email = createDocument([
    createBand(() => "band1", [createColumn(() => "column1", blocks)]),
  ]);
  template = await createTemplate(sql, { name: "T", about: "", category: "news", doc: email }, now);
});
afterEach(() => services.close());

const templateNow = async () => (await getTemplate(services.database.sql, template))!;
async function started(name: string) {
  const { sql } = services.database;
  const start = await findStart(sql, `template:${template}`);
  if (!start || "trouble" in start) throw new Error("no template");
  const id = await startCampaign(sql, { name, start, theme: "own" }, services.clock.now());
  return (await getCampaign(sql, id))!;
}
async function change(document: string, ...edits: SimpleEdit[]) {
  const { seq } = (await loadDocument(services.database.sql, document))!;
  await makeStep(services, { document, seq, edits, by: "test" }, { member: member.id });
}
const words = (node: string, said: string): SimpleEdit => ({
  ...{ type: "set", node, path: ["words"], value: doc(said) as never },
});
const said = async (document: string) =>
  JSON.stringify((await loadDocument(services.database.sql, document))!.doc);

it("comes into those that are behind, leaves what was changed by hand, and is offered once", async () => {
  const { sql } = services.database;
  const [source, mine, plain] = [
    await started("Source"),
    await started("Mine"),
    await started("Plain"),
  ];
  await change(mine.documentId, words(ids.text, "By hand"));
  await change(source.documentId, words(ids.text, "As it is now"), {
    type: "set",
    node: ids.heading,
    path: ["colour"],
    value: "quiet",
  });
  expect((await campaignsBehind(sql, await templateNow())).behind).toEqual([]);
  await changeTemplate(services, await templateNow(), source, member);
  const changed = await templateNow();
  expect(await said(changed.documentId)).toContain("As it is now");
  const { behind, more } = await campaignsBehind(sql, changed);
  expect(more).toBe(false);
  expect(behind.map(({ name, changed: n, kept }) => [name, n, kept])).toEqual([
    ["Mine", 1, 1],
    ["Plain", 2, 0],
  ]);
  const seen = JSON.stringify(await withChange(sql, changed, mine.id));
  expect(seen).toContain("By hand");
  expect(seen).toContain('"colour":"quiet"');
  // Nothing has happened yet.
  expect(await said(mine.documentId)).not.toContain('"colour":"quiet"');
  const both = [mine.id, plain.id];
  expect((await carryInto(services, changed, both, member)).done).toEqual(["Mine", "Plain"]);
  expect(await said(mine.documentId)).toContain("By hand");
  expect(await said(mine.documentId)).toContain('"colour":"quiet"');
  expect(await said(plain.documentId)).toContain("As it is now");
  expect((await campaignsBehind(sql, changed)).behind).toEqual([]);
  expect((await carryInto(services, changed, both, member)).done).toEqual([]);
  // A second change comes after the first.
  await change(source.documentId, words(ids.text, "Once more"));
  await changeTemplate(services, await templateNow(), source, member);
  await carryInto(services, await templateNow(), both, member);
  expect(await said(mine.documentId)).toContain("By hand");
  expect(await said(plain.documentId)).toContain("Once more");
});

it("keeps what each email says for itself", async () => {
  const { sql } = services.database;
  const source = await started("Source");
  const other = await started("Other");
  const subject = (text: string): SimpleEdit => ({
    ...{ type: "set", node: "email", path: ["envelope", "subject"] },
    value: { type: "line", content: [{ type: "text", text }] },
  });
  await change(source.documentId, subject("Of the source"), words(ids.text, "New"));
  await change(other.documentId, subject("Of the other"));
  await changeTemplate(services, await templateNow(), source, member);
  const changed = await templateNow();
  expect(await said(changed.documentId)).not.toContain("Of the source");
  await carryInto(services, changed, [other.id], member);
  expect(await said(other.documentId)).toContain("Of the other");
  expect(await said(other.documentId)).toContain("New");
  expect(await withChange(sql, changed, "gone")).toBeNull();
});
