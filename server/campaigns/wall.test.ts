import { afterEach, beforeEach, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { FAMILIES, familyOf } from "#core/clients/index.ts";
import type { Rule } from "#core/rules/index.ts";
import { doc, paragraph, tag } from "#core/text/index.ts";
import { addSegment } from "../store/audience.ts";
import { createCampaign, getCampaign } from "../store/campaigns.ts";
import { changeValues } from "../store/contacts.ts";
import { loadDocument } from "../store/documents.ts";
import { addFields } from "../store/fields.ts";
import { markLooked, unmarkLooked } from "../store/looked.ts";
import { campaignOf } from "../testing/personal.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { examine } from "./findings.ts";
import { sightsOf } from "./sights.ts";
import { groupsWithin, wallOf } from "./wall.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

const named: Rule = { type: "field", field: "first_name", op: "hasValue", argument: null };
const make = () =>
  campaignOf(services, (id) => [
    createBlock("text", id, {
      words: doc(paragraph("For ", tag("contact:first_name", "you"))),
      seenBy: named,
      chain: "c",
    }),
    createBlock("text", id, { words: doc("For the others"), chain: "c" }),
  ]);

it("has every version that somebody gets, with what differs, and what has been looked at", async () => {
  const { sql } = services.database;
  const { campaign, contacts, member } = await make();
  const wall = async () => wallOf(services, campaign, (await examine(services, campaign))!);
  const { versions, parts, readers, smallest, unseen } = await wall();
  expect(versions.map(({ people, lang }) => [people, lang])).toEqual([
    [2, "en-GB"],
    [1, "en-GB"],
  ]);
  expect(readers).toBe(3);
  expect(versions[0]!.differs).toEqual([]);
  expect(parts.map(({ name }) => name)).toEqual(["Text: “For ”", "Text: “For the others”"]);
  expect(versions[1]!.differs).toEqual([-1, 2]);
  expect(smallest).toHaveLength(2);
  expect(unseen).toEqual(smallest);

  const { sights } = await sightsOf(services, campaign, contacts, familyOf("sent"));
  const states = new Map(sights.map(({ contact, state }) => [contact, state]));
  // Whoever reads a version sees the same state of it, whatever their values.
  expect(new Set(states.values()).size).toBe(2);
  const seen = states.get(versions[1]!.sample)!;
  await markLooked(sql, campaign.id, [seen], member.id, services.clock.now());
  expect((await wall()).unseen).toEqual([versions[0]!.key]);
  const looked = await sightsOf(services, campaign, contacts, familyOf("sent"));
  expect(looked.sights.filter((one) => one.looked).map(({ contact }) => contact)).toEqual([
    versions[1]!.sample,
  ]);
  await unmarkLooked(sql, campaign.id, [seen]);
  expect((await wall()).unseen).toHaveLength(2);
});

it("counts those of a segment alone, and nobody of one that is gone", async () => {
  const { sql } = services.database;
  const { campaign } = await make();
  const examined = (await examine(services, campaign))!;
  const segment = await addSegment(sql, "Named", named, services.clock.now());
  const groups = await groupsWithin(services, campaign, examined, segment);
  const { versions } = await wallOf(services, campaign, examined, { groups });
  expect(versions.map(({ people }) => people)).toEqual([2]);
  expect(await groupsWithin(services, campaign, examined, "gone")).toEqual([]);
});

it("is empty where nobody gets anything", async () => {
  const { campaign } = await make();
  const { sql } = services.database;
  const { doc: email } = (await loadDocument(sql, campaign.documentId))!;
  const id = await createCampaign(sql, "For nobody", email, services.clock.now());
  const none = (await getCampaign(sql, id))!;
  const { versions, unseen } = await wallOf(services, none, (await examine(services, none))!);
  expect([versions, unseen]).toEqual([[], []]);
});

it("shows what each reader sees in each family; names of people with marks in them harm nothing", async () => {
  const { campaign, contacts } = await make();
  const { sql } = services.database;
  await changeValues(sql, contacts[0]!, { first_name: `<b>A</b>"&'{{ x }}` });
  for (const family of FAMILIES) {
    const { sights } = await sightsOf(services, campaign, [contacts[0]!, 0, 999_999], family);
    expect(sights.map(({ contact }) => contact).sort()).toEqual([0, contacts[0]]);
    const mine = sights.find(({ contact }) => contact === contacts[0])!;
    if (family.words) {
      expect(mine.words!.map(({ words }) => words)).toContain(`For <b>A</b>"&'{{ x }}`);
    } else {
      expect(mine.html).toContain("For &lt;b&gt;A");
      expect(mine.bytes).toBeGreaterThan(1_000);
    }
  }
});

it("has a version for each language that somebody reads", async () => {
  const { campaign, contacts } = await make();
  const { sql } = services.database;
  await addFields(sql, [{ id: "language", label: "Language", type: "text" }]);
  await changeValues(sql, contacts[0]!, { language: "French" });
  await changeValues(sql, contacts[1]!, { language: "Klingon" });
  const stored = (await loadDocument(sql, campaign.documentId))!;
  const root = { ...stored.doc.root };
  root.props = { ...root.props, others: ["fr"], languageField: "language" };
  const id = await createCampaign(
    sql,
    "Two tongues",
    { ...stored.doc, root },
    services.clock.now(),
    campaign.audience,
  );
  const both = (await getCampaign(sql, id))!;
  const examined = (await examine(services, both))!;
  const { versions } = await wallOf(services, both, examined);
  expect(versions.map(({ lang, people }) => [lang, people]).sort()).toEqual([
    ["en-GB", 1],
    ["en-GB", 1],
    ["fr", 1],
  ]);
  const { sights } = await sightsOf(services, both, [contacts[0]!], familyOf("sent"));
  expect(sights[0]!.html).toContain('lang="fr"');
});
