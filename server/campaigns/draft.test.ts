import { afterEach, beforeEach, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { find } from "#core/document/index.ts";
import { line } from "#core/text/index.ts";
import { attach, attachmentsOf } from "../store/attachments.ts";
import { addList } from "../store/audience.ts";
import { getCampaign, setAudience } from "../store/campaigns.ts";
import { addContacts } from "../store/contacts.ts";
import { appendEdits, loadDocument } from "../store/documents.ts";
import { getLaunch } from "../store/launches/freeze.ts";
import { beginLaunch } from "../store/launches/start.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { discardDraft, draftState, keepApart, readersOf, replaceFrozen } from "./draft.ts";
import { cancelSchedule, scheduleCampaign } from "./scheduling.ts";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
const ZONE = "Europe/London";
beforeEach(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
  const at = new Date(services.clock.now().getTime() + 86_400_000);
  await scheduleCampaign(services, made.campaign, at, ZONE, made.member.id);
});
afterEach(() => services.close());

const campaign = async () => (await getCampaign(services.database.sql, made.campaign.id))!;
const launch = async () => (await getLaunch(services.database.sql, (await campaign()).launchId!))!;
const state = async () => draftState(services.database.sql, await campaign());
const author = () => ({ member: made.member.id, at: services.clock.now() });
let n = 0;
async function label(words: string) {
  const { sql } = services.database;
  const { seq } = (await loadDocument(sql, made.campaign.documentId))!;
  const id = `draft-edit-${++n}`;
  const changes = [ofLabel(id, words)];
  await services.database.tx((tx) =>
    appendEdits(tx, made.campaign.documentId, { tab: "tab-1", base: seq, changes }, author()),
  );
}
const ofLabel = (id: string, words: string) => {
  const edit = { type: "set", node: "n2", path: ["label"], value: line(words) } as never;
  return { id, edit, does: "do" as const, step: id, of: null };
};
const labelOf = (doc: Parameters<typeof find>[0]) =>
  JSON.stringify(find(doc, "n2")!.node.props.label);

it("counts what is not in what goes out, and knows when nothing is", async () => {
  expect(await state()).toEqual({ edits: 0, audience: false, seq: 0 });
  await label("Come");
  await label("Come soon");
  expect(await state()).toMatchObject({ edits: 2, audience: false });
  await label("Visit");
  // As it was when it was frozen: whatever the way there.
  expect(await state()).toMatchObject({ edits: 0 });
});

it("takes the email and the readers as they are now, with the day, hour and zone kept", async () => {
  const { sql } = services.database;
  const before = await launch();
  await label("Come");
  const createdAt = services.clock.now();
  const [other] = await addContacts(sql, [{ email: "three@example.org", values: {}, createdAt }]);
  const list = await addList(sql, "Others", [other!], services.clock.now());
  await setAudience(
    sql,
    made.campaign.id,
    { include: [{ kind: "list", id: list }], exclude: [] },
    services.clock.now(),
  );
  expect(await state()).toMatchObject({ edits: 1, audience: true });
  // Until then what counts is what is frozen.
  expect((await readersOf(services, await campaign())).readers).toBe(2);
  await replaceFrozen(services, await campaign(), made.member.id);
  const after = await launch();
  expect(after.id).not.toBe(before.id);
  expect([after.sendAt, after.zone]).toEqual([before.sendAt, before.zone]);
  expect(labelOf(after.doc)).toContain("Come");
  expect((await readersOf(services, await campaign())).readers).toBe(1);
  expect(await state()).toMatchObject({ edits: 0, audience: false });
  expect((await getLaunch(sql, before.id))!.state).toBe("cancelled");
});

it("gives the draft up as a step that can be taken back", async () => {
  const { sql } = services.database;
  await label("Come");
  await setAudience(sql, made.campaign.id, { include: [], exclude: [] }, services.clock.now());
  await discardDraft(services, await campaign(), author());
  expect(await state()).toMatchObject({ edits: 0, audience: false });
  const { doc, seq } = (await loadDocument(sql, made.campaign.documentId))!;
  expect(labelOf(doc)).toContain("Visit");
  expect(seq).toBe(2);
});

it("does neither once the sending has begun", async () => {
  await label("Come");
  const before = await campaign();
  await beginLaunch(services.database.sql, (await launch()).id, services.clock.now());
  expect(await state()).toBeNull();
  await expect(replaceFrozen(services, before, made.member.id)).rejects.toThrow("too late");
  await expect(replaceFrozen(services, await campaign(), made.member.id)).rejects.toThrow(
    "not scheduled",
  );
  await expect(discardDraft(services, await campaign(), author())).rejects.toThrow("not scheduled");
  expect((await launch()).state).toBe("sending");
});

it("keeps what was still to be saved apart, with the files; or nothing of it, where it fits nowhere", async () => {
  const { sql } = services.database;
  const { now } = services.clock;
  const content = new TextEncoder().encode("From the gate to the left.");
  await attach(sql, made.campaign.id, { name: "way.txt", type: "text/plain", content }, now());
  await beginLaunch(sql, (await launch()).id, now());
  const id = await keepApart(services, await campaign(), [ofLabel("left-1", "Come")], author());
  const apart = (await getCampaign(sql, id))!;
  expect(apart.name).toBe(`${made.campaign.name}, what was left`);
  expect(labelOf((await loadDocument(sql, apart.documentId))!.doc)).toContain("Come");
  expect(labelOf((await loadDocument(sql, made.campaign.documentId))!.doc)).toContain("Visit");
  const [file] = await attachmentsOf(sql, id);
  expect(file).toMatchObject({ name: "way.txt", bytes: content.length });
  expect(file!.id).not.toBe((await attachmentsOf(sql, made.campaign.id))[0]!.id);

  const campaigns = async () => (await sql`select 1 from campaigns`).length;
  const before = await campaigns();
  const edit = { type: "set", node: "gone", path: ["label"], value: line("x") } as never;
  const unfit = [{ ...ofLabel("left-2", "x"), edit }];
  await expect(keepApart(services, await campaign(), unfit, author())).rejects.toThrow();
  expect(await campaigns()).toBe(before);
});

it("freezes the pictures of translations and of derived tags, so that nobody gets an empty place", async () => {
  const { sql } = services.database;
  const pictures = ["d", "e"].map((letter) => letter.repeat(64));
  for (const id of pictures) {
    await sql`insert into pictures (id, file, name, width, height, bytes, created_at)
      values (${id}, ${`${id}.png`}, 'x', 10, 10, 10, ${services.clock.now()})`;
  }
  const [own, french] = pictures as [string, string];
  await cancelSchedule(services, made.campaign.id);
  const { seq } = (await loadDocument(sql, made.campaign.documentId))!;
  const node = {
    ...createBlock("image", () => "pic", { picture: own, alt: line("A brook") }),
  };
  const tr = { fr: { picture: { of: "x", value: french } } };
  const edit = {
    type: "insert" as const,
    parent: "n4",
    after: null,
    node: { ...node, props: { ...node.props, tr } },
  };
  const changes = [
    { id: "with-picture", edit, does: "do" as const, step: "with-picture", of: null },
  ];
  await services.database.tx((tx) =>
    appendEdits(tx, made.campaign.documentId, { tab: "tab-1", base: seq, changes }, author()),
  );
  const at = new Date(services.clock.now().getTime() + 86_400_000);
  await scheduleCampaign(services, await campaign(), at, ZONE, made.member.id);
  expect([...(await launch()).surroundings.pictures.keys()].sort()).toEqual(pictures);
});
