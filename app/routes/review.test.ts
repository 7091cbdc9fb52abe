/** What reviewers and the team are answered where what they send makes no sense, or the link has ended. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { reviewPath } from "#server/reviews/links.ts";
import { listComments, listReviewers, revokeReviewer } from "#server/store/reviews.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { isPublic } from "../public.ts";
import { type Asked, answered, routeArgs } from "../testing/route.ts";
import { loader as comments, action as team } from "./api.comments.ts";
import { loader as look, action as says } from "./api.review.ts";
import { action as invite } from "./api.reviewers.ts";
import { loader as paper } from "./campaign.print.tsx";
import { loader as page } from "./review.tsx";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
let token: string;
const args = (asked: Asked, params = {}) =>
  routeArgs(services, made.member, asked, { campaign: made.campaign.id, token, ...params });
const json = (body: unknown): Asked => ({ body: JSON.stringify(body) });
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
  await invite(args({ form: { name: " Jonas\nWeber ", required: "on" } }));
  const [reviewer] = await listReviewers(services.database.sql, made.campaign.id);
  token = reviewPath(services, reviewer!).slice("/review/".length);
});
afterAll(() => services.close());

it("invites by a name, with an address that is one and days that are offered", async () => {
  const [jonas] = await listReviewers(services.database.sql, made.campaign.id);
  expect(jonas).toMatchObject({ name: "Jonas Weber", email: null, required: true });
  const wrong: [Record<string, string>, string][] = [
    [{}, "name"],
    [{ name: " \n " }, "name"],
    [{ name: "x".repeat(LIMITS.nameLength + 1) }, "name"],
    [{ name: "Ada", email: "ada" }, "email"],
    [{ name: "Ada", email: "ada@x.example\r\nBcc: all@x.example" }, "email"],
    [{ name: "Ada", days: "1000" }, "days"],
  ];
  for (const [form, field] of wrong) {
    const answer = answered<{ error?: Record<string, string[]> }>(await invite(args({ form })));
    expect([answer.status, Object.keys(answer.error ?? {})], JSON.stringify(form)).toEqual([
      400,
      [field],
    ]);
  }
  expect(await listReviewers(services.database.sql, made.campaign.id)).toHaveLength(1);
});

it("takes comments that say something, and nothing else", async () => {
  const said = { do: "comment", words: "Fine.", node: null, replyTo: null };
  expect((await says(args(json(said)))).status).toBe(200);
  expect((await team(args(json({ ...said, words: "Good." })))).status).toBe(200);
  const wrong = [
    undefined,
    "comment",
    {},
    { ...said, words: " \u0007 " },
    { ...said, words: "x".repeat(LIMITS.commentLength + 1) },
    { ...said, node: "x".repeat(41) },
    { ...said, replyTo: -1 },
    { ...said, replyTo: "1 or 1=1" },
    { do: "resolve", comment: 0, resolved: true },
    { do: "decide", approves: "yes" },
  ];
  for (const body of wrong) {
    expect((await says(args(json(body)))).status, JSON.stringify(body)).toBe(400);
    expect((await team(args(json(body)))).status, JSON.stringify(body)).toBe(400);
  }
  // What only the team does, nobody does by a link.
  const revoke = { do: "revoke", reviewer: 1 };
  expect((await says(args(json(revoke)))).status).toBe(400);
  expect((await says(args(json({ ...said, node: "gone" })))).status).toBe(409);
  expect((await says(args({ body: "{".repeat(LIMITS.publicForm + 1) }))).status).toBe(400);
  const known = await listComments(services.database.sql, made.campaign.id);
  expect(known.map(({ author, words }) => [author, words])).toEqual([
    ["Jonas Weber", "Fine."],
    ["Ines", "Good."],
  ]);
  const shown = await (await comments(args({}))).json();
  expect(shown).toMatchObject([{ place: "The whole email", replies: [] }, { author: "Ines" }]);
});

it("shows versions there are, and refuses others and unknown ways to look", async () => {
  const loaded = await page(args({}));
  expect(loaded).toMatchObject({ standing: "waiting", name: "Jonas Weber", since: null });
  const [version] = loaded.versions;
  const ask = (query: Record<string, string>) =>
    look(args({ path: `/review/${token}/email?${new URLSearchParams(query)}` }));
  const found = await ask({ version: version!.key, as: "sent" });
  expect((await found.json()).html.replace(/<[^>]+>/g, "")).toContain("Dear First name, welcome.");
  expect((await ask({ version: "en-GB:1111", as: "sent" })).status).toBe(404);
  expect((await ask({ version: version!.key, as: "filtered" })).status).toBe(400);
  expect((await ask({ as: "sent" })).status).toBe(400);
  const printed = await paper(args({}));
  expect(printed.versions.map(({ people }) => people)).toEqual([2]);
  expect(JSON.stringify(printed)).not.toContain("Reader 0");
});

it("opens its page and its answers to everybody, and nothing beside them", async () => {
  const address = `/review/${token}`;
  for (const path of [address, `${address}.data`, `${address}/email`, `${address}/sheet`]) {
    expect(isPublic(path), path).toBe(true);
  }
  for (const path of ["/review", "/review/", `${address}/sights`, `${address}/email/x`, "/sheet"]) {
    expect(isPublic(path), path).toBe(false);
  }
});

it("answers nothing once the link has ended", async () => {
  const { sql } = services.database;
  await revokeReviewer(sql, made.campaign.id, 1, services.clock.now());
  const said = { do: "comment", words: "Late.", node: null, replyTo: null };
  expect((await says(args(json(said)))).status).toBe(404);
  const query = new URLSearchParams({ version: "any", as: "sent" });
  expect((await look(args({ path: `/review/${token}/email?${query}` }))).status).toBe(404);
  await expect(page(args({}))).rejects.toMatchObject({ init: { status: 404 } });
  await expect(page(args({}, { token: "1.x" }))).rejects.toMatchObject({ init: { status: 404 } });
});
