/**
 * A service in every mood: `smtp_moods` (at least 40: phase × answer × how long it lasts) with
 * `wrongly_suppressed`, `smtp_lost` and `smtp_doubled` 0, and `two_senders_doubled` 0 in 20 runs.
 */

import { PHASES, type Phase } from "#core/delivery/index.ts";
import { decideOnUnsure, goOn, scheduleCampaign } from "#server/campaigns/scheduling.ts";
import { migrate, openInMemory } from "#server/db/open.ts";
import { runLaunch } from "#server/jobs/sender.ts";
import { createMailer } from "#server/mail/mailer.ts";
import { addList } from "#server/store/audience.ts";
import { createCampaign, getCampaign } from "#server/store/campaigns.ts";
import { addContacts } from "#server/store/contacts.ts";
import { getLaunch } from "#server/store/launches/freeze.ts";
import { standingOfLaunch } from "#server/store/launches/progress.ts";
import { TEST_MAIL_KEYS } from "#server/testing/mail-keys.ts";
import { type Mood, startMoodyService } from "#server/testing/moody-service.ts";
import { smallCampaign, smallNewsletter } from "#server/testing/newsletter.ts";
import { servicesOn, type TestServices } from "#server/testing/services.ts";
import type { Figure } from "../run.ts";

const READERS = 24;
const TWO_SENDERS = 20;
/** More rounds than any launch needs to come to its end. */
const ROUNDS = 80;

const SAYS: readonly Mood["says"][] = [
  "421 4.3.2 Going down",
  "450 4.2.0 Greylisted",
  "451 4.3.0 Something went wrong",
  "452 4.3.1 Out of storage",
  "454 4.7.0 Not now",
  "535 5.7.8 Wrong password",
  "550 5.1.1 No such mailbox",
  "550 No such user",
  "550 5.7.1 Policy",
  "552 5.2.2 Quota exceeded",
  "554 5.7.1 Looks like spam",
  "554 No",
  "what is this",
  { does: "cut" },
  { does: "hang" },
];

/** Each answer in each phase: until it is mended, for some messages, and where it keeps what it then refuses to answer. */
const MOODS: readonly Mood[] = PHASES.flatMap((phase: Phase) =>
  SAYS.flatMap((says): Mood[] => [
    { phase, says },
    { phase, says, times: 5 },
    ...(phase === "content" && typeof says !== "string"
      ? [{ phase, says, keeps: true, times: 5 }]
      : []),
  ]),
);

const isGone = ({ phase, says }: Mood) =>
  typeof says === "string" &&
  says.startsWith("550 ") &&
  !says.includes("5.7") &&
  (phase === "reader" || (phase === "content" && says.includes("5.1.1")));

interface Outcome {
  readonly wrong: number;
  readonly lost: number;
  readonly doubled: number;
}

async function tryMood(
  services: TestServices,
  service: Awaited<ReturnType<typeof startMoodyService>>,
  mood: Mood,
  n: number,
  member: string,
): Promise<Outcome> {
  const { sql } = services.database;
  const now = services.clock.now();
  const emails = Array.from({ length: READERS }, (_, i) => `mood${n}.${i}@example.org`);
  const contacts = await addContacts(
    sql,
    emails.map((email) => ({ email, values: {}, createdAt: now })),
  );
  const list = await addList(sql, `Mood ${n}`, contacts, now);
  const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
  const id = await createCampaign(sql, `Mood ${n}`, smallNewsletter(), now, audience);
  await scheduleCampaign(services, (await getCampaign(sql, id))!, null, "Europe/London", member);
  const launch = (await getCampaign(sql, id))!.launchId!;
  const before = service.receivers.length;
  service.mood(mood);
  for (let round = 0; round < ROUNDS; round++) {
    const due = await runLaunch(services, launch);
    // Somebody mends the service after a while.
    if (round === 2) service.mood(null);
    const { state } = (await getLaunch(sql, launch))!;
    if (state === "done") break;
    const { why } = (await standingOfLaunch(sql, launch))!;
    if (why === "unsure") await decideOnUnsure(services, id, "leave");
    else if (why && !due) await goOn(services, id);
    if (due && due > services.clock.now()) services.clock.set(due);
  }
  const rows = await sql<{ email: string; state: string }>`
    select email, state from recipients where launch_id = ${launch}`;
  const got = service.receivers.slice(before);
  const came = new Set(got);
  const held = await sql<{ email: string }>`
    select email_folded as email from suppressions where email_folded like ${`mood${n}.%`}`;
  const ended = new Set(["bounced", "refused", "left"]);
  return {
    wrong: isGone(mood) ? 0 : held.length,
    // Said to have come and did not; or nobody has come to an end with it.
    lost: rows.filter(({ email, state }) =>
      state === "accepted" ? !came.has(email) : !ended.has(state),
    ).length,
    doubled: got.length - came.size,
  };
}

export async function moodsGroup(figure: Figure): Promise<void> {
  const service = await startMoodyService();
  const database = await openInMemory();
  await migrate(database);
  const mailer = createMailer(service.address, TEST_MAIL_KEYS, { connect: 400, answer: 250 });
  const services = await servicesOn(database, mailer);
  const { member } = await smallCampaign(services, ["first@example.org"]);
  const sum = { wrong: 0, lost: 0, doubled: 0 };
  for (const [n, mood] of MOODS.entries()) {
    const { wrong, lost, doubled } = await tryMood(services, service, mood, n, member.id);
    if (wrong + lost + doubled > 0) {
      console.log(
        `  ${JSON.stringify(mood)}: ${wrong} suppressed, ${lost} lost, ${doubled} doubled`,
      );
    }
    sum.wrong += wrong;
    sum.lost += lost;
    sum.doubled += doubled;
  }
  figure("smtp_moods", MOODS.length);
  figure("wrongly_suppressed", sum.wrong);
  figure("smtp_lost", sum.lost);
  figure("smtp_doubled", sum.doubled);
  figure("two_senders_doubled", await twoSenders(services, service, member.id));
  mailer.close();
  await service.close();
  await services.close();
}

/** Messages that came twice where two senders, each with lines of its own, work on one launch. */
async function twoSenders(
  services: TestServices,
  service: Awaited<ReturnType<typeof startMoodyService>>,
  member: string,
): Promise<number> {
  const { sql } = services.database;
  service.mood(null);
  let doubled = 0;
  for (let n = 0; n < TWO_SENDERS; n++) {
    const now = services.clock.now();
    const emails = Array.from({ length: 150 }, (_, i) => `two${n}.${i}@example.org`);
    const contacts = await addContacts(
      sql,
      emails.map((email) => ({ email, values: {}, createdAt: now })),
    );
    const list = await addList(sql, `Two ${n}`, contacts, now);
    const audience = { include: [{ kind: "list" as const, id: list }], exclude: [] };
    const id = await createCampaign(sql, `Two ${n}`, smallNewsletter(), now, audience);
    await scheduleCampaign(services, (await getCampaign(sql, id))!, null, "Europe/London", member);
    const launch = (await getCampaign(sql, id))!.launchId!;
    const before = service.taken.length;
    const other = { ...services, mailer: createMailer(service.address, TEST_MAIL_KEYS) };
    await Promise.all([runLaunch(services, launch), runLaunch(other, launch)]);
    await runLaunch(services, launch);
    other.mailer.close();
    const taken = service.taken.slice(before);
    doubled += taken.length - new Set(taken).size;
    if (new Set(taken).size !== 150) throw new Error(`${new Set(taken).size} of 150 came`);
  }
  return doubled;
}
