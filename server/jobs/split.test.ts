/** A/B tests on their way: drawn once, tried, decided, and the rest sent; whatever stops it in between. */
import { afterEach, beforeEach, expect, it } from "vitest";
import type { EmailProps } from "#core/blocks/layout.ts";
import { AT_ONCE } from "#core/schedule/index.ts";
import { NO_SPLIT, type SplitPlan } from "#core/splits/index.ts";
import { doc, line, paragraph, wordsOf } from "#core/text/index.ts";
import { chooseVariant, goOn, ScheduleError, scheduleCampaign } from "../campaigns/scheduling.ts";
import { splitResultOf } from "../campaigns/split-result.ts";
import { giveContent, planSplit } from "../campaigns/splitting.ts";
import { getCampaign, listCampaigns } from "../store/campaigns.ts";
import { appendEdits, loadDocument } from "../store/documents.ts";
import { getLaunch } from "../store/launches/freeze.ts";
import { getRecipient, progressOf } from "../store/launches/progress.ts";
import { messageSource, pageOfMessages } from "../store/outbox.ts";
import { recordEvent } from "../store/reading.ts";
import { measuresOf } from "../store/results.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { runLaunch } from "./sender.ts";

let services: TestServices;
let campaign: string;
let member: string;
const HOUR = 3_600_000;
const PEOPLE = 40;
beforeEach(async () => {
  services = await startTestServices();
  const made = await smallCampaign(
    services,
    Array.from({ length: PEOPLE }, (_, i) => `r${i}@x.example`),
  );
  campaign = made.campaign.id;
  member = made.member.id;
});
afterEach(() => services.close());

const sql = () => services.database.sql;
const B = { subject: line("Another"), preview: null, fromName: null, content: null };
const plan = (to: Partial<SplitPlan> = {}): SplitPlan => ({
  ...NO_SPLIT,
  variants: [B],
  share: 50,
  ...to,
});

async function scheduled(
  to: SplitPlan,
  pace?: Parameters<typeof scheduleCampaign>[6],
): Promise<string> {
  await planSplit(services, (await getCampaign(sql(), campaign))!, to);
  const now = (await getCampaign(sql(), campaign))!;
  await scheduleCampaign(services, now, null, "Europe/London", member, undefined, pace);
  return (await getCampaign(sql(), campaign))!.launchId!;
}

const sent = async () => {
  const { messages } = await pageOfMessages(sql(), "", 1);
  const all = await sql()<{ subject: string; to: string }>`
    select subject, to_address as "to" from outbox_messages order by id`;
  expect(messages.length).toBeGreaterThan(0);
  return all;
};
const tested = (launch: string) =>
  sql()<{ id: number; variant: number }>`
    select id, variant from recipients where launch_id = ${launch} and tested order by id`;
const stateOf = async (launch: string) => (await getLaunch(sql(), launch))!.state;

/** Everybody a variant was tried on, or so many of them, opens it. */
async function opens(launch: string, variant: number, most = PEOPLE): Promise<void> {
  services.clock.advance(60_000);
  const those = (await tested(launch)).filter((one) => one.variant === variant).slice(0, most);
  for (const { id } of those) {
    const recipient = (await getRecipient(sql(), id))!;
    await recordEvent(sql(), { kind: "opened", recipient, at: services.clock.now() });
  }
}

it("tries both on equally many, waits, and sends the one that is surely better to the rest", async () => {
  const launch = await scheduled(plan());
  const next = await runLaunch(services, launch);
  const first = await sent();
  expect(first).toHaveLength(20);
  expect(first.filter(({ subject }) => subject === "Another")).toHaveLength(10);
  expect(await progressOf(sql(), launch)).toMatchObject({ accepted: 20, rest: 20 });
  expect(next!.getTime() - services.clock.now().getTime()).toBe(4 * HOUR);
  // Asked before its time it does nothing.
  await runLaunch(services, launch);
  expect(await sent()).toHaveLength(20);

  await opens(launch, 1);
  await opens(launch, 0, 1);
  services.clock.set(next!);
  const again = await runLaunch(services, launch);
  expect(again).toEqual(services.clock.now());
  expect(await runLaunch(services, launch)).toBeNull();
  const all = await sent();
  expect(new Set(all.map(({ to }) => to)).size).toBe(PEOPLE);
  expect(all).toHaveLength(PEOPLE);
  expect(all.slice(20).every(({ subject }) => subject === "Another")).toBe(true);
  expect(await stateOf(launch)).toBe("done");
  const result = (await splitResultOf(sql(), (await getLaunch(sql(), launch))!, 7))!;
  expect(result.winner).toBe(1);
  expect(result.decision!.by).toBeNull();
  expect(result.variants.map(({ standings }) => standings.opened.hits)).toEqual([1, 10]);
});

it("is too close to call: waits for a person, whose word counts once", async () => {
  const launch = await scheduled(plan({ by: "clicked" }));
  services.clock.set((await runLaunch(services, launch))!);
  expect(await runLaunch(services, launch)).toBeNull();
  expect(await stateOf(launch)).toBe("paused");
  expect((await getCampaign(sql(), campaign))!.paused).toBe("split");
  // Letting it go on without a word looks again, and waits again.
  await goOn(services, campaign);
  await runLaunch(services, launch);
  expect(await stateOf(launch)).toBe("paused");
  await expect(chooseVariant(services, campaign, 2, member)).rejects.toThrow(ScheduleError);
  await chooseVariant(services, campaign, 1, member);
  await expect(chooseVariant(services, campaign, 0, member)).rejects.toThrow("decided already");
  expect(await runLaunch(services, launch)).toBeNull();
  expect((await sent()).filter(({ subject }) => subject === "Another")).toHaveLength(30);
  const result = (await splitResultOf(sql(), (await getLaunch(sql(), launch))!, 7))!;
  expect(result.decision!.by).toBe("Ines");
});

it("sends the leader where that is set, and a person may decide before the time", async () => {
  const launch = await scheduled(plan({ otherwise: "leader" }));
  const next = (await runLaunch(services, launch))!;
  await opens(launch, 0, 2);
  services.clock.set(next);
  await runLaunch(services, launch);
  await runLaunch(services, launch);
  expect((await sent()).filter(({ subject }) => subject === "Another")).toHaveLength(10);
});

it("a person decides while it is still tried", async () => {
  const launch = await scheduled(plan({ hours: null }));
  await runLaunch(services, launch);
  expect(await stateOf(launch)).toBe("paused");
  await chooseVariant(services, campaign, 0, member);
  await runLaunch(services, launch);
  expect(await stateOf(launch)).toBe("done");
  expect(await sent()).toHaveLength(PEOPLE);
});

it("draws the same readers again where it is stopped in the middle, and nobody gets two", async () => {
  const launch = await scheduled(
    plan({ share: 80, variants: [B, { ...B, subject: line("Third") }] }),
  );
  await runLaunch(services, launch);
  const drawn = await tested(launch);
  expect(drawn).toHaveLength(30);
  // As if it had been stopped after some of them were written down.
  await sql()`update launches set drawn_at = null where id = ${launch}`;
  await sql()`update recipients set state = 'rest', tested = false, variant = 0
    where launch_id = ${launch} and id % 2 = 0`;
  await sql()`delete from outbox_messages`;
  await runLaunch(services, launch);
  expect(await tested(launch)).toEqual(drawn);
  expect((await sent()).length).toBeLessThan(30);
});

it("gives the control group nothing, and tells what the email brought", async () => {
  const launch = await scheduled({ ...NO_SPLIT, control: 25 });
  expect(await runLaunch(services, launch)).toBeNull();
  expect(await sent()).toHaveLength(30);
  expect((await measuresOf(sql(), launch)).readers).toBe(30);
  const at = services.clock.now();
  await sql()`insert into events (kind, at, contact_id) select 'bought', ${at}, contact_id
    from recipients where launch_id = ${launch} and state = 'accepted' limit 24`;
  const { control, variants } = (await splitResultOf(sql(), (await getLaunch(sql(), launch))!, 7))!;
  expect(variants).toEqual([]);
  expect(control).toMatchObject({
    sent: { readers: 30, hits: 24 },
    control: { readers: 10, hits: 0 },
  });
  expect(control!.low).toBeGreaterThan(0.4);
});

it("a variant has an email of its own, in no list, with the same readers; and is frozen with it", async () => {
  const main = (await getCampaign(sql(), campaign))!;
  await planSplit(services, main, plan());
  const id = await giveContent(services, (await getCampaign(sql(), campaign))!, 1);
  expect((await listCampaigns(sql())).map((one) => one.id)).toEqual([campaign]);
  const content = (await getCampaign(sql(), id))!;
  expect(content.audience).toEqual(main.audience);
  const stored = (await loadDocument(sql(), content.documentId))!;
  expect(wordsOf((stored.doc.root.props as unknown as EmailProps).envelope.subject)).toBe(
    "Another",
  );
  const text = stored.doc.root.children[0]!.children[0]!.children[0]!;
  const value = doc(paragraph("Quite other words."));
  const edit = { type: "set", node: text.id, path: ["words"], value } as never;
  const changes = [{ id: "e1", edit, does: "do" as const, step: "e1", of: null }];
  const author = { member, at: services.clock.now() };
  await services.database.tx((tx) =>
    appendEdits(tx, content.documentId, { tab: "t", base: stored.seq, changes }, author),
  );
  const split = (await getCampaign(sql(), campaign))!.split!;
  const launch = await scheduled(split);
  await runLaunch(services, launch);
  const sources = await sql()<{ subject: string; variant: number; id: number }>`
    select o.id, o.subject, r.variant from outbox_messages o join recipients r on o.to_address = r.email
    where r.launch_id = ${launch}`;
  expect(
    sources.filter(({ variant }) => variant === 1).every(({ subject }) => subject === "Another"),
  ).toBe(true);
  const own = sources.filter(({ variant }) => variant === 1);
  expect(own).toHaveLength(10);
  const text1 = (await messageSource(sql(), own[0]!.id))!.toString();
  expect(text1).toContain("Quite other words.");
  const main0 = sources.find(({ variant }) => variant === 0)!;
  expect((await messageSource(sql(), main0.id))!.toString()).toContain("welcome.");
});

it("refuses what cannot be tried, with the variant's name", async () => {
  await expect(scheduled(plan({ variants: [{ ...B, subject: null }] }))).rejects.toThrow(
    "Variant B is the same as A",
  );
  await expect(scheduled(plan({ share: 2 }))).rejects.toThrow("too few readers");
  await expect(scheduled(plan({ variants: [{ ...B, content: "nobody" }] }))).rejects.toThrow(
    "gone",
  );
  const launch = await scheduled(plan());
  const now = (await getCampaign(sql(), campaign))!;
  expect(now.launchId).toBe(launch);
  await expect(planSplit(services, now, plan())).rejects.toThrow("on its way");
});

it("writes over nothing that somebody else has planned meanwhile", async () => {
  const now = async () => (await getCampaign(sql(), campaign))!;
  await planSplit(services, await now(), plan(), NO_SPLIT);
  const theirs = plan({ share: 30 });
  await planSplit(services, await now(), theirs, plan());
  await expect(planSplit(services, await now(), plan({ share: 60 }), plan())).rejects.toThrow(
    "Somebody else has changed",
  );
  // The same once more (over a cut line) is no change.
  await planSplit(services, await now(), theirs, plan());
  expect((await now()).split).toEqual(theirs);
});

it("lets all of the rest go, each once, where it is stopped in the middle of that", async () => {
  const launch = await scheduled(plan({ hours: null }));
  await runLaunch(services, launch);
  await chooseVariant(services, campaign, 1, member);
  // As if it had been stopped after some of them were released, and some of those sent.
  await sql()`update recipients set state = 'waiting', variant = 1 where launch_id = ${launch}
    and state = 'rest' and id % 3 = 0`;
  await runLaunch(services, launch);
  const all = await sent();
  expect(all).toHaveLength(PEOPLE);
  expect(new Set(all.map(({ to }) => to)).size).toBe(PEOPLE);
});

it("in waves: the test first, then the rest", async () => {
  const launch = await scheduled(plan({ hours: 1 }), { ...AT_ONCE, own: null, perHour: 10 });
  const second = (await runLaunch(services, launch))!;
  expect(await sent()).toHaveLength(10);
  services.clock.set(second);
  const decides = (await runLaunch(services, launch))!;
  expect(await sent()).toHaveLength(20);
  expect(decides.getTime() - second.getTime()).toBe(HOUR);
  await chooseVariant(services, campaign, 0, member);
  services.clock.set((await runLaunch(services, launch))!);
  expect(await sent()).toHaveLength(30);
  await runLaunch(services, launch);
  expect(await sent()).toHaveLength(PEOPLE);
});
