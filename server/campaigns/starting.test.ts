import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { EmailProps } from "#core/blocks/layout.ts";
import { SHIPPED_THEMES } from "#core/theme/shipped.ts";
import { attach, attachmentsOf } from "../store/attachments.ts";
import { takeOut } from "../store/bin.ts";
import { createCampaign, getCampaign } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import { addFields } from "../store/fields.ts";
import { addMember } from "../store/team.ts";
import {
  keepTemplate,
  keptAmong,
  listTemplates,
  startedCounts,
  templateCounts,
} from "../store/templates.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { shipTemplates } from "./shipped.ts";
import { findStart, proposedName, startCampaign, startSchema } from "./starting.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
  await shipTemplates(services.database, services.clock.now());
});
afterEach(() => services.close());
const sql = () => services.database.sql;
const now = () => services.clock.now();

/** The email of what a campaign started from, in a theme. */
async function started(from: string, theme = "own") {
  const start = from === "blank" ? null : await findStart(sql(), from);
  if (start && "trouble" in start) throw new Error(start.trouble);
  const id = await startCampaign(sql(), { name: "New", start, theme }, now());
  const campaign = (await getCampaign(sql(), id))!;
  const { doc } = (await loadDocument(sql(), campaign.documentId))!;
  return { id, campaign, doc, props: doc.root.props as unknown as EmailProps };
}

it("starts from a template in another theme, and leaves the template as it was", async () => {
  const [template] = await listTemplates(sql(), { search: "plain letter" });
  const from = `template:${template!.id}`;
  // Where nobody's first name is known, the default value stands in its place.
  const said = JSON.stringify((await started(from)).doc);
  expect(said).not.toContain("contact:first_name");
  expect(said).toContain("contact:email");
  await addFields(sql(), [{ id: "first_name", label: "First name", type: "text" }]);
  const { doc, props } = await started(from, "harbour");
  expect(props.theme).toEqual(SHIPPED_THEMES.harbour);
  const own = (await findStart(sql(), `template:${template!.id}`))! as { doc: typeof doc };
  expect(doc.root.children).toEqual(own.doc.root.children);
  expect((own.doc.root.props as unknown as EmailProps).theme).not.toEqual(props.theme);
  expect((await started("blank", "brand")).props.theme.name).toBe("Calm paper");
  // Those two are known to come from it; a deleted template is nobody's any more.
  expect((await startedCounts(sql(), [template!.id])).get(template!.id)).toBe(2);
  await services.database.tx((tx) => takeOut(tx, "templates", template!.id, "x", now()));
  expect((await startedCounts(sql(), [template!.id])).size).toBe(0);
});

it("starts from an earlier email with its readers; one that is gone is told", async () => {
  const { doc } = await started("blank");
  const audience = { include: [{ kind: "list" as const, id: "abc" }], exclude: [] };
  const earlier = await createCampaign(sql(), "Earlier", doc, now(), audience);
  const content = new TextEncoder().encode("Where we meet");
  await attach(sql(), earlier, { name: "way.txt", type: "text/plain", content }, now());
  const begun = await started(`campaign:${earlier}`);
  expect(begun.campaign.audience).toEqual(audience);
  expect((await attachmentsOf(sql(), begun.id)).map(({ name }) => name)).toEqual(["way.txt"]);
  expect(await findStart(sql(), "campaign:nobody")).toBeNull();
  expect(await findStart(sql(), "template:nobody")).toBeNull();
  for (const wrong of ["", "template:", "campaign:a b", "elsewhere:x", "template:x\n"]) {
    expect(startSchema.safeParse(wrong).success).toBe(false);
  }
});

it("keeps templates at hand for one person, and layouts in a list of their own", async () => {
  const [one, other] = await Promise.all(
    ["a@x.example", "b@x.example"].map((email) =>
      addMember(sql(), { name: email, email, role: "designer" }, now()),
    ),
  );
  const all = await listTemplates(sql());
  expect(all).toHaveLength(12);
  expect(all[0]!.name).toBe("Calm newsletter");
  expect(await listTemplates(sql(), { category: "bare" })).toHaveLength(3);
  // Whatever is kept is found again, and whatever there is can be looked through.
  expect(await listTemplates(sql(), { all: true })).toHaveLength(15);
  const [layout] = await listTemplates(sql(), { category: "bare" });
  await keepTemplate(sql(), other!.id, layout!.id, true);
  expect(await listTemplates(sql(), { keptBy: other!.id })).toEqual([layout]);
  const kept = all[3]!.id;
  for (let i = 0; i < 2; i++) expect(await keepTemplate(sql(), one!.id, kept, true)).toBe(true);
  expect(await keepTemplate(sql(), one!.id, "nobody", true)).toBe(false);
  expect((await listTemplates(sql(), { keptBy: one!.id })).map(({ id }) => id)).toEqual([kept]);
  expect((await templateCounts(sql(), one!.id)).kept).toBe(1);
  expect(await keptAmong(sql(), other!.id, [kept])).toEqual(new Set());
  await keepTemplate(sql(), one!.id, kept, false);
  expect(await listTemplates(sql(), { keptBy: one!.id })).toEqual([]);
});

describe("a name that is proposed", () => {
  const date = new Date("2026-11-30T23:30:00Z");
  it.each([
    ["Shop shelf", "en-GB", "Europe/London", "Shop shelf, November 2026"],
    ["Shop shelf", "en-GB", "Europe/Paris", "Shop shelf, December 2026"],
    ["March at the garden", "en-GB", "UTC", "November at the garden"],
    ["Lettre de mars", "fr", "UTC", "Lettre de novembre"],
    ["Marching on", "en-GB", "UTC", "Marching on, November 2026"],
  ])("of “%s” in %s and %s is “%s”", (name, language, zone, proposed) => {
    expect(proposedName(name, date, { language, zone })).toBe(proposed);
  });
});
