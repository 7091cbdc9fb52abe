/** `page_during_send_vs_idle`: the main pages of the demo while a launch goes out, over the same with nothing going on; at most 3. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { scheduleCampaign } from "#server/campaigns/scheduling.ts";
import { openInWorker } from "#server/db/open.ts";
import { addList } from "#server/store/audience.ts";
import { createCampaign, getCampaign } from "#server/store/campaigns.ts";
import { listMembers } from "#server/store/team.ts";
import { servicesOn } from "#server/testing/services.ts";
import { type Running, startApplication } from "../../e2e/server.ts";
import { threadEntry } from "../people-database.ts";
import type { Figure } from "../run.ts";
import { askPage, middle } from "../scale.ts";
import { email, manyContacts, startSink } from "./setting.ts";

const READERS = 40_000;
/** From the start of all until the launch: until then it is made, and the pages are looked at with nothing going on. */
const BEGINS_MS = 120_000;
const PAGES = ["/", "/campaigns", "/people", "/library", "/results", "/settings"];
const ASKED = 8;
/** Pages are asked for one after the other, as somebody looks at them, ms. */
const REST_MS = 100;

/** Adds a launch to the demo's data, to begin at a time. */
async function prepare(folder: string, at: Date): Promise<void> {
  const entry = threadEntry("db-worker.js", "server/db/worker.ts");
  const database = await openInWorker(join(folder, "database"), entry);
  const services = await servicesOn(database);
  services.clock.set(new Date());
  const now = services.clock.now();
  const contacts = await manyContacts(database, READERS, now);
  const list = await addList(database.sql, "Everybody new", contacts, now);
  const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
  const campaign = await createCampaign(database.sql, "News to many", email(), now, audience);
  const [member] = await listMembers(database.sql);
  const found = (await getCampaign(database.sql, campaign))!;
  await scheduleCampaign(services, found, at, "Europe/London", member!.id);
  await services.close();
}

export async function pagesGroup(figure: Figure): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "septima-pages-"));
  const sink = await startSink();
  let app: Running | null = null;
  try {
    await (await startApplication(folder)).stop();
    const at = new Date(Date.now() + BEGINS_MS);
    await prepare(folder, at);
    const running = await startApplication(folder, { SEPTIMA_SMTP: sink.address });
    app = running;
    /** Times of a page in the middle of several rounds, ms. */
    const look = async () => {
      const times = new Map<string, number[]>(PAGES.map((path) => [path, []]));
      for (let i = 0; i < ASKED; i++)
        for (const path of PAGES) {
          times.get(path)!.push((await askPage(running, path)).whole);
          await sleep(REST_MS);
        }
      return new Map([...times].map(([path, all]) => [path, middle(all)]));
    };
    await look();
    const idle = await look();
    await sleep(Math.max(0, at.getTime() - Date.now() + 3_000));
    const sending = await look();
    const { text } = await askPage(running, "/campaigns?search=news to many");
    const words = /News to many.{0,120}/.exec(text.replace(/<[^>]*>/g, " "))?.[0];
    if (!text.includes("being sent")) throw new Error(`Not under way: ${words}`);
    let worst = { ratio: 0, path: "" };
    for (const path of PAGES) {
      const ratio = sending.get(path)! / idle.get(path)!;
      console.log(`${path}: ${idle.get(path)!.toFixed(0)} ms, ${sending.get(path)!.toFixed(0)}`);
      if (ratio > worst.ratio) worst = { ratio, path };
    }
    console.log(`slowest: ${worst.path}`);
    figure("page_during_send_vs_idle", worst.ratio);
  } finally {
    await app?.stop();
    sink.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
