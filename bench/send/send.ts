/**
 * Sending: `send_vs_bare_smtp` (personalised, signed, tracked messages a second through the whole pipeline over those
 * of a bare loop of the SMTP library with the same email, fixed and unsigned; at least 1.5), and `send_growth_10x`
 * (50,000 messages over 5,000; at most 11).
 */
import nodemailer from "nodemailer";
import { LIMITS } from "#core/limits.ts";
import { rendered } from "#core/testing/rendered.ts";
import { runLaunch } from "#server/jobs/sender.ts";
import type { Figure } from "../run.ts";
import { email, scheduled, withSender } from "./setting.ts";

const READERS = 5_000;
const MANY = 50_000;
const BARE = 2_000;
const ROUNDS = 3;

/** Messages a second of the library alone, one fixed message over as many connections. */
async function bare(address: string): Promise<number> {
  const { port } = new URL(address);
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: Number(port),
    ignoreTLS: true,
    pool: true,
    maxConnections: LIMITS.sendParallel,
    maxMessages: Number.POSITIVE_INFINITY,
  });
  const { html, text } = rendered(email());
  const one = { from: "news@larkmoor.example", to: "a@example.org", subject: "News", html, text };
  const begun = performance.now();
  await Promise.all(Array.from({ length: BARE }, () => transport.sendMail(one)));
  const took = performance.now() - begun;
  transport.close();
  return (BARE * 1000) / took;
}

/** ms for the whole pipeline: readers written down, claimed, merged, signed, handed over, settled. */
async function sent(...given: Parameters<typeof scheduled>): Promise<number> {
  const launch = await scheduled(...given);
  const begun = performance.now();
  await runLaunch(given[0], launch);
  return performance.now() - begun;
}

export const sendGroup = (figure: Figure): Promise<void> =>
  withSender(MANY, async ({ services, sink, contacts, member }) => {
    const few = contacts.slice(0, READERS);
    await sent(services, few.slice(0, 200), member);
    const [bareRates, ours]: number[][] = [[], []];
    for (let i = 0; i < ROUNDS; i++) {
      bareRates!.push(await bare(sink.address));
      ours!.push(await sent(services, few, member));
    }
    const rate = (READERS * 1000) / Math.min(...ours!);
    const library = Math.max(...bareRates!);
    console.log(`ours ${rate.toFixed(0)} a second, bare ${library.toFixed(0)}`);
    figure("send_vs_bare_smtp", rate / library);
    figure("send_growth_10x", (await sent(services, contacts, member)) / Math.min(...ours!));
  });
