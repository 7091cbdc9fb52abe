/** What actions answer where what they were asked no longer holds, or is not the asker's to ask. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { addList, getLists } from "#server/store/audience.ts";
import { addContacts } from "#server/store/contacts.ts";
import { checkPassword } from "#server/store/team.ts";
import { getTopics } from "#server/store/topics.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { type Asked, answered, routeArgs } from "../testing/route.ts";
import { loader as exportPeople } from "./api.export.ts";
import { action as schedule } from "./campaign.schedule.tsx";
import { action as people } from "./people.contacts.tsx";
import { action as preferences } from "./people.preferences.tsx";
import { action as settings } from "./settings.tsx";
import { action as signIn } from "./sign-in.tsx";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
const args = (asked: Asked) =>
  routeArgs(services, made.member, asked, { campaign: made.campaign.id });
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
});
afterAll(() => services.close());

it("adds a topic with its words in each language", async () => {
  const form = {
    do: "addTopic",
    "name.en": "Seeds",
    "name.fr": "Graines",
    "about.en": "What to sow",
  };
  const answer = answered<{ error?: unknown }>(await preferences(args({ form })));
  expect(answer.error).toBeUndefined();
  expect(await getTopics(services.database.sql)).toMatchObject([
    { name: { en: "Seeds", fr: "Graines" } },
  ]);
  const nameless = answered<{ error?: Record<string, string[]> }>(
    await preferences(args({ form: { do: "addTopic", "name.fr": "x" } })),
  );
  expect(nameless.status).toBe(400);
  expect(nameless.error).toHaveProperty(["name.en"]);
});

it("puts a whole view on a list, or nobody where it is not as it was", async () => {
  const { sql } = services.database;
  const list = await addList(sql, "Chosen", [], services.clock.now());
  const form = { do: "viewList", target: list, search: "example.org", count: "2" };
  const size = async () => (await getLists(sql)).find(({ id }) => id === list)!.people;
  await addContacts(sql, [
    { email: "three@example.org", values: {}, createdAt: services.clock.now() },
  ]);
  const stale = answered<{ said: string }>(await people(args({ form })));
  expect(stale.status).toBe(409);
  expect(stale.said).toContain("3 people in this view by now, not 2");
  expect(await size()).toBe(0);
  await people(args({ form: { ...form, count: "3" } }));
  expect(await size()).toBe(3);
});

it("exports what was asked for, and never everybody in its place", async () => {
  const asked = exportPeople(args({ path: `/?search=${"a".repeat(300)}` }));
  await expect(asked).rejects.toMatchObject({ init: { status: 400 } });
  for (const path of [
    "/?search=%00",
    "/?sort=__proto__&search=one",
    "/?sort=toString&search=one",
  ]) {
    const answer = await exportPeople(args({ path })).catch((error) => error);
    if (answer instanceof Response) expect(await answer.text()).not.toContain("two@example.org");
    else expect(answer.code).toMatch(/^22/);
  }
});

it("asks for the old password before there is another, and slows guesses down", async () => {
  const { sql } = services.database;
  const { email, name } = made.member;
  const change = (password: string, current: string) =>
    settings(args({ form: { what: "account", name, email, password, current } }));
  const fine = answered<{ result: { status?: string } }>(await change("a first password", ""));
  expect(fine.result?.status).not.toBe("error");
  type Refused = { result: { error?: Record<string, string[]> } };
  const refused = answered<Refused>(await change("a second password", "not the first"));
  expect(refused.result.error).toEqual({ current: ["This is not your password."] });
  expect(await checkPassword(sql, email, "a first password")).not.toBeNull();
  await change("a second password", "a first password");
  expect(await checkPassword(sql, email, "a second password")).not.toBeNull();
  const guess = async (password: string) =>
    signIn(args({ form: { email, password } })).then((answer) =>
      answer instanceof Response ? answer.status : answered(answer).status,
    );
  for (let n = 0; n < LIMITS.guessesHere; n++) expect(await guess("wrong")).toBe(400);
  expect(await guess("a second password")).toBe(429);
  services.clock.advance(LIMITS.guessSpan);
  expect(await guess("a second password")).toBe(302);
});

it("says which times there are not, and which come twice, at their fields", async () => {
  const at = (date: string, turn = "") => ({
    when: "later",
    date,
    time: "01:30",
    zone: "Europe/London",
    ...(turn && { turn }),
  });
  const ask = async (form: Record<string, string>) =>
    answered<{ error?: Record<string, string[]> }>(await schedule(args({ form })));
  expect((await ask(at("2031-03-30"))).error?.time?.[0]).toContain("after 00:59 comes 02:00");
  expect((await ask(at("2031-10-26"))).error?.turn?.[0]).toContain("comes twice");
  await schedule(args({ form: at("2031-10-26", "second") }));
  const [launch] = await services.database.sql<{ at: Date }>`select send_at as at from launches`;
  expect(launch!.at.toISOString()).toBe("2031-10-26T01:30:00.000Z");
});
