/** Handing over what is due of a launch: claimed, made, sent over as many lines as there may be, and settled. */
import { asksForLessHaste, domainOfAddress } from "#core/delivery/domains.ts";
import { type Answer, type Pause, triesItself, watchAnswers } from "#core/delivery/index.ts";
import { LIMITS } from "#core/limits.ts";
import { readyLaunch } from "../campaigns/emails.ts";
import type { Sql } from "../db/database.ts";
import type { HandOver } from "../mail/connection.ts";
import type { Services } from "../services.ts";
import { ownItems } from "../sources/choosing.ts";
import { codedFiles } from "../store/attachments.ts";
import { getSchema } from "../store/fields.ts";
import {
  type Claimed,
  claimRecipients,
  markHanded,
  releaseClaimed,
} from "../store/launches/claim.ts";
import type { Launch } from "../store/launches/freeze.ts";
import { forgetWaits } from "../store/launches/pause.ts";
import { progressOf } from "../store/launches/progress.ts";
import { type Outcome, settle } from "../store/launches/settle.ts";
import { eachVariant } from "../store/launches/variants.ts";
import { getSettings } from "../store/settings.ts";
import { gather } from "./gather.ts";
import { later } from "./later.ts";
import { partsOf } from "./making/make.ts";
import { patiently } from "./patience.ts";
import { Stopped } from "./pieces.ts";

/** Why a launch is to stand still. */
export interface Stop {
  readonly why: Pause;
  readonly reason: string;
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
export async function handOver(
  services: Services,
  launch: Launch,
  lease: string,
): Promise<Stop | null> {
  const { database, clock, signer, mailer, makers, visitors, stopping } = services;
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
  const work = makers({ variants: variants.map(partsOf), files });
  const { bounceShare, perMinute = null } = (await getSettings(sql)).sending;
  const watch = watchAnswers(
    { taken: before.accepted, bounced: before.bounced },
    launch.bouncesAllowed ? null : bounceShare / 100,
  );
  const begun = gather((ids: readonly number[]) => markHanded(sql, ids, lease));
  // What a service has taken is written down however long the disk is full: else nobody knew it.
  const settled = gather((outcomes: readonly Outcome[]) => {
    const write = (to: Sql) => settle(to, outcomes, lease, clock.now());
    // Without a bounce it is one statement, which is whole by itself and keeps nobody else from the database.
    const several = outcomes.some(({ state }) => state === "bounced");
    return patiently(() => (several ? database.tx(write) : write(sql)), stopping);
  }, LIMITS.sendSettleMs);
  let stopWith: Stop | null = null;
  let halted = false;
  let took = false;
  const goesOn = () => !halted && !stopping.aborted;

  /** Those that were ready before somebody came to look at a page let them by as well. */
  async function mayBegin(id: number): Promise<boolean> {
    await visitors.quiet(LIMITS.visitorLineMs);
    return goesOn() && (await begun(id)).has(id);
  }

  async function hand(recipient: Claimed): Promise<void> {
    const domain = domainOfAddress(recipient.email);
    const placed = mailer.domains.place(domain, recipient.id, clock.now(), perMinute);
    if (placed) {
      // It was not tried: it waits for its place, and spends nothing of its patience.
      const state = recipient.tries === 0 ? "waiting" : "deferred";
      await settled({ id: recipient.id, state, reply: "", nextTryAt: placed });
      return;
    }
    const date = recipient.dueAt ?? launch.startedAt!;
    const message = await work.make({ ...recipient, date });
    // It is written down that it goes while its envelope is on the line, and its content waits for that.
    const begin = () => goesOn() && mayBegin(recipient.id);
    const answered = await mailer.carry(message, begin);
    if (!answered) {
      // Another's by now, or the launch stands still.
      halted = true;
      return;
    }
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
    claim ??= visitors
      .quiet(LIMITS.visitorLineMs)
      .then(() => database.tx((tx) => claimRecipients(tx, claiming, schema, lease, clock.now())))
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
        // Whoever looks at a page has the machine first.
        await visitors.quiet();
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
    work.end();
    await releaseClaimed(sql, launch.id, lease);
    if (took) await forgetWaits(sql, launch.id);
  }
  if (stopping.aborted) throw new Stopped();
  return stopWith;
}
