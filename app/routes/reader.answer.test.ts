/** Answers to the question of an email: counted once, by the page alone, for whoever was sent it. */
import { RouterContextProvider } from "react-router";
import { afterAll, beforeAll, expect, it } from "vitest";
import { createBand, createBlock, createColumn } from "#core/blocks/index.ts";
import { questionsIn } from "#core/blocks/question.ts";
import { line } from "#core/text/index.ts";
import { answeredIn } from "#server/campaigns/answers.ts";
import { scheduleCampaign } from "#server/campaigns/scheduling.ts";
import { servicesContext } from "#server/http/context.ts";
import { runLaunch } from "#server/jobs/sender.ts";
import { createCampaign, getCampaign } from "#server/store/campaigns.ts";
import { getLaunch } from "#server/store/launches/freeze.ts";
import { measuresOf } from "#server/store/results.ts";
import { smallCampaign, smallNewsletter } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { action, loader } from "./reader.answer.tsx";

let services: TestServices;
let launch: string;
const tokens: string[] = [];
let answers: readonly { id: string; words: string }[];
beforeAll(async () => {
  services = await startTestServices();
  const { sql } = services.database;
  const { member, list } = await smallCampaign(services, ["one@x.example", "two@x.example"]);
  const doc = smallNewsletter();
  let n = 100;
  const id = () => `q${n++}`;
  const question = createBlock("question", id, { asks: line("Will you come?") });
  const asking = {
    ...doc,
    root: {
      ...doc.root,
      children: [...doc.root.children, createBand(id, [createColumn(id, [question])])],
    },
  };
  answers = questionsIn(asking)[0]!.answers;
  const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
  const campaign = await createCampaign(sql, "Asked", asking, services.clock.now(), audience);
  await scheduleCampaign(
    services,
    (await getCampaign(sql, campaign))!,
    null,
    "Europe/London",
    member.id,
  );
  launch = (await getCampaign(sql, campaign))!.launchId!;
  await runLaunch(services, launch);
  const rows = await sql<{
    id: number;
  }>`select id from recipients where launch_id = ${launch} order by id`;
  for (const { id } of rows) tokens.push(services.signer.sign({ kind: "message", recipient: id }));
  services.clock.advance(60_000);
});
afterAll(() => services.close());

const args = (token: string, answer: string, body?: Record<string, string>) => {
  const context = new RouterContextProvider();
  context.set(servicesContext, services);
  const headers = { "User-Agent": "Mozilla/5.0 (X11)" };
  const request = new Request("http://localhost/", {
    headers,
    ...(body && { method: "POST", body: new URLSearchParams(body) }),
  });
  return { params: { token, answer }, context, request } as never;
};
const given = async () => {
  const { database } = services;
  const [one] = await answeredIn(database.sql, (await getLaunch(database.sql, launch))!);
  return one!;
};
const counts = async () => (await given()).answers.map(({ people }) => people);

it("shows the answer when it is followed, and counts nothing by that", async () => {
  const shown = await loader(args(tokens[0]!, answers[1]!.id));
  expect(shown).toMatchObject({ asks: "Will you come?", answer: "Somewhat", wantsWords: true });
  expect(shown.others).toHaveLength(2);
  expect(await counts()).toEqual([0, 0, 0]);
});

it("counts when the page says so: once, by the last answer, as a click too", async () => {
  for (let i = 0; i < 2; i++) await action(args(tokens[0]!, answers[1]!.id, { do: "count" }));
  await action(args(tokens[1]!, answers[2]!.id, { do: "count" }));
  expect(await counts()).toEqual([0, 1, 1]);
  await action(args(tokens[0]!, answers[2]!.id, { do: "count" }));
  expect(await counts()).toEqual([0, 0, 2]);
  expect(await measuresOf(services.database.sql, launch)).toMatchObject({ opened: 2, clicked: 2 });
});

it("keeps the words that somebody adds, cut to nothing hostile", async () => {
  const words = "<b>Yes</b>,\nwith my aunt";
  await action(args(tokens[0]!, answers[2]!.id, { do: "words", words }));
  expect((await given()).said).toEqual([
    expect.objectContaining({ answer: "Very much", words, email: "one@x.example" }),
  ]);
  const refused = await action(
    args(tokens[0]!, answers[2]!.id, { do: "words", words: "x".repeat(5_000) }),
  );
  expect(refused).toMatchObject({ init: { status: 400 } });
});

it("counts nothing for a test, and knows no forged token or answer", async () => {
  const campaign = (await getLaunch(services.database.sql, launch))!.campaignId;
  const sample = services.signer.sign({ kind: "sample", campaign, contact: 0 });
  expect(await loader(args(sample, answers[0]!.id))).toMatchObject({ answer: "Not really" });
  await action(args(sample, answers[0]!.id, { do: "count" }));
  expect(await counts()).toEqual([0, 0, 2]);
  const forged = `${tokens[0]!.slice(0, -2)}AA`;
  for (const bad of [
    args(forged, answers[0]!.id),
    args(tokens[0]!, "n1"),
    args(tokens[0]!, "../x"),
  ]) {
    await expect(loader(bad)).rejects.toMatchObject({ init: { status: 404 } });
  }
});
