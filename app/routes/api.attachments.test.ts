/** Files that go with messages: taken within limits, frozen with a launch, and in what readers get. */
import { simpleParser } from "mailparser";
import { RouterContextProvider } from "react-router";
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { scheduleCampaign } from "#server/campaigns/scheduling.ts";
import { memberContext, servicesContext } from "#server/http/context.ts";
import { runLaunch } from "#server/jobs/sender.ts";
import { attachmentsOf } from "#server/store/attachments.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { messageSource, pageOfMessages } from "#server/store/outbox.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { action } from "./api.attachments.ts";

let services: TestServices;
let campaign: string;
let made: Awaited<ReturnType<typeof smallCampaign>>;
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@x.example"]);
  campaign = made.campaign.id;
});
afterAll(() => services.close());

const sql = () => services.database.sql;
async function send(fields: Record<string, string | File>) {
  const context = new RouterContextProvider();
  context.set(servicesContext, services);
  context.set(memberContext, made.member);
  const body = new FormData();
  for (const [name, value] of Object.entries(fields)) body.set(name, value);
  const request = new Request("http://localhost/", { method: "POST", body });
  return (await action({ request, params: { campaign }, context } as never)) as never as {
    problem?: string | null;
    data?: { problem: string };
    init?: { status: number };
  };
}
const file = (name: string, type: string, content: BlobPart = "words") =>
  new File([content], name, { type });

it("takes files of any kind but programs, up to a size and a number", async () => {
  expect(await send({ file: file("Invitation.ics", "text/calendar", "BEGIN:VCALENDAR") })).toEqual({
    problem: null,
  });
  expect(await send({ file: file("<b>.pdf", "not a type; evil") })).toEqual({ problem: null });
  for (const [bad, status] of [
    [file("run.EXE", "application/pdf"), 400],
    [file("empty.pdf", "application/pdf", ""), 400],
    [file("large.pdf", "application/pdf", new Uint8Array(LIMITS.attachmentBytes + 1)), 413],
  ] as const) {
    expect((await send({ file: bad })).init).toMatchObject({ status });
  }
  const [, second] = await attachmentsOf(sql(), campaign);
  expect(second).toMatchObject({ name: "<b>.pdf", type: "application/octet-stream" });
  expect(await send({ remove: second!.id })).toEqual({ problem: null });
  for (let i = 1; i < LIMITS.attachments; i++)
    await send({ file: file(`${i}.pdf`, "application/pdf") });
  expect((await send({ file: file("one-more.pdf", "application/pdf") })).init).toMatchObject({
    status: 409,
  });
});

it("freezes them with the launch: what is scheduled takes them along, whatever happens then", async () => {
  await scheduleCampaign(
    services,
    (await getCampaign(sql(), campaign))!,
    null,
    "Europe/London",
    made.member.id,
  );
  const [first] = await attachmentsOf(sql(), campaign);
  expect((await send({ remove: first!.id })).init).toMatchObject({ status: 409 });
  await runLaunch(services, (await getCampaign(sql(), campaign))!.launchId!);
  const { messages } = await pageOfMessages(sql(), "", 1);
  const { attachments } = await simpleParser((await messageSource(sql(), messages[0]!.id))!);
  expect(attachments.map(({ filename }) => filename)).toEqual([
    ...["Invitation.ics", "1.pdf", "2.pdf", "3.pdf", "4.pdf"],
  ]);
  expect(attachments[0]!.content.toString()).toBe("BEGIN:VCALENDAR");
});
