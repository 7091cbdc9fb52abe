/** The sender: takes a launch from its start to the last settled message, across crashes. */
import { LIMITS } from "#core/limits.ts";
import { idDomain, launchMessage, launchReader, messageIdOf, readyLaunch } from "../emails.ts";
import type { Services } from "../services.ts";
import { getSchema } from "../store/fields.ts";
import {
  type Claimed,
  claimRecipients,
  finishLaunch,
  getLaunch,
  type Launch,
  markHanded,
  nextDue,
  type Outcome,
  recoverRecipients,
  settle,
  startLaunch,
} from "../store/launches.ts";
import { acceptedIds } from "../store/outbox.ts";
import { worldOf } from "../world.ts";

/** Minutes to wait before the next try, by tries so far. */
const WAIT_MINUTES = [1, 5, 20, 60, 240];

/** Seconds to wait where the mail service was not there at all. */
const ABSENT_SECONDS = 5;

function nextTry(now: Date, state: Outcome["state"], tries: number): Date {
  if (state === "waiting") return new Date(now.getTime() + ABSENT_SECONDS * 1_000);
  const minutes = WAIT_MINUTES[Math.min(tries, WAIT_MINUTES.length) - 1]!;
  return new Date(now.getTime() + minutes * 60_000);
}

/**
 * Works on a launch until nothing is due. Gives when to come back, or null when it is done. Called again
 * after a crash it goes on where it stopped; nobody gets a message twice.
 */
export async function runLaunch(services: Services, launchId: string): Promise<Date | null> {
  const { database, clock } = services;
  const { sql } = database;
  const launch = await getLaunch(sql, launchId);
  if (!launch || !["scheduled", "sending"].includes(launch.state)) return null;
  if (launch.state === "scheduled") {
    const segments = new Map(launch.segments.map(({ id, rule }) => [id, rule]));
    const world = { ...(await worldOf(sql, clock)), segments };
    const started = await database.tx((tx) => startLaunch(tx, launch, world, clock.now()));
    if (!started) return null;
  }
  await recover(services, launch);
  const { refs, codes } = readyLaunch(launch, services.signer);
  const claiming = { id: launchId, conditions: launch.conditions, refs, codes };
  const schema = await getSchema(sql);
  for (;;) {
    const { claimed, more } = await database.tx((tx) =>
      claimRecipients(tx, claiming, schema, clock.now()),
    );
    if (!more) break;
    await sendBatch(services, launch, claimed);
  }
  const due = await nextDue(sql, launchId);
  if (!due) await finishLaunch(sql, launchId, clock.now());
  return due;
}

/** Settles what a crash left between hand-over and answer, by asking the service that got it. */
async function recover(services: Services, launch: Launch): Promise<void> {
  const { database, clock, config, signer } = services;
  const left = await recoverRecipients(database.sql, launch.id);
  if (left.length === 0) return;
  const domain = idDomain(readyLaunch(launch, signer).compiled, config);
  const idOf = (r: { id: number }) => messageIdOf(launch.id, r.id, domain);
  const now = clock.now();
  // Another service cannot be asked: then a person decides, and nothing is sent twice silently.
  const accepted = config.smtp ? null : await acceptedIds(database.sql, left.map(idOf));
  const outcomes = left.map((r): Outcome => {
    const state = accepted ? (accepted.has(idOf(r)) ? "accepted" : "waiting") : "unsure";
    return { id: r.id, state, reply: "settled after a restart", nextTryAt: now };
  });
  await settle(database.sql, outcomes, now);
}

async function sendBatch(
  services: Services,
  launch: Launch,
  batch: readonly Claimed[],
): Promise<void> {
  const { database, clock, mailer, signer } = services;
  const ready = readyLaunch(launch, signer);
  await markHanded(
    database.sql,
    batch.map((r) => r.id),
  );
  const outcomes = await Promise.all(
    batch.map(async (recipient): Promise<Outcome> => {
      const token = signer.sign({ kind: "message", recipient: recipient.id });
      const reader = launchReader(ready, recipient, token);
      const message = launchMessage(launch, recipient, reader, services, clock.now());
      const { state, reply } = await mailer.send(message);
      const spent = state === "deferred" && recipient.tries >= LIMITS.sendTries;
      return {
        id: recipient.id,
        state: spent ? "bounced" : state,
        reply,
        nextTryAt: nextTry(clock.now(), state, recipient.tries),
      };
    }),
  );
  await settle(database.sql, outcomes, clock.now());
}
