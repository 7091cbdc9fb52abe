import { nanoid } from "nanoid";
import { afterEach, beforeEach, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { familyOf } from "#core/clients/index.ts";
import type { SimpleEdit } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { Rule } from "#core/rules/index.ts";
import { doc, paragraph, tag } from "#core/text/index.ts";
import { counted } from "../campaigns/findings.ts";
import { ScheduleError, scheduleCampaign } from "../campaigns/scheduling.ts";
import { hideCampaign } from "../store/bin.ts";
import { type Campaign, getCampaign, setAudience } from "../store/campaigns.ts";
import { appendEdits } from "../store/documents.ts";
import {
  listComments,
  listReviewers,
  type Reviewer,
  requireReviewer,
  resolveComment,
  revokeReviewer,
} from "../store/reviews.ts";
import { campaignOf } from "../testing/personal.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { missingApprovals, reviewStateOf, standingsToday } from "./deciding.ts";
import { reviewerOf, reviewPath } from "./links.ts";
import { madeUpLooks, versionsToReview } from "./looking.ts";
import { comment, decideOn, invite, ReviewError } from "./saying.ts";

let services: TestServices;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(() => services.close());

const named: Rule = { type: "field", field: "first_name", op: "hasValue", argument: null };

async function begun(email: string | null = "jonas@board.example") {
  const made = await campaignOf(services, (id) => [
    createBlock("text", id, {
      words: doc(paragraph("Dear ", tag("contact:first_name", "you"))),
      seenBy: named,
      chain: "c",
    }),
    createBlock("text", id, { words: doc("For the others"), chain: "c" }),
  ]);
  const { campaign, member } = made;
  await invite(services, campaign, member, { name: "Jonas", email, required: true, days: 7 });
  const reviewer = (await listReviewers(services.database.sql, campaign.id))[0]!;
  return { ...made, reviewer };
}
const tokenOf = (reviewer: Pick<Reviewer, "id" | "nonce">) =>
  reviewPath(services, reviewer).slice("/review/".length);
const emailOf = async (campaign: Campaign) => (await counted(services, campaign))!;
const stateOf = async (campaign: Campaign) =>
  reviewStateOf(services, campaign, await emailOf(campaign));

/** The letters in the queue, by whom they go to. */
async function letters() {
  const rows = await services.database.sql<{
    payload: { to: string; subject: string; link: { address: string } };
  }>`select payload from jobs where kind = 'letter' order by id`;
  return rows.map(({ payload }) => payload);
}

async function edit(campaign: Campaign, member: { id: string }, made: SimpleEdit) {
  const { sql } = services.database;
  const { seq } = (await getCampaign(sql, campaign.id))!;
  const id = nanoid();
  const changes = [{ id, edit: made, does: "do" as const, step: id, of: null }];
  const author = { member: member.id, at: services.clock.now() };
  await services.database.tx((tx) =>
    appendEdits(tx, campaign.documentId, { tab: "tab1", base: seq, changes }, author),
  );
}

it("opens by the link alone: not by a guess, another's, after it has ended, or for a deleted campaign", async () => {
  const { sql } = services.database;
  const { campaign, reviewer, member } = await begun();
  const token = tokenOf(reviewer);
  expect((await reviewerOf(services, token))?.name).toBe("Jonas");
  const [, signature] = token.split(".");
  const wrong = [
    "",
    ".",
    "1",
    `1.${signature!.slice(1)}`,
    `1.${"A".repeat(43)}`,
    `2.${signature}`,
    `-1.${signature}`,
    `zzzzzzzzzzzz.${signature}`,
    `${token}.`.repeat(2),
    tokenOf({ id: reviewer.id, nonce: "guessed" }),
  ];
  for (const one of wrong) expect(await reviewerOf(services, one), one).toBeNull();
  // Nobody else's signature does.
  await invite(services, campaign, member, { name: "Ada", email: null, required: false, days: 7 });
  const ada = (await listReviewers(sql, campaign.id))[1]!;
  expect(await reviewerOf(services, `${ada.id}.${signature}`)).toBeNull();

  services.clock.advance(7 * 24 * 3_600_000);
  expect(await reviewerOf(services, token)).toBeNull();
  services.clock.advance(-24 * 3_600_000);
  expect(await reviewerOf(services, token)).not.toBeNull();
  await revokeReviewer(sql, "another", reviewer.id, services.clock.now());
  expect(await reviewerOf(services, token)).not.toBeNull();
  await revokeReviewer(sql, campaign.id, reviewer.id, services.clock.now());
  expect(await reviewerOf(services, token)).toBeNull();
  expect(await reviewerOf(services, tokenOf(ada))).not.toBeNull();
  await hideCampaign(sql, campaign.id, "Personal", services.clock.now());
  expect(await reviewerOf(services, tokenOf(ada))).toBeNull();
});

it("shows every version as made-up readers get it, and nothing of any contact", async () => {
  const { campaign } = await begun();
  const email = await emailOf(campaign);
  const { versions } = await versionsToReview(services, campaign, email);
  expect(versions.map(({ people }) => people)).toEqual([2, 1]);
  for (const version of versions) expect(version).not.toHaveProperty("sample");
  const look = madeUpLooks(services, campaign, email, familyOf("sent"));
  const htmls = versions.map(({ key }) => look(key)!.html.replace(/<[^>]+>/g, ""));
  expect(htmls[0]).toContain("Dear First name");
  expect(htmls[1]).toContain("For the others");
  for (const html of htmls) expect(html).not.toMatch(/Reader \d|example\.org/);
  expect(look("nothing")).toBeNull();
  const text = madeUpLooks(services, campaign, email, familyOf("plainText"))(versions[0]!.key)!;
  expect(text.words!.map(({ words }) => words).join("\n")).toContain("Dear First name");
  expect(text.html).toBe("");

  // Before anybody has been chosen there is one version, of nobody.
  await setAudience(services.database.sql, campaign.id, { include: [], exclude: [] }, new Date());
  const nobodys = (await getCampaign(services.database.sql, campaign.id))!;
  const { versions: nobody } = await versionsToReview(services, nobodys, email);
  const [only, ...others] = nobody;
  expect([only!.people, others]).toEqual([0, []]);
  expect(madeUpLooks(services, nobodys, email, familyOf("sent"))(only!.key)).not.toBeNull();
});

it("keeps what is said with its block, answers it, and tells those whom it concerns", async () => {
  const { sql } = services.database;
  const { campaign, reviewer, member } = await begun();
  const [band] = (await emailOf(campaign)).stored.doc.root.children;
  const block = band!.children[0]!.children[0]!.id;
  await comment(services, campaign, { reviewer }, { words: "Larger?", node: block, replyTo: null });
  const [first] = await listComments(sql, campaign.id);
  expect(first).toMatchObject({ author: "Jonas", words: "Larger?", node: block, resolved: false });
  await resolveComment(sql, "another", first!.id, new Date());
  await resolveComment(sql, campaign.id, first!.id, new Date());
  expect((await listComments(sql, campaign.id))[0]!.resolved).toBe(true);
  // An answer opens it again, and stands at the same block.
  const answer = { words: "Done.", node: null, replyTo: first!.id };
  await comment(services, campaign, { member }, answer);
  const [asked, answered] = await listComments(sql, campaign.id);
  expect(asked!.resolved).toBe(false);
  expect(answered).toMatchObject({ author: "Ines", node: block, replyTo: first!.id });
  expect((await letters()).map(({ to, subject }) => [to, subject])).toEqual([
    ["jonas@board.example", "Please look at “Personal”"],
    ["ines@larkmoor.example", "Jonas on “Personal”"],
    ["jonas@board.example", "Ines has answered, on “Personal”"],
  ]);
  expect((await letters())[2]!.link.address).toMatch(/\/review\/1\.[\w-]{43}$/);

  // Over a line that was cut it comes twice, and stands once; others may say the same, there or elsewhere.
  const letterCount = (await letters()).length;
  await comment(services, campaign, { reviewer }, { words: "Larger?", node: block, replyTo: null });
  await comment(services, campaign, { member }, answer);
  expect(await listComments(sql, campaign.id)).toHaveLength(2);
  expect(await letters()).toHaveLength(letterCount);
  await comment(services, campaign, { member }, { words: "Larger?", node: block, replyTo: null });
  await comment(services, campaign, { reviewer }, { words: "Larger?", node: null, replyTo: null });
  expect(await listComments(sql, campaign.id)).toHaveLength(4);

  const refused = (said: object) =>
    expect(
      comment(services, campaign, { reviewer }, { words: "x", node: null, replyTo: null, ...said }),
    ).rejects.toThrow(ReviewError);
  await refused({ node: "gone" });
  await refused({ replyTo: 999 });
  // A reply to a reply has no place.
  await refused({ replyTo: answered!.id });
  const other = await campaignOf(services, () => []).catch(() => null);
  if (other) {
    await expect(
      comment(services, other.campaign, { member }, { words: "x", node: null, replyTo: first!.id }),
    ).rejects.toThrow(ReviewError);
  }
});

it("approves the very state that was seen; a change makes it stale and is told, items that come do not", async () => {
  const { sql } = services.database;
  const { campaign, reviewer, member } = await begun();
  const standing = async () => {
    const all = await listReviewers(sql, campaign.id);
    const now = (await getCampaign(sql, campaign.id))!;
    return (await standingsToday(services, now, all, await stateOf(now)))[0]!;
  };
  expect(await missingApprovals(services, campaign, await emailOf(campaign))).toEqual(["Jonas"]);
  await expect(
    scheduleCampaign(services, campaign, null, "Europe/London", member.id),
  ).rejects.toThrow("Not approved in this state yet: Jonas");
  const seen = await stateOf(campaign);
  const old = { ...seen, content: "another" };
  const yes = { approves: true, note: "" };
  await expect(decideOn(services, campaign, reviewer, yes, old, seen)).rejects.toThrow(
    "has changed since",
  );
  const live = [{ ref: "feed:k", title: "Seed that keeps", mark: "m" }];
  await decideOn(services, campaign, reviewer, yes, seen, { ...seen, live });
  expect(await standing()).toMatchObject({
    standing: "approved",
    since: { steps: [], readers: false, items: ["“Seed that keeps” is gone"] },
  });
  expect(await missingApprovals(services, campaign, await emailOf(campaign))).toEqual([]);

  const text = (await emailOf(campaign)).stored.doc.root.children[0]!.children[0]!.children[1]!;
  const set = { type: "set", node: text.id, path: ["words"], value: doc("Anew") } as never;
  await edit(campaign, member, set);
  const stale = await standing();
  expect(stale.standing).toBe("stale");
  expect(stale.since!.steps).toHaveLength(1);
  expect(stale.since!.steps[0]).toContain("Ines");
  expect(stale.since!.readers).toBe(false);
  await expect(
    scheduleCampaign(services, campaign, null, "Europe/London", member.id),
  ).rejects.toThrow(ScheduleError);

  // Taken back by hand it is the state that was approved.
  await edit(campaign, member, { ...(set as object), value: text.props.words } as never);
  expect((await standing()).standing).toBe("approved");
  // Other readers are another email.
  await setAudience(sql, campaign.id, { include: [], exclude: [] }, new Date());
  expect(await standing()).toMatchObject({ standing: "stale", since: { readers: true } });
  await setAudience(sql, campaign.id, campaign.audience, new Date());

  await decideOn(services, campaign, reviewer, { approves: false, note: "No." }, seen, seen);
  expect(await standing()).toMatchObject({ standing: "asked", since: null });
  expect((await letters()).map(({ subject }) => subject)).toEqual([
    "Please look at “Personal”",
    "Jonas approves “Personal”",
    "Jonas asks for changes to “Personal”",
  ]);
  // Whoever is asked no more holds nothing up.
  await requireReviewer(sql, campaign.id, reviewer.id, false);
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
});

it("takes as many reviewers and comments as there may be, and no more", async () => {
  const { campaign, reviewer, member } = await begun(null);
  expect(await letters()).toEqual([]);
  const asked = { name: "Ada", email: null, required: false, days: 7 };
  for (let i = 1; i < LIMITS.reviewers; i++) await invite(services, campaign, member, asked);
  await expect(invite(services, campaign, member, asked)).rejects.toThrow(ReviewError);
  await services.database.sql`insert into comments (campaign_id, author, words, at)
    select ${campaign.id}, 'x', 'y', now() from generate_series(1, ${LIMITS.comments})`;
  await expect(
    comment(services, campaign, { reviewer }, { words: "x", node: null, replyTo: null }),
  ).rejects.toThrow(ReviewError);
});
