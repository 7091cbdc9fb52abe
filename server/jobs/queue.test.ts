import { afterEach, beforeEach, expect, it } from "vitest";
import { watchDomains } from "#core/delivery/domains.ts";
import { LIMITS } from "#core/limits.ts";
import { scheduleCampaign } from "../campaigns/scheduling.ts";
import { getCampaign } from "../store/campaigns.ts";
import { createImport } from "../store/imports.ts";
import { dueLanes, endJob, enqueue, recoverJobs, takeJob } from "../store/jobs.ts";
import { standingOfLaunch } from "../store/launches/progress.ts";
import { takeLease } from "../store/leases.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { type Queue, startQueue } from "./queue.ts";

let services: TestServices;
let queue: Queue | undefined;
beforeEach(async () => {
  services = await startTestServices();
});
afterEach(async () => {
  services.stop();
  await queue?.ended;
  queue = undefined;
  await services.close();
});

const jobs = () =>
  services.database.sql<{ kind: string; state: string; error: string | null; tries: number }>`
    select kind, state, error, tries from jobs where kind <> 'cleanUp' order by id`;
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

it("does by itself what has become due, and looks no more once it has ended", async () => {
  const { sql } = services.database;
  let looks = 0;
  let held = Promise.resolve();
  const watched: typeof sql = async (strings, ...holes) => {
    if (strings.join("").includes("run_at <=") && strings[0]!.startsWith("select array")) {
      looks++;
      await held;
    }
    return sql(strings, ...holes);
  };
  const soon = new Date(services.clock.now().getTime() + 1_000);
  queue = await startQueue({ ...services, database: { ...services.database, sql: watched } });
  await until(async () => looks > 0);
  await enqueue(sql, "toString", {}, soon);
  services.clock.set(soon);
  await until(async () => (await jobs())[0]!.state === "failed");
  // Told to end in the middle of a look.
  let go = () => {};
  held = new Promise((ok) => (go = ok));
  const before = looks;
  await until(async () => looks > before);
  services.stop();
  await queue.ended;
  go();
  const last = looks;
  await new Promise((ok) => setTimeout(ok, 1_100));
  expect(looks).toBe(last);
});

it("has work for a lane where that lane would take it", async () => {
  const { sql } = services.database;
  const now = services.clock.now();
  const lanes = [
    { kinds: ["import", "seen"], others: true },
    { kinds: ["import"], others: false },
    { kinds: ["seen"], others: false },
  ];
  const due = () => dueLanes(sql, now, lanes);
  expect(await due()).toEqual([false, false, false]);
  await enqueue(sql, "seen", {}, new Date(now.getTime() + 1));
  expect(await due()).toEqual([false, false, false]);
  await enqueue(sql, "seen", {}, now);
  expect(await due()).toEqual([false, false, true]);
  await enqueue(sql, "other", {}, now);
  expect(await due()).toEqual([true, false, true]);
  const lease = await takeLease(sql, now);
  const taken = await Promise.all(lanes.map((lane) => takeJob(sql, lease, now, lane)));
  expect(taken.map((job) => job?.kind ?? null)).toEqual(["other", null, "seen"]);
  expect(await due()).toEqual([false, false, false]);
});

it("ends a job of a kind that nobody knows", async () => {
  const { sql } = services.database;
  await enqueue(sql, "toString", {}, services.clock.now());
  queue = await startQueue(services);
  await until(async () => (await jobs())[0]!.state === "failed");
  expect((await jobs())[0]).toMatchObject({ error: "No such job: toString" });
});

it("tries work that goes wrong on our side for as long as it takes, and says so meanwhile", async () => {
  const { sql } = services.database;
  const { campaign, member } = await smallCampaign(services, ["one@example.org"]);
  const broken = {
    ...services,
    mailer: {
      has: null,
      domains: watchDomains(),
      send: () => Promise.reject(new Error("The disk is full")),
      carry: () => Promise.reject(new Error("The disk is full")),
      close() {},
    },
  };
  queue = await startQueue(broken);
  await scheduleCampaign(broken, campaign, null, "Europe/London", member.id);
  const failures = async () =>
    (await sql<{ failures: number }>`select failures from jobs where kind = 'launch'`)[0]!.failures;
  for (let n = 1; n <= 25; n++) {
    queue.wake();
    await until(async () => (await failures()) >= n);
    services.clock.advance(3_600_000);
  }
  const { launchId } = (await getCampaign(sql, campaign.id))!;
  expect(await standingOfLaunch(sql, launchId!)).toMatchObject({ trouble: "The disk is full" });
  broken.mailer.carry = services.mailer.carry as never;
  queue.wake();
  await until(async () => (await getCampaign(sql, campaign.id))!.state === "sent");
});

it("gives a launch that has lost its job another one at the start", async () => {
  const { sql } = services.database;
  const { campaign, member } = await smallCampaign(services, ["one@example.org"]);
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  await sql`update jobs set state = 'failed'`;
  await sql`update launches set state = 'sending', started_at = ${services.clock.now()}, readers_to = 0`;
  queue = await startQueue(services);
  await until(async () => (await getCampaign(sql, campaign.id))!.state === "sent");
});

it("leaves to their holder what a lease still covers", async () => {
  const { sql } = services.database;
  const now = services.clock.now();
  await enqueue(sql, "launch", { launch: "x" }, now);
  const lease = await takeLease(sql, now);
  await takeJob(sql, lease, now);
  await recoverJobs(sql, now);
  expect((await jobs())[0]).toMatchObject({ state: "running" });
  const later = new Date(now.getTime() + LIMITS.leaseMs + 1);
  await recoverJobs(sql, later);
  expect((await jobs())[0]).toMatchObject({ state: "waiting" });
  // Who comes too late ends nothing.
  const [job] = await sql<{ id: number }>`select id from jobs`;
  await endJob(sql, job!.id, lease, null);
  expect((await jobs())[0]).toMatchObject({ state: "waiting" });
});

it("takes up what a crash left running, and each job only once", async () => {
  const { sql } = services.database;
  const { campaign, member } = await smallCampaign(services, ["one@example.org"]);
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  expect(await takeJob(sql, "a", services.clock.now())).toMatchObject({ kind: "launch" });
  expect(await takeJob(sql, "b", services.clock.now())).toBeNull();
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
  expect(await takeJob(sql, "a", now, imports)).toMatchObject({ kind: "checkImport" });
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  expect(await takeJob(sql, "a", now, imports)).toBeNull();
  expect(await takeJob(sql, "a", now, { ...imports, others: true })).toMatchObject({
    kind: "launch",
  });
});
