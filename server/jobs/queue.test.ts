import { afterEach, beforeEach, expect, it } from "vitest";
import { scheduleCampaign } from "../scheduling.ts";
import { getCampaign } from "../store/campaigns.ts";
import { createImport } from "../store/imports.ts";
import { enqueue, takeJob } from "../store/jobs.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { type Queue, startQueue } from "./queue.ts";

let services: TestServices;
let queue: Queue | undefined;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(async () => {
  await queue?.stop();
  queue = undefined;
  await services.close();
});

const jobs = () =>
  services.database.sql<{ kind: string; state: string; error: string | null; tries: number }>`
    select kind, state, error, tries from jobs order by id`;
async function until(test: () => Promise<boolean>): Promise<void> {
  for (let i = 0; i < 200; i++) {
    if (await test()) return;
    await new Promise((ok) => setTimeout(ok, 25));
  }
  throw new Error("waited too long");
}

it("sends a campaign when its time has come, not before", async () => {
  const { campaign, member } = await smallCampaign(services, ["one@example.org"]);
  const at = new Date(services.clock.now().getTime() + 3_600_000);
  queue = await startQueue(services);
  await scheduleCampaign(
    { ...services, wake: queue.wake },
    campaign,
    at,
    "Europe/London",
    member.id,
  );
  const state = async () => (await getCampaign(services.database.sql, campaign.id))!.state;
  await new Promise((ok) => setTimeout(ok, 150));
  expect(await state()).toBe("scheduled");
  services.clock.set(at);
  queue.wake();
  await until(async () => (await state()) === "sent");
  await until(async () => (await jobs())[0]!.state === "done");
});

it("keeps a failed job with its error and tries it again", async () => {
  const { sql } = services.database;
  await enqueue(sql, "nonsense", {}, services.clock.now());
  queue = await startQueue(services);
  await until(async () => (await jobs())[0]!.error !== null);
  expect((await jobs())[0]).toMatchObject({
    state: "waiting",
    error: "No such job: nonsense",
    tries: 1,
  });
  for (let i = 0; i < 19; i++) {
    services.clock.advance(20_000);
    queue.wake();
    await until(async () => (await jobs())[0]!.tries === i + 2);
  }
  await until(async () => (await jobs())[0]!.state === "failed");
});

it("takes up what a crash left running, and each job only once", async () => {
  const { sql } = services.database;
  const { campaign, member } = await smallCampaign(services, ["one@example.org"]);
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  expect(await takeJob(sql, services.clock.now())).toMatchObject({ kind: "launch" });
  expect(await takeJob(sql, services.clock.now())).toBeNull();
  queue = await startQueue(services);
  await until(async () => (await jobs())[0]!.state === "done");
  expect((await getCampaign(sql, campaign.id))!.state).toBe("sent");
});

it("sends while a file is taken in: each has a lane of its own", async () => {
  const { sql } = services.database;
  const now = services.clock.now();
  const { campaign, member } = await smallCampaign(services, ["one@example.org"]);
  await createImport(
    sql,
    { id: "import000001", table: "contacts", name: "a.csv", bytes: 1 },
    "m",
    now,
  );
  await sql`update imports set state = 'checking' where id = 'import000001'`;
  await enqueue(sql, "checkImport", { id: "import000001" }, now);
  const imports = { kinds: ["checkImport", "applyImport", "undoImport"], others: false };
  expect(await takeJob(sql, now, imports)).toMatchObject({ kind: "checkImport" });
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  expect(await takeJob(sql, now, imports)).toBeNull();
  expect(await takeJob(sql, now, { ...imports, others: true })).toMatchObject({ kind: "launch" });
});
