/**
 * A launch of 5,000 that is killed 20 times at moments of chance (SIGKILL), while its mail service dies five times and
 * the disk is full once: `lost` (readers whose message never came), `doubled` (messages that came twice) and
 * `unsettled` (readers of whom nobody knows in the end); all 0.
 */
import { type ChildProcess, spawn } from "node:child_process";
import { once } from "node:events";
import { readFileSync, rmSync, writeFileSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { setTimeout as sleep } from "node:timers/promises";
import { chance } from "#core/random.ts";
import { scheduleCampaign } from "#server/campaigns/scheduling.ts";
import { migrate, openInWorker } from "#server/db/open.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { progressOf } from "#server/store/launches/progress.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { servicesOn } from "#server/testing/services.ts";
import { threadEntry } from "../people-database.ts";
import type { Figure } from "../run.ts";

const READERS = 5_000;
const KILLS = 20;
/** After which kills the service dies, and after which the disk is full. */
const SERVICE_DIES = new Set([2, 6, 10, 14, 17]);
const DISK_FULL = 8;
/** How long a sender works before it is killed, ms. */
const WORKS = { least: 150, more: 900 };
const FULL_MS = 1_200;
/** How often the last of them may end without having been killed. */
const FAILURES = 3;

const here = (file: string) => new URL(file, import.meta.url).pathname;
const run = (file: string, args: string[], env: NodeJS.ProcessEnv, preload: string[] = []) =>
  spawn(process.execPath, ["--import", "tsx", ...preload, here(file), ...args], {
    stdio: ["ignore", "pipe", "ignore"],
    env: { ...process.env, ...env },
  });
const lineOf = async (child: ChildProcess) =>
  String((await once(createInterface(child.stdout!), "line"))[0]);

/** Schedules it in a new folder; gives the launch. */
async function prepare(folder: string): Promise<string> {
  const entry = threadEntry("db-worker.js", "server/db/worker.ts");
  const database = await openInWorker(join(folder, "database"), entry);
  await migrate(database);
  const services = await servicesOn(database);
  const addresses = Array.from({ length: READERS }, (_, i) => `reader${i}@example.org`);
  const { campaign, member } = await smallCampaign(services, addresses);
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  const { launchId } = (await getCampaign(database.sql, campaign.id))!;
  await services.close();
  return launchId!;
}

export async function crashGroup(figure: Figure): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), "septima-crash-"));
  const record = join(folder, "record");
  const full = join(folder, "full");
  const at = chance(11);
  const launch = await prepare(folder);
  let service = run("../smtp-sink.ts", [], { RECORD: record });
  const port = await lineOf(service);
  const reborn = async () => {
    service.kill("SIGKILL");
    await once(service, "exit");
    service = run("../smtp-sink.ts", [], { RECORD: record, PORT: port });
    await lineOf(service);
  };
  const sender = () =>
    run("./sender.ts", [folder, `smtp://127.0.0.1:${port}`, launch], { FULL: full }, [
      "--import",
      here("./full-disk.mjs"),
    ]);
  let kills = 0;
  let failures = 0;
  try {
    for (let ended = false; !ended; ) {
      if (failures > FAILURES) throw new Error("The sender does not come to its end");
      const child = sender();
      const exit = once(child, "exit");
      await Promise.race([lineOf(child), exit]);
      const dies = SERVICE_DIES.delete(kills);
      if (kills === DISK_FULL) {
        writeFileSync(full, "");
        await sleep(FULL_MS);
        rmSync(full);
      }
      if (kills < KILLS) {
        await Promise.race([sleep(WORKS.least + at.below(WORKS.more)), exit]);
        if (dies) await Promise.race([reborn(), exit]);
        if (child.exitCode === null && child.signalCode === null) {
          child.kill("SIGKILL");
          kills++;
        }
        await exit;
        ended = child.exitCode === 0;
      } else {
        await exit;
        ended = child.exitCode === 0;
        if (!ended) failures++;
      }
    }
    const ids = readFileSync(record, "utf8").split("\n").filter(Boolean);
    const entry = threadEntry("db-worker.js", "server/db/worker.ts");
    const database = await openInWorker(join(folder, "database"), entry);
    const progress = await progressOf(database.sql, launch);
    await database.close();
    console.log(`${kills} kills, ${ids.length} messages, ${JSON.stringify(progress)}`);
    figure("kills", kills);
    figure("lost", READERS - new Set(ids).size);
    figure("doubled", ids.length - new Set(ids).size);
    figure("unsettled", READERS - progress.accepted);
  } finally {
    service.kill();
    await rm(folder, { recursive: true, force: true });
  }
}
