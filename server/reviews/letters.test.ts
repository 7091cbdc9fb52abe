import { afterEach, beforeEach, expect, it } from "vitest";
import { watchDomains } from "#core/delivery/domains.ts";
import { LIMITS } from "#core/limits.ts";
import type { Mailer } from "../mail/mailer.ts";
import type { Message } from "../mail/message.ts";
import { smallCampaign } from "../testing/newsletter.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { queueLetter, sendLetter } from "./letters.ts";

let services: TestServices;
let sent: Message[];
let answer: Awaited<ReturnType<Mailer["send"]>>;
beforeEach(async () => {
  sent = [];
  answer = { state: "accepted", reply: "250 Fine" };
  services = await startTestServices({
    async send(message) {
      sent.push(message);
      return answer;
    },
    carry: async () => null,
    close() {},
    has: null,
    domains: watchDomains(),
  });
  await smallCampaign(services, ["one@example.org"]);
});
afterEach(() => services.close());

const HOSTILE = 'Look\r\nBcc: all@x.example <script>alert(1)</script> & "so"';
/** What the queue holds of a letter that says this. */
async function queued(words: string): Promise<unknown> {
  const { sql } = services.database;
  const link = { words: "Look", address: "https://septima.example/review/1.a" };
  const letter = { to: "jonas@board.example", subject: words, paragraphs: [words, "Two"], link };
  await queueLetter(sql, letter, services.clock.now());
  return (await sql<{ payload: unknown }>`select payload from jobs where kind = 'letter'`)[0]!
    .payload;
}

it("is written in words alone, whatever somebody is called", async () => {
  expect(await sendLetter(services, await queued(HOSTILE))).toBeNull();
  const [letter] = sent;
  expect(letter).toMatchObject({
    to: { address: "jonas@board.example" },
    lang: "en",
    unsubscribe: null,
  });
  expect(String(letter!.html)).not.toContain("<script>");
  expect(String(letter!.html)).toContain('<a href="https://septima.example/review/1.a">Look</a>');
  expect(letter!.text).toContain("https://septima.example/review/1.a\n\nTwo");
});

it("is tried again for a day where the service has no time, and given up where it says no", async () => {
  const payload = await queued("Look");
  const now = services.clock.now().getTime();
  const verdict = { kind: "reader", lasting: false } as const;
  answer = { state: "refused", verdict: verdict as never, reply: "451 Later" };
  expect(await sendLetter(services, payload)).toEqual(new Date(now + LIMITS.letterAgain));
  services.clock.advance(LIMITS.letterTried);
  expect(await sendLetter(services, payload)).toBeNull();
  services.clock.advance(-LIMITS.letterTried);
  const lasting = { ...verdict, lasting: true };
  answer = { state: "refused", verdict: lasting as never, reply: "550 No" };
  expect(await sendLetter(services, payload)).toBeNull();
  // Nobody knows whether it came: it is not sent twice.
  answer = { state: "unsure", reply: "" };
  expect(await sendLetter(services, payload)).toBeNull();
  expect(sent).toHaveLength(4);
});
