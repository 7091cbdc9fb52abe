/**
 * `hostile_requests` (at least 3,000), `hostile_kinds` (at least 40), `hostile_500`, `hostile_told` (traces and
 * paths in answers), `hostile_silent` and `hostile_stopped`, each 0; `hostile_rss_growth_mb` (at most 200, once pages
 * are loaded as before), and its peak for reading.
 */
import { readFileSync } from "node:fs";
import { startApplication } from "../../e2e/server.ts";
import type { Figure } from "../run.ts";
import { type Ids, patternsOf, realAddress } from "./addresses.ts";
import { attack, type Fault, KINDS, send } from "./hostile.ts";

const rssMb = (pid: number) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))![1]) / 1024;

/** Rounds of ordinary requests before. */
const WARM = 30;

/** Ids that stand in the pages, by the parameter they fill. */
async function idsOf(base: string, cookie: string): Promise<Ids> {
  const found = async (path: string, pattern: RegExp) => {
    const { text } = await send(base, { path }, cookie);
    return pattern.exec(text)?.[1] ?? "x";
  };
  return {
    campaign: await found("/campaigns", /campaigns\/([A-Za-z0-9]{12})"/),
    contact: "17",
    table: "sites",
    message: "1",
    link: "1",
    form: "x",
  };
}

export async function requestsGroup(figure: Figure): Promise<void> {
  const app = await startApplication();
  let stopped = 0;
  app.process.on("exit", () => stopped++);
  const { pid } = app.process as { pid: number };
  const ids = await idsOf(app.base, app.cookie);
  // Signing out ends the session that all the others need.
  const patterns = patternsOf().filter((pattern) => pattern !== "/sign-out");
  const ordinary = async (rounds: number) => {
    for (let round = 0; round < rounds; round++) {
      const queue = patterns.values();
      const line = async () => {
        for (const pattern of queue) {
          await send(app.base, { path: realAddress(pattern, ids) }, app.cookie);
        }
      };
      await Promise.all(Array.from({ length: 6 }, line));
    }
  };
  // Pages are loaded as on any day until the process has the size that it needs for that, and after it some more.
  await ordinary(WARM);
  const before = rssMb(pid);
  let peak = before;
  const watch = setInterval(() => {
    if (!stopped) peak = Math.max(peak, rssMb(pid));
  }, 200);
  const live = () => stopped === 0;
  const { requests, faults } = await attack(app.base, app.cookie, patterns, ids, live);
  clearInterval(watch);
  if (!stopped) await ordinary(5);
  const growth = stopped ? Number.NaN : rssMb(pid) - before;
  const still = stopped ? 0 : (await send(app.base, { path: "/sign-in" }, null)).status;
  const list = new Map<string, Fault>();
  for (const fault of faults) list.set(`${fault.what} ${fault.kind} ${fault.path}`, fault);
  for (const { what, kind, method, path, session, status } of [...list.values()].slice(0, 60)) {
    console.log(`  ${what} ${status}: ${kind}: ${method} ${path}${session ? "" : " (nobody)"}`);
  }
  figure("hostile_requests", requests);
  figure("hostile_kinds", KINDS.length);
  figure("hostile_500", faults.filter(({ what }) => what === "failed").length);
  figure("hostile_silent", faults.filter(({ what }) => what === "silent").length);
  figure("hostile_told", faults.filter(({ what }) => what === "told").length);
  figure("hostile_stopped", stopped + (still === 200 ? 0 : 1));
  figure("hostile_rss_growth_mb", growth);
  figure("hostile_rss_peak_mb", peak - before);
  if (!stopped) await app.stop();
}
