/**
 * A launch to 100,000: `start_100k_vs_sql` (freezing and queueing it, without its rests for others, against
 * one insert written by hand; at most 3) and
 * `send_100k_rss_growth_mb` (the memory of the process while 20,000 of them are handed over, over what it was; at most 150).
 */
import { runLaunch } from "#server/jobs/sender.ts";
import type { Figure } from "../run.ts";
import { scheduled, withSender } from "./setting.ts";

const READERS = 100_000;
const HANDED = 20_000;
const LOOKS_MS = 200;
const ROUNDS = 3;
const mb = () => process.memoryUsage().rss / 1e6;

export const manyGroup = (figure: Figure): Promise<void> =>
  withSender(READERS, async ({ services, contacts, member, mailer }) => {
    const { sql } = services.database;
    const [ours, byHand]: number[][] = [[], []];
    const freezing: number[] = [];
    let launch = "";
    /** One that nothing of goes: it ends where its readers are all written down. */
    const onlyStarts = {
      ...services,
      config: { ...services.config, pauses: false },
      mailer: { ...mailer, carry: async () => null },
    };
    for (let i = 0; i < ROUNDS; i++) {
      await sql`delete from recipients`;
      let begun = performance.now();
      launch = await scheduled(services, contacts, member);
      const frozen = performance.now() - begun;
      freezing.push(frozen);
      begun = performance.now();
      await runLaunch(onlyStarts, launch);
      ours!.push(performance.now() - begun + frozen);
      const [{ n }] = (await sql<{ n: number }>`select count(*)::int as n from recipients`) as [
        { n: number },
      ];
      if (n !== READERS) throw new Error(`${n} of ${READERS} were written down`);
      await sql`delete from recipients`;
      begun = performance.now();
      await sql`insert into recipients (launch_id, contact_id, email, next_try_at, bits)
        select ${launch}, c.id, c.email, ${services.clock.now()}, '' from contacts c
        where c.id = any (${contacts}::bigint[])
          and not exists (select 1 from suppressions s where s.email_folded = c.email_folded)`;
      byHand!.push(performance.now() - begun);
    }
    console.log(
      `ours ${ours!.map(Math.round)} (freezing ${freezing.map(Math.round)}), by hand ${byHand!.map(Math.round)} ms`,
    );
    figure("start_100k_vs_sql", Math.min(...ours!) / Math.min(...byHand!));

    // The last of them goes on, until so many have gone.
    let handed = 0;
    const counting = {
      ...services,
      mailer: {
        ...mailer,
        carry: async (...given: Parameters<typeof mailer.carry>) =>
          ++handed > HANDED ? null : mailer.carry(...given),
      },
    };
    const before = mb();
    let most = before;
    const looking = setInterval(() => {
      most = Math.max(most, mb());
    }, LOOKS_MS);
    await runLaunch(counting, launch);
    clearInterval(looking);
    console.log(`${before.toFixed(0)} MB before, ${most.toFixed(0)} at most; ${handed} handed`);
    figure("send_100k_rss_growth_mb", most - before);
  });
