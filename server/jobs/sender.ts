/** The sender: takes a launch from its start to the last settled message, across crashes and a service's moods. */

import { asksForLessHaste, domainOfAddress } from "#core/delivery/domains.ts";
import {
  type Answer,
  type Pause,
  triesItself,
  waitFor,
  watchAnswers,
} from "#core/delivery/index.ts";
import { LIMITS } from "#core/limits.ts";
import { worldOf } from "../audience/world.ts";
import {
  idDomain,
  launchMessage,
  launchReader,
  messageIdOf,
  readyLaunch,
} from "../campaigns/emails.ts";
import { lookAgain, noteSentItems } from "../campaigns/launch-items.ts";
import { toTell } from "../campaigns/telling.ts";
import type { Sql } from "../db/database.ts";
import type { HandOver } from "../mail/connection.ts";
import type { Services } from "../services.ts";
import { ownItems } from "../sources/choosing.ts";
import { codedFiles } from "../store/attachments.ts";
import { rulesOfAudience } from "../store/audience.ts";
import { getSchema } from "../store/fields.ts";
import {
  type Claimed,
  claimRecipients,
  markHanded,
  recoverRecipients,
  releaseClaimed,
} from "../store/launches/claim.ts";
import { getLaunch, type Launch } from "../store/launches/freeze.ts";
import { hoursOfAll } from "../store/launches/hours.ts";
import {
  finishLaunch,
  forgetWaits,
  leaveOut,
  pauseLaunch,
  resumeLaunch,
  waitsOf,
} from "../store/launches/pause.ts";
import { nextDue, progressOf, unsureIds } from "../store/launches/progress.ts";
import { type Outcome, settle, settleUnsure } from "../store/launches/settle.ts";
import { beginLaunch, beginsAt, writeReaders } from "../store/launches/start.ts";
import { eachVariant } from "../store/launches/variants.ts";
import { endLease, renewLease, takeLease } from "../store/leases.ts";
import { getSettings } from "../store/settings.ts";
import { dueOf } from "./due.ts";
import { gather } from "./gather.ts";
import { patiently } from "./patience.ts";
import { inPieces, Stopped } from "./pieces.ts";
import { decide, drawn } from "./split.ts";

const later = (now: Date, ms: number) => new Date(now.getTime() + ms);

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
    if (at && at > clock.now()) return at;
    const began = clock.now();
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
  const pause = await send(services, launch, lease);
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

export interface Stop {
  readonly why: Pause;
  readonly reason: string;
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

/** What an answer makes of a message, and how pausing looks at it. */
function outcomeOf(
  answer: HandOver,
  { id, tries }: Claimed,
  now: Date,
): { outcome: Outcome; answer: Answer } {
  const { reply } = answer;
  const is = (state: Outcome["state"], answer: Answer, more: Partial<Outcome> = {}) => ({
    outcome: { id, state, reply, nextTryAt: now, ...more },
    answer,
  });
  if (answer.state === "accepted") return is("accepted", "taken");
  if (answer.state === "unsure") {
    return is("unsure", "connection", { nextTryAt: later(now, LIMITS.askAfter) });
  }
  const { kind, lasting, gone } = answer.verdict;
  if (kind === "service" || kind === "connection") return is("deferred", kind);
  const spent = lasting || tries + 1 >= LIMITS.sendTries;
  if (!spent) {
    const waits = LIMITS.sendWaits;
    const minutes = waits[Math.min(tries, waits.length - 1)]!;
    const answer = kind === "message" ? "message" : "deferred";
    return is("deferred", answer, { nextTryAt: later(now, minutes * 60_000), spends: true });
  }
  if (kind === "message") return is("refused", "message");
  return is("bounced", "bounced", { soft: !gone });
}

/** Put off because its domain asks for less haste: that spends nothing of it until the domain has asked for long. */
const slowed = (outcome: Outcome, nextTryAt: Date, now: Date): Outcome => ({
  ...outcome,
  nextTryAt,
  spends: nextTryAt.getTime() - now.getTime() >= LIMITS.domainWaits.at(-1)!,
});

/** What chooses for its readers: as of the moment it began, however often it is stopped. */
async function ownItemsOf(sql: Sql, { doc, surroundings, startedAt, sendAt, zone }: Launch) {
  const own = await ownItems(sql, doc, surroundings.live, startedAt ?? sendAt, zone);
  return own?.values ?? null;
}

/** Hands over what is due, over as many lines as there may be. Gives why it is to stand still, or null. */
async function send(services: Services, launch: Launch, lease: string): Promise<Stop | null> {
  const { database, clock, signer, mailer, stopping } = services;
  const { sql } = database;
  const variants = eachVariant(launch);
  const ready = variants.map((one) => readyLaunch(one, signer));
  const refs = [...new Set(ready.flatMap((one) => one.refs))];
  const own = await Promise.all(variants.map((one) => ownItemsOf(sql, one)));
  const takes = ready.map(({ codes }, i) => ({ codes, own: own[i]! }));
  const claiming = { id: launch.id, conditions: launch.conditions, refs, variants: takes };
  const schema = await getSchema(sql);
  const files = await codedFiles(sql, launch.attachments);
  const before = await progressOf(sql, launch.id);
  const { bounceShare, perMinute = null } = (await getSettings(sql)).sending;
  const watch = watchAnswers(
    { taken: before.accepted, bounced: before.bounced },
    launch.bouncesAllowed ? null : bounceShare / 100,
  );
  const handed = gather((ids: readonly number[]) => markHanded(sql, ids, lease));
  // What a service has taken is written down however long the disk is full: else nobody knew it.
  const settled = gather((outcomes: readonly Outcome[]) => {
    const write = (to: Sql) => settle(to, outcomes, lease, clock.now());
    // Without a bounce it is one statement, which is whole by itself and keeps nobody else from the database.
    const several = outcomes.some(({ state }) => state === "bounced");
    return patiently(() => (several ? database.tx(write) : write(sql)), stopping);
  });
  let stopWith: Stop | null = null;
  let halted = false;
  let took = false;
  const goesOn = () => !halted && !stopping.aborted;

  /** Another's by now, or the launch stands still: it does not go. */
  class NotOurs extends Error {}

  async function hand(recipient: Claimed): Promise<void> {
    const domain = domainOfAddress(recipient.email);
    const later = mailer.domains.place(domain, recipient.id, clock.now(), perMinute);
    if (later) {
      // It was not tried: it waits for its place, and spends nothing of its patience.
      const state = recipient.tries === 0 ? "waiting" : "deferred";
      await settled({ id: recipient.id, state, reply: "", nextTryAt: later });
      return;
    }
    const token = signer.sign({ kind: "message", recipient: recipient.id });
    const reader = launchReader(ready[recipient.variant]!, recipient, token);
    const message = launchMessage(
      variants[recipient.variant]!,
      recipient,
      reader,
      services,
      recipient.dueAt ?? launch.startedAt!,
      files,
    );
    const mark = async () => {
      if (!(await handed(recipient.id)).has(recipient.id)) throw new NotOurs();
    };
    const begin = () => {
      if (!goesOn()) throw new NotOurs();
    };
    const answered = await mailer.send(message, mark, begin).catch((error) => {
      halted = true;
      if (error instanceof NotOurs) return null;
      throw error;
    });
    if (!answered) return;
    const { outcome: judged, answer } = outcomeOf(answered, recipient, clock.now());
    const hasty = judged.state === "deferred" && asksForLessHaste(answered.reply);
    const outcome = hasty
      ? slowed(judged, mailer.domains.slower(domain, clock.now()), clock.now())
      : judged;
    if (answer === "taken") mailer.domains.took(domain);
    const why = watch.saw(answer);
    if (why && (!stopWith || triesItself(stopWith.why))) {
      stopWith = { why, reason: answered.reply };
      halted = true;
    }
    if (answer === "taken") took = true;
    await settled(outcome);
  }

  const claimed: Claimed[] = [];
  let more = true;
  let claim: Promise<void> | null = null;
  /** Claims the next while those before them are still handed over. */
  const claimMore = () => {
    claim ??= database
      .tx((tx) => claimRecipients(tx, claiming, schema, lease, clock.now()))
      .then((batch) => {
        claimed.push(...batch.claimed);
        more = batch.more;
      })
      .catch((error) => {
        halted = true;
        throw error;
      })
      .finally(() => {
        claim = null;
      });
    return claim;
  };
  async function line(): Promise<void> {
    while (goesOn()) {
      const next = claimed.shift();
      if (next) {
        const low = more && claimed.length < LIMITS.sendAhead;
        // Whatever becomes of one of them, the other is waited for.
        const both = await Promise.allSettled([hand(next), low ? claimMore() : null]);
        const failed = both.find((one) => one.status === "rejected");
        if (failed) throw failed.reason;
      } else if (more || claim) await claimMore();
      else return;
    }
  }
  try {
    const ahead = LIMITS.sendParallel + LIMITS.sendAhead;
    const lines = await Promise.allSettled(Array.from({ length: ahead }, line));
    const failed = lines.find((one) => one.status === "rejected");
    if (failed) throw failed.reason;
  } finally {
    await releaseClaimed(sql, launch.id, lease);
    if (took) await forgetWaits(sql, launch.id);
  }
  if (stopping.aborted) throw new Stopped();
  return stopWith;
}
