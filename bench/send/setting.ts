/** What benchmarks of sending stand on: a service in another process, a database, readers and campaigns. */
import { spawn } from "node:child_process";
import { once } from "node:events";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { createBand, createBlock, createColumn } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Field } from "#core/fields/index.ts";
import { scheduleCampaign } from "#server/campaigns/scheduling.ts";
import type { Database } from "#server/db/database.ts";
import { migrate, openInWorker } from "#server/db/open.ts";
import { createMailer, type Mailer } from "#server/mail/mailer.ts";
import { addList } from "#server/store/audience.ts";
import { createCampaign, getCampaign } from "#server/store/campaigns.ts";
import { addContacts } from "#server/store/contacts.ts";
import { addFields } from "#server/store/fields.ts";
import { TEST_MAIL_KEYS } from "#server/testing/mail-keys.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { servicesOn, type TestServices } from "#server/testing/services.ts";
import { newsletter } from "../newsletter.ts";
import { threadEntry } from "../people-database.ts";

const CHUNK = 10_000;
/** What the newsletter names, beside the first name. */
const FIELDS: Field[] = [
  { id: "last_name", label: "Last name", type: "text" },
  { id: "site", label: "Site", type: "text" },
  { id: "membership", label: "Membership", type: "text" },
  { id: "visits", label: "Visits", type: "number" },
  { id: "joined", label: "Joined", type: "date" },
];

/** A mail service that takes everything, in another process. */
export interface Sink {
  readonly address: string;
  stop(): void;
}

export async function startSink(): Promise<Sink> {
  const entry = new URL("../smtp-sink.ts", import.meta.url).pathname;
  const child = spawn(process.execPath, ["--import", "tsx", entry], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  const [line] = await once(createInterface(child.stdout), "line");
  return { address: `smtp://127.0.0.1:${line}`, stop: () => child.kill() };
}

/** Twenty blocks with six tags, tracked links, and the way out. */
export function email(): EmailDocument {
  const made = newsletter(20, 6);
  let n = 0;
  const id = () => `f${++n}`;
  const foot = createBand(id, [createColumn(id, [createBlock("footer", id)])]);
  return { ...made, root: { ...made.root, children: [...made.root.children, foot] } };
}

/** Freezes a campaign to these contacts; gives the launch. */
export async function scheduled(
  services: TestServices,
  contacts: readonly number[],
  member: string,
): Promise<string> {
  const { sql } = services.database;
  const now = services.clock.now();
  const list = await addList(sql, `${contacts.length} readers`, contacts, now);
  const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
  const id = await createCampaign(sql, "News", email(), now, audience);
  await scheduleCampaign(services, (await getCampaign(sql, id))!, null, "Europe/London", member);
  return (await getCampaign(sql, id))!.launchId!;
}

export async function manyContacts({ sql }: Database, count: number, now: Date): Promise<number[]> {
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

/** Works with services that send to a sink, and so many contacts; ends them. */
export async function withSender<T>(
  count: number,
  work: (given: {
    services: TestServices;
    sink: Sink;
    contacts: number[];
    member: string;
    mailer: Mailer;
  }) => Promise<T>,
): Promise<T> {
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
    const contacts = await manyContacts(database, count, services.clock.now());
    return await work({ services, sink, contacts, member: member.id, mailer });
  } finally {
    mailer.close();
    sink.stop();
    await services.close();
    await rm(folder, { recursive: true, force: true });
  }
}
