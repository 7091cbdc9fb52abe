/** A process that works on a launch until it is done, or until it is killed. Arguments: data folder, SMTP address, launch. */
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { LIMITS } from "#core/limits.ts";
import { openInWorker } from "#server/db/open.ts";
import { runLaunch } from "#server/jobs/sender.ts";
import { createMailer } from "#server/mail/mailer.ts";
import { TEST_MAIL_KEYS } from "#server/testing/mail-keys.ts";
import { servicesOn } from "#server/testing/services.ts";
import { threadEntry } from "../people-database.ts";

const [folder, address, launch] = process.argv.slice(2) as [string, string, string];
const record = join(folder, "record");
const clockFile = join(folder, "clock");

/** Time goes on as everywhere, and leaps over what would only be waited for. */
let ahead = existsSync(clockFile) ? Number(readFileSync(clockFile, "utf8")) : 0;
const leap = (ms: number) => {
  ahead += ms;
  writeFileSync(clockFile, String(ahead));
};
const clock = { now: () => new Date(Date.now() + ahead) };
// Whoever was killed before has let go of what it held by now.
leap(LIMITS.leaseMs + 1_000);

/** Which messages the service has: it writes their ids down. */
const has = async (ids: readonly string[]) => {
  const known = new Set(existsSync(record) ? readFileSync(record, "utf8").split("\n") : []);
  return new Set(ids.filter((id) => known.has(id)));
};

const entry = threadEntry("db-worker.js", "server/db/worker.ts");
const database = await openInWorker(join(folder, "database"), entry);
const maker = threadEntry("making-worker.js", "server/jobs/making/worker.ts");
const mailer = createMailer(address, TEST_MAIL_KEYS, { connect: 1_000, answer: 2_000 }, has);
const services = { ...(await servicesOn(database, mailer, maker)), clock: clock as never };
console.log("sending");
for (;;) {
  try {
    const next = await runLaunch(services, launch);
    if (next === null) break;
    if (next > clock.now()) leap(next.getTime() - clock.now().getTime());
  } catch (error) {
    // As the queue does: it goes wrong, and is tried again.
    console.log(`failed: ${String(error).slice(0, 200)}`);
    await new Promise((ok) => setTimeout(ok, 300));
  }
}
console.log("done");
await database.close();
process.exit(0);
