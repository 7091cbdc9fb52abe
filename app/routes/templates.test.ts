import { afterEach, beforeEach, expect, it } from "vitest";
import { shipTemplates } from "#server/campaigns/shipped.ts";
import { labelOfRemoved, putBack } from "#server/store/bin.ts";
import { loadDocument } from "#server/store/documents.ts";
import type { Member } from "#server/store/team.ts";
import { keepTemplate, listTemplates } from "#server/store/templates.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { aDesigner, answered, routeArgs } from "../testing/route.ts";
import { action as onCampaigns } from "./campaigns.tsx";
import { action, loader } from "./templates.tsx";

let services: TestServices;
let member: Member;
let campaign: { readonly id: string; readonly documentId: string };
beforeEach(async () => {
  services = await startTestServices();
  ({ member, campaign } = await smallCampaign(services, ["one@example.org"]));
});
afterEach(() => services.close());
const sql = () => services.database.sql;
const save = (form: Record<string, string>) =>
  onCampaigns(
    routeArgs(services, member, {
      form: { do: "template", campaign: campaign.id, category: "letters", name: "Ours", ...form },
    }),
  );

it("an email is saved as a template that stays as it was", async () => {
  const saved = (await save({ about: "For our friends." })) as Response;
  expect(saved.headers.get("location")).toBe("/templates?search=Ours");
  const [template] = await listTemplates(sql());
  expect(template).toMatchObject({ about: "For our friends.", category: "letters" });
  const [own, its] = await Promise.all(
    [campaign.documentId, template!.documentId].map((id) => loadDocument(sql(), id)),
  );
  expect(its!.doc).toEqual(own!.doc);
  expect(template!.documentId).not.toBe(campaign.documentId);
});

it.each([
  ["without a name", { name: " " }, 400],
  ["in a category that is none", { category: "elsewhere" }, 400],
  ["from a campaign that is gone", { campaign: "nobody" }, 404],
])("is not saved %s", async (_, form, status) => {
  expect(answered(await save(form)).status).toBe(status);
  expect(await listTemplates(sql())).toEqual([]);
});

it("a template is taken out, and put back with those who keep it at hand", async () => {
  await shipTemplates(services.database, services.clock.now());
  const other = await aDesigner(services);
  const { templates } = await loader(routeArgs(services, member, { path: "/templates" }));
  const { id } = templates[2]!;
  await keepTemplate(sql(), other.id, id, true);
  const remove = (which: string) =>
    action(routeArgs(services, member, { path: "/templates", form: { remove: which } }));
  const answer = (await remove(id)) as Response;
  const removed = new URL(answer.headers.get("location")!, "http://x").searchParams.get("removed")!;
  expect(await labelOfRemoved(sql(), removed)).toBe("The template “One announcement”");
  expect(await listTemplates(sql())).toHaveLength(11);
  expect(answered(await remove(id)).status).toBe(404);
  await services.database.tx((tx) => putBack(tx, removed));
  expect((await listTemplates(sql(), { keptBy: other.id })).map((one) => one.id)).toEqual([id]);
});
