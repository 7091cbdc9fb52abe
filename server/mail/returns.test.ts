import nodemailer from "nodemailer";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { scheduleCampaign } from "../campaigns/scheduling.ts";
import { runLaunch } from "../jobs/sender.ts";
import { getCampaign } from "../store/campaigns.ts";
import { getContact } from "../store/contacts.ts";
import { measuresOf } from "../store/results.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { createSigner } from "../tracking/signer.ts";
import { readReturn, returnLocal } from "./return-address.ts";
import { type Returns, startReturns } from "./returns.ts";

let services: TestServices;
let returns: Returns;
let launch: string;
let contacts: readonly number[];
let recipients: readonly number[];
beforeEach(async () => {
  services = await startTestServices();
  returns = await startReturns(services, { host: "127.0.0.1" }, 0);
  const small = await smallCampaign(services, ["one@example.org", "two@example.org"]);
  contacts = small.contacts;
  await scheduleCampaign(services, small.campaign, null, "UTC", small.member.id);
  launch = (await getCampaign(services.database.sql, small.campaign.id))!.launchId!;
  await runLaunch(services, launch);
  recipients = (
    await services.database.sql<{ id: number }>`select id from recipients order by contact_id`
  ).map(({ id }) => id);
});
afterEach(async () => {
  await returns.close();
  await services.close();
});

/** Brings a message to an address here, as another service does; gives what is said. */
async function bring(to: string, raw: string): Promise<string> {
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: returns.port,
    ignoreTLS: true,
  });
  try {
    const sent = await transport.sendMail({ envelope: { from: "", to: [to] }, raw });
    return sent.response;
  } catch (error) {
    return (error as Error).message;
  } finally {
    transport.close();
  }
}
const addressOf = (kind: "bounce" | "leave", i: number) =>
  `${returnLocal(services.signer, kind, recipients[i]!)}@returns.larkmoor.example`;

const report = (type: string, part: string, fields: string) =>
  [
    "From: Mailer <postmaster@mx.example.org>",
    "Subject: About your message",
    "MIME-Version: 1.0",
    `Content-Type: multipart/report; report-type=${type}; boundary="b"`,
    "",
    "--b",
    "Content-Type: text/plain",
    "",
    "This is what became of it.",
    "--b",
    `Content-Type: message/${part}`,
    "",
    fields,
    "",
    "--b--",
    "",
  ].join("\r\n");
const bounced = (code: string) =>
  report(
    "delivery-status",
    "delivery-status",
    `Reporting-MTA: dns; mx.example.org\r\n\r\nFinal-Recipient: rfc822; x@y.example\r\nAction: failed\r\nStatus: ${code}\r\nDiagnostic-Code: smtp; 550 ${code} No`,
  );
const complained = report(
  "feedback-report",
  "feedback-report",
  "Feedback-Type: abuse\r\nUser-Agent: Feedback/1.0\r\nVersion: 1",
);
const measures = () => measuresOf(services.database.sql, launch);
const held = async (i: number) =>
  (await getContact(services.database.sql, contacts[i]!))!.heldBack ?? null;

describe("an address at which a message comes back", () => {
  it("is read in any letters, and by nobody who has another key or changes it", () => {
    const { signer } = services;
    const local = returnLocal(signer, "bounce", 4711);
    expect(local.length).toBeLessThanOrEqual(64);
    expect(readReturn(signer, `${local}@x.example`)).toEqual({ kind: "bounce", recipient: 4711 });
    expect(readReturn(signer, `${local.toUpperCase()}@x.example`)).toMatchObject({
      recipient: 4711,
    });
    const other = createSigner("another key that is long enough");
    for (const wrong of [
      returnLocal(other, "bounce", 4711),
      local.replace(/^b/, "u"),
      local.replace(/-.*/, ""),
      `${local}0`,
      `b1${local.slice(1)}`,
      "",
      "postmaster",
    ]) {
      expect(readReturn(signer, `${wrong}@x.example`)).toBeNull();
    }
  });
});

it("a bounce that comes late takes a message from the delivered, and holds the address back", async () => {
  expect(await measures()).toMatchObject({ accepted: 2, bounced: 0 });
  expect(await bring(addressOf("bounce", 0), bounced("5.1.1"))).toMatch(/^250/);
  expect(await measures()).toMatchObject({ accepted: 1, bounced: 1 });
  expect([await held(0), await held(1)]).toEqual(["bounced", null]);
  // Repeated, it is no news.
  await bring(addressOf("bounce", 0), bounced("5.1.1"));
  expect(await measures()).toMatchObject({ accepted: 1, bounced: 1 });
});

it("a full mailbox bounces without being held back, and an answer from somebody away is no bounce", async () => {
  await bring(addressOf("bounce", 0), bounced("5.2.2"));
  expect(await measures()).toMatchObject({ accepted: 1, bounced: 1 });
  expect(await held(0)).toBeNull();
  const away =
    "From: two@example.org\r\nSubject: Away\r\nAuto-Submitted: auto-replied\r\n\r\nAway.";
  expect(await bring(addressOf("bounce", 1), away)).toMatch(/^250/);
  const delayed = bounced("4.4.1").replace("Action: failed", "Action: delayed");
  await bring(addressOf("bounce", 1), delayed);
  expect(await measures()).toMatchObject({ accepted: 1, bounced: 1 });
});

it("a complaint is counted once, and its reader gets nothing more", async () => {
  await bring(addressOf("bounce", 1), complained);
  await bring(addressOf("bounce", 1), complained);
  expect(await measures()).toMatchObject({ complained: 1, unsubscribed: 0 });
  expect(await held(1)).toBe("complained");
});

it("who writes to the way out has left", async () => {
  expect(await bring(addressOf("leave", 0), "Subject: unsubscribe\r\n\r\n")).toMatch(/^250/);
  expect(await measures()).toMatchObject({ unsubscribed: 1 });
  expect(await held(0)).toBe("unsubscribed");
});

it("takes nothing for anybody else, nothing forged, and nothing too large", async () => {
  for (const to of ["ines@larkmoor.example", "b1-00000000000000000000@x.example"]) {
    expect(await bring(to, bounced("5.1.1"))).toContain("no such mailbox");
  }
  const large = `Subject: x\r\n\r\n${"a".repeat(LIMITS.returnBytes + 10)}`;
  expect(await bring(addressOf("bounce", 0), large)).not.toMatch(/^250/);
  for (const raw of [
    "",
    "\0\u0001\u00ff",
    "Content-Type: multipart/report; boundary=\r\n\r\n--\r\n",
  ]) {
    await bring(addressOf("bounce", 0), raw || "\r\n");
  }
  expect(await measures()).toMatchObject({ accepted: 2, bounced: 0, complained: 0 });
});

it("says which port is taken", async () => {
  await expect(startReturns(services, { host: "127.0.0.1" }, returns.port)).rejects.toThrow(
    `Port ${returns.port}`,
  );
});
