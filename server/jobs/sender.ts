/** The sender: takes a launch from its start to the last settled message, across crashes and a service's moods. */
import { triesItself, waitFor } from "#core/delivery/index.ts";
import { LIMITS } from "#core/limits.ts";
import { worldOf } from "../audience/world.ts";
import { idDomain, messageIdOf, readyLaunch } from "../campaigns/emails.ts";
import { lookAgain, noteSentItems } from "../campaigns/launch-items.ts";
import { toTell } from "../campaigns/telling.ts";
import type { Services } from "../services.ts";
import { rulesOfAudience } from "../store/audience.ts";
import { recoverRecipients } from "../store/launches/claim.ts";
import { getLaunch, type Launch } from "../store/launches/freeze.ts";
import { hoursOfAll } from "../store/launches/hours.ts";
import {
  finishLaunch,
  leaveOut,
  pauseLaunch,
  resumeLaunch,
  waitsOf,
} from "../store/launches/pause.ts";
import { nextDue, unsureIds } from "../store/launches/progress.ts";
import { type Outcome, settle, settleUnsure } from "../store/launches/settle.ts";
import { beginLaunch, beginsAt, writeReaders } from "../store/launches/start.ts";
import { endLease, renewLease, takeLease } from "../store/leases.ts";
import { dueOf, firstDue } from "./due.ts";
import { handOver, type Stop } from "./hand-over.ts";
import { earlier, later } from "./later.ts";
import { inPieces, Stopped } from "./pieces.ts";
import { decide, drawn } from "./split.ts";

/**
 * Works on a launch until nothing is due. Gives when to come back, or null when it is done or waits for a person.
 * Called again after a crash it goes on where it stopped; nobody gets a message twice.
 */
export async function runLaunch(services: Services, launchId: string): Promise<Date | null> {
  const { database, clock } = services;
  const { sql } = database;
  const lease = await takeLease(sql, clock.now());
  const alive = setInterval(
    () => void renewLease(sql, lease, clock.now()).catch(() => {}),
    LIMITS.leaseMs / 4,
  );
  try {
    return await withLease(services, launchId, lease);
  } catch (error) {
    // Told to end: what was begun goes on at the next start.
    if (error instanceof Stopped) return clock.now();
    throw error;
  } finally {
    clearInterval(alive);
    await endLease(sql, lease);
  }
}

async function withLease(
  services: Services,
  launchId: string,
  lease: string,
): Promise<Date | null> {
  const { database, clock } = services;
  const { sql } = database;
  let launch = await getLaunch(sql, launchId);
  if (launch?.state === "paused" && launch.resumeAt) {
    if (launch.resumeAt > clock.now()) return launch.resumeAt;
    await resumeLaunch(sql, launchId, clock.now());
  }
  if (launch?.state === "scheduled") {
    // It may have been moved since its job was set.
    const at = await beginsAt(sql, launchId);
    const began = clock.now();
    if (at && at > began) return at;
    // Until its first reader is due it can be called back.
    const first = await firstDue(sql, launch, began);
    if (first && first > began) return earlier(first, later(began, LIMITS.firstDueAgain));
    await database.tx(async (tx) => {
      if (await beginLaunch(tx, launchId, began)) await toTell(tx, launchId, "started", began);
    });
  }
  launch = await getLaunch(sql, launchId);
  if (launch?.state !== "sending") return null;
  if (!launch.itemsChecked) {
    if (!(await lookAgain(services, launch))) return null;
    launch = (await getLaunch(sql, launchId))!;
  }
  if (launch.readersTo !== null) await start(services, launch);
  if (launch.split) launch = await drawn(services, launch);
  await recover(services, launch, lease);
  const pause = await handOver(services, launch, lease);
  await askAfterUnsure(services, launch);
  if (pause) return stop(services, launchId, pause);
  const now = clock.now();
  const due = await nextDue(sql, launchId, now);
  if (due) return due;
  const unsure = await unsureIds(sql, launchId);
  if (unsure.length === 0) {
    const next = launch.split && (await decide(services, launch));
    if (next instanceof Date) return next;
    if (next) return stop(services, launchId, next);
    await noteSentItems(sql, launch, now);
    await database.tx(async (tx) => {
      if (await finishLaunch(tx, launchId, now)) await toTell(tx, launchId, "ended", now);
    });
  } else if (canAsk(services)) return later(now, LIMITS.askAfter);
  else await stop(services, launchId, { why: "unsure", reason: "The connection broke." });
  return null;
}

/** Writes its readers down. The rules are read as of the moment it began, however often it is stopped. */
async function start(services: Services, launch: Launch): Promise<void> {
  const { database } = services;
  const at = launch.startedAt ?? services.clock.now();
  const segments = new Map(launch.segments.map(({ id, rule }) => [id, rule]));
  const rules = [...segments.values(), ...rulesOfAudience(launch.audience)];
  const world = { ...(await worldOf(database.sql, { now: () => at }, rules)), segments };
  const own = await dueOf(database.sql, launch, world, at);
  const all = launch.pace.best === null ? null : await hoursOfAll(database.sql, launch, world, own);
  const due = { ...own, all };
  await inPieces(
    services,
    async (sql, rows) => (await writeReaders(sql, launch, world, rows, at, due)) !== null,
  );
}

/** Writes down who does not get a launch that was ended half-way. */
export async function leaveRest(services: Services, launchId: string): Promise<void> {
  const { clock, database } = services;
  await inPieces(
    services,
    async (sql, rows) => (await leaveOut(sql, launchId, rows, clock.now())) > 0,
  );
  const launch = await getLaunch(database.sql, launchId);
  if (launch) await noteSentItems(database.sql, launch, clock.now());
}

/** The outbox tells what it has; another service cannot be asked, and a person decides. */
const canAsk = ({ mailer }: Services) => mailer.has !== null;

/** The ids of a launch's messages, by recipient. */
function idsOf({ config, signer }: Services, launch: Launch): (recipient: number) => string {
  const domain = idDomain(readyLaunch(launch, signer).compiled, config);
  return (recipient) => messageIdOf(launch.id, recipient, domain);
}

/** Settles what a crash left between hand-over and answer. */
async function recover(services: Services, launch: Launch, lease: string): Promise<void> {
  const { database, clock } = services;
  const now = clock.now();
  const left = await recoverRecipients(database.sql, launch.id, lease, now);
  if (left.length === 0) return;
  const reply = "It was under way when Septima was stopped.";
  const outcomes = left.map(({ id }): Outcome => ({ id, state: "unsure", reply, nextTryAt: now }));
  await database.tx((tx) => settle(tx, outcomes, lease, now));
}

/** Asks the outbox after messages whose line broke a while ago. */
async function askAfterUnsure(services: Services, launch: Launch): Promise<void> {
  const { database, clock, mailer } = services;
  if (!mailer.has) return;
  const now = clock.now();
  const unsure = await unsureIds(database.sql, launch.id, now);
  if (unsure.length === 0) return;
  const idOf = idsOf(services, launch);
  const arrived = await mailer.has(unsure.map(idOf));
  const came = unsure.filter((id) => arrived.has(idOf(id)));
  await settleUnsure(database.sql, unsure, came, now);
}

/** Lets a launch stand still; gives when it tries by itself. */
async function stop(services: Services, id: string, { why, reason }: Stop): Promise<Date | null> {
  const { database, clock } = services;
  const now = clock.now();
  const waits = await waitsOf(database.sql, id);
  const resumeAt = triesItself(why) ? later(now, waitFor(waits)) : null;
  await pauseLaunch(database.sql, id, { why, reason, resumeAt }, now);
  return resumeAt;
}
