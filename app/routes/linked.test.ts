/** A linked block changed: in every email that is not sent, for whoever looks, whatever breaks on the way. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { linkedTo } from "#core/blocks/linked.ts";
import { type DocNode, type EmailDocument, walk } from "#core/document/index.ts";
import { doc } from "#core/text/index.ts";
import { bringCampaignUpToDate, spread } from "#server/campaigns/linking.ts";
import { createCampaign, getCampaign } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { getSaved, linkedPlaces, save } from "#server/store/saved.ts";
import type { Member } from "#server/store/team.ts";
import { createTemplate } from "#server/store/templates.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { aDesigner, routeArgs } from "../testing/route.ts";
import { action as edits } from "./api.edits.ts";
import { action as change, loader as places } from "./api.saved-places.ts";
import { loader as compose } from "./campaign.compose.tsx";

let services: TestServices;
let member: Member;
beforeAll(async () => {
  services = await startTestServices();
  member = await aDesigner(services);
});
afterAll(() => services.close());

let n = 0;
const id = () => `l${++n}`;
const text = (words: string) => createBlock("text", id, { words: doc(words) });
const saving = async (words: string) =>
  (await save(services.database.sql, words, [text(words)], services.clock.now()))!;
/** An email with something of its own above what is linked. */
async function linkedEmail(saved: string): Promise<EmailDocument> {
  const { nodes } = (await getSaved(services.database.sql, saved))!;
  const linked = linkedTo(saved, { ...nodes[0]!, id: id() });
  return createDocument([createBand(id, [createColumn(id, [text("Of its own"), linked])])]);
}
const campaign = async (name: string, saved: string) => {
  const { database, clock } = services;
  const email = await linkedEmail(saved);
  return (await getCampaign(
    database.sql,
    await createCampaign(database.sql, name, email, clock.now()),
  ))!;
};
const said = async (document: string) =>
  JSON.stringify((await loadDocument(services.database.sql, document))!.doc);
const changed = async (saved: string, node: DocNode | unknown) => {
  const body = JSON.stringify({ node });
  const answer = await change(routeArgs(services, member, { body }, { saved }) as never);
  return { status: answer.status, ...((await answer.json()) as { message?: string }) };
};

describe("a linked block", () => {
  it("is changed in campaigns and templates at once, with a step that says so", async () => {
    const { database, clock } = services;
    const saved = await saving("Opening hours");
    const first = await campaign("One", saved);
    const second = await campaign("Two", saved);
    const template = await createTemplate(
      database.sql,
      { name: "T", about: "", category: "news", doc: await linkedEmail(saved) },
      clock.now(),
    );
    const listed = await places(routeArgs(services, member, {}, { saved }) as never);
    expect(await listed.json()).toMatchObject({
      name: "Opening hours",
      places: [{ name: "One" }, { name: "T", kind: "template" }, { name: "Two" }],
    });
    expect((await changed(saved, text("Open until six"))).status).toBe(200);
    // Whoever opens one before its turn sees it already.
    const open = await compose(routeArgs(services, member, {}, { campaign: first.id }) as never);
    expect(JSON.stringify(open.doc)).toContain("Open until six");
    await spread(services, saved, member.id);
    for (const document of [first.documentId, second.documentId]) {
      const after = await said(document);
      expect(after).toContain("Open until six");
      expect(after).not.toContain("Opening hours");
      expect(after).toContain("Of its own");
    }
    const [place] = (await linkedPlaces(database.sql, saved)).filter(({ name }) => name === "T");
    expect(await said(place!.document)).toContain("Open until six");
    expect(template).toBeTruthy();
    // Once more changes nothing.
    const { seq } = (await loadDocument(database.sql, second.documentId))!;
    await spread(services, saved, member.id);
    expect((await loadDocument(database.sql, second.documentId))!.seq).toBe(seq);
  });
  it("is left alone in what is scheduled or sent", async () => {
    const { sql } = services.database;
    const saved = await saving("A promise");
    const one = await campaign("Gone", saved);
    const now = services.clock.now();
    await sql`insert into launches (id, campaign_id, state, send_at, zone, document, audience, segments,
        surroundings, links, member_id, created_at)
      select 'launch1', ${one.id}, 'scheduled', ${now}, 'UTC', body, '{}'::jsonb, '[]'::jsonb, '{}'::jsonb,
        '[]'::jsonb, ${member.id}, ${now}
      from documents where id = ${one.documentId}`;
    await changed(saved, text("Another promise"));
    await spread(services, saved, member.id);
    const scheduled = (await getCampaign(sql, one.id))!;
    expect(scheduled.state).toBe("scheduled");
    await bringCampaignUpToDate(services, scheduled, member.id);
    expect(await said(one.documentId)).toContain("A promise");
    await sql`update launches set state = 'done' where id = 'launch1'`;
    expect(await linkedPlaces(sql, saved)).toEqual([]);
    await spread(services, saved, member.id);
    expect(await said(one.documentId)).toContain("A promise");
  });
  it("is not changed where it stands, by whoever sends what", async () => {
    const saved = await saving("As it is");
    const one = await campaign("Held to", saved);
    const { doc: email, seq } = (await loadDocument(services.database.sql, one.documentId))!;
    const linked = [...walk(email.root)].find(({ props }) => props.linked)!;
    const edit = { type: "set", node: linked.id, path: ["words"], value: doc("Otherwise") };
    const body = JSON.stringify({
      ...{ tab: "some-tab", base: seq },
      changes: [{ id: "change-number-1", edit, does: "do", step: "step-number-1", of: null }],
    });
    const answer = await edits(
      routeArgs(services, member, { body }, { campaign: one.id }) as never,
    );
    expect(answer.status).toBe(409);
    expect(((await answer.json()) as { message: string }).message).toContain("it is linked");
    expect(await said(one.documentId)).not.toContain("Otherwise");
  });
  it("refuses what is no block of its kind, and says where it is gone", async () => {
    const saved = await saving("A text");
    expect((await changed(saved, { ...text("x"), props: {} })).status).toBe(400);
    expect((await changed(saved, "nothing")).status).toBe(400);
    const band = createBand(id, [createColumn(id, [text("x")])]);
    expect((await changed(saved, band)).status).toBe(404);
    expect((await changed("gone", text("x"))).status).toBe(404);
    expect((await changed("ready:footer-rule", text("x"))).status).toBe(404);
    const args = routeArgs(services, member, {}, { saved: "gone" });
    expect((await places(args as never)).status).toBe(404);
    // What is saved is linked to nothing itself.
    await changed(saved, linkedTo("other", text("Plain")));
    expect(JSON.stringify((await getSaved(services.database.sql, saved))!.nodes)).not.toContain(
      "linked",
    );
  });
});
