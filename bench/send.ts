/**
 * Sending: `send_vs_bare_smtp` (personalised, signed, tracked messages a second through the whole pipeline over those
 * of a bare loop of the SMTP library with the same email, fixed and unsigned; at least 1.5).
 */
import { spawn } from "node:child_process";
import { once } from "node:events";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import nodemailer from "nodemailer";
import { createBand, createBlock, createColumn } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Field } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { rendered } from "#core/testing/rendered.ts";
import { scheduleCampaign } from "#server/campaigns/scheduling.ts";
import type { Database } from "#server/db/database.ts";
import { migrate, openInWorker } from "#server/db/open.ts";
import { runLaunch } from "#server/jobs/sender.ts";
import { createMailer } from "#server/mail/mailer.ts";
import { addList } from "#server/store/audience.ts";
import { createCampaign, getCampaign } from "#server/store/campaigns.ts";
import { addContacts } from "#server/store/contacts.ts";
import { addFields } from "#server/store/fields.ts";
import { TEST_MAIL_KEYS } from "#server/testing/mail-keys.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { servicesOn, type TestServices } from "#server/testing/services.ts";
import { newsletter } from "./newsletter.ts";
import { threadEntry } from "./people-database.ts";
import type { Figure } from "./run.ts";

const READERS = 5_000;
const BARE = 2_000;
const ROUNDS = 3;
const CHUNK = 10_000;
/** What the newsletter names, beside the first name. */
const FIELDS: Field[] = [
  { id: "last_name", label: "Last name", type: "text" },
  { id: "site", label: "Site", type: "text" },
  { id: "membership", label: "Membership", type: "text" },
  { id: "visits", label: "Visits", type: "number" },
  { id: "joined", label: "Joined", type: "date" },
];

/** The service, and what ends it. */
async function startSink(): Promise<{ address: string; stop(): void }> {
  const entry = new URL("./smtp-sink.ts", import.meta.url).pathname;
  const child = spawn(process.execPath, ["--import", "tsx", entry], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  const [line] = await once(createInterface(child.stdout), "line");
  return { address: `smtp://127.0.0.1:${line}`, stop: () => child.kill() };
}

/** Messages a second of the library alone, one fixed message over as many connections. */
async function bare(address: string): Promise<number> {
  const { port } = new URL(address);
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: Number(port),
    ignoreTLS: true,
    pool: true,
    maxConnections: LIMITS.sendParallel,
    maxMessages: Number.POSITIVE_INFINITY,
  });
  const { html, text } = rendered(email());
  const one = { from: "news@larkmoor.example", to: "a@example.org", subject: "News", html, text };
  const begun = performance.now();
  await Promise.all(Array.from({ length: BARE }, () => transport.sendMail(one)));
  const took = performance.now() - begun;
  transport.close();
  return (BARE * 1000) / took;
}

/** Twenty blocks with six tags, tracked links, and the way out. */
function email(): EmailDocument {
  const made = newsletter(20, 6);
  let n = 0;
  const id = () => `f${++n}`;
  const foot = createBand(id, [createColumn(id, [createBlock("footer", id)])]);
  return { ...made, root: { ...made.root, children: [...made.root.children, foot] } };
}

/** A campaign to these contacts. */
async function campaignTo(services: TestServices, contacts: readonly number[]) {
  const { sql } = services.database;
  const now = services.clock.now();
  const list = await addList(sql, `${contacts.length} readers`, contacts, now);
  const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
  const id = await createCampaign(sql, "News", email(), now, audience);
  return (await getCampaign(sql, id))!;
}

/** Freezes it; gives the launch. */
async function scheduled(
  services: TestServices,
  contacts: readonly number[],
  member: string,
): Promise<string> {
  const campaign = await campaignTo(services, contacts);
  await scheduleCampaign(services, campaign, null, "Europe/London", member);
  return (await getCampaign(services.database.sql, campaign.id))!.launchId!;
}

/** ms for the whole pipeline: readers written down, claimed, merged, signed, handed over, settled. */
async function sent(...given: Parameters<typeof scheduled>): Promise<number> {
  const launch = await scheduled(...given);
  const begun = performance.now();
  await runLaunch(given[0], launch);
  return performance.now() - begun;
}

async function manyContacts({ sql }: Database, count: number, now: Date): Promise<number[]> {
  const ids: number[] = [];
  for (let from = 0; from < count; from += CHUNK) {
    const rows = Array.from({ length: Math.min(CHUNK, count - from) }, (_, i) => ({
      email: `reader${from + i}@example.org`,
      values: { first_name: `Reader ${from + i}`, visits: i % 30 },
      createdAt: now,
    }));
    ids.push(...(await addContacts(sql, rows)));
  }
  return ids;
}

export async function sendGroup(figure: Figure): Promise<void> {
  const sink = await startSink();
  const folder = await mkdtemp(join(tmpdir(), "septima-bench-"));
  const entry = threadEntry("db-worker.js", "server/db/worker.ts");
  const database = await openInWorker(join(folder, "database"), entry);
  await migrate(database);
  const mailer = createMailer(sink.address, TEST_MAIL_KEYS);
  const maker = threadEntry("making-worker.js", "server/jobs/making/worker.ts");
  const services = await servicesOn(database, mailer, maker);
  try {
    const { member } = await smallCampaign(services, ["first@example.org"]);
    await addFields(database.sql, FIELDS);
    const all = await manyContacts(database, READERS, services.clock.now());
    await sent(services, all.slice(0, 200), member.id);
    const [bareRates, ours]: number[][] = [[], []];
    for (let i = 0; i < ROUNDS; i++) {
      bareRates!.push(await bare(sink.address));
      ours!.push(await sent(services, all, member.id));
    }
    const rate = (READERS * 1000) / Math.min(...ours!);
    const library = Math.max(...bareRates!);
    console.log(`ours ${rate.toFixed(0)} a second, bare ${library.toFixed(0)}`);
    figure("send_vs_bare_smtp", rate / library);
  } finally {
    mailer.close();
    sink.stop();
    await services.close();
    await rm(folder, { recursive: true, force: true });
  }
}
