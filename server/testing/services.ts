/** Services for tests: a database in memory, an outbox, a clock that stands still until it is moved. */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pino from "pino";
import { arrivingBy } from "../arriving/arriving.ts";
import { answer } from "../arriving/work.ts";
import { createContactViews } from "../audience/contact-views.ts";
import type { Clock } from "../clock.ts";
import { readConfig } from "../config.ts";
import type { Database } from "../db/database.ts";
import { createFollowers } from "../http/followers.ts";
import { createFramePages } from "../http/frame-pages.ts";
import { createGuesses } from "../http/guesses.ts";
import { createStreams } from "../http/streams.ts";
import { createVisitors } from "../http/visitors.ts";
import { convert } from "../images/convert.ts";
import { openPictures } from "../images/pictures.ts";
import { makersOf } from "../jobs/making/makers.ts";
import { openKept } from "../kept-files.ts";
import { createMailer, type Mailer } from "../mail/mailer.ts";
import { startOutbox } from "../mail/outbox.ts";
import type { OutboxMoods } from "../mail/outbox-moods.ts";
import { createDomains } from "../mail/resolver.ts";
import type { Services } from "../services.ts";
import { shippedTxt } from "../standins/dns.ts";
import { shippedFetcher } from "../standins/fetcher.ts";
import { acceptedIds } from "../store/outbox.ts";
import { createSigner } from "../tracking/signer.ts";
import { lookUp } from "../writing/dictionaries.ts";
import { createLocalHelper } from "../writing/local.ts";
import { TEST_KEY_FILE, TEST_MAIL_KEYS } from "./mail-keys.ts";

export interface TestClock extends Clock {
  set(now: Date): void;
  advance(ms: number): void;
}

export function testClock(start = new Date("2026-03-02T10:00:00Z")): TestClock {
  let now = start;
  return {
    now: () => now,
    set: (date) => {
      now = date;
    },
    advance: (ms) => {
      now = new Date(now.getTime() + ms);
    },
  };
}

export interface TestServices extends Services {
  readonly clock: TestClock;
  /** As the process is told to end. */
  stop(): void;
  close(): Promise<void>;
}

/** Starts them on a migrated database of a test; `mailer` stands in for the outbox where a test needs its own answers. */
export async function startTestServices(mailer?: Mailer): Promise<TestServices> {
  // Only where tests run: the database comes from them.
  const { openTestDatabase } = await import("./database.ts");
  return servicesOn(await openTestDatabase(), mailer);
}

/** The same on a database that is given, and closed with them; `makers`, the entry of threads that make messages. */
export async function servicesOn(
  database: Database,
  mailer?: Mailer,
  makers: URL | null = null,
): Promise<TestServices> {
  const folder = await mkdtemp(join(tmpdir(), "septima-test-"));
  const clock = testClock();
  const outboxMoods: OutboxMoods = { is: "well" };
  const outbox = await startOutbox(database, clock, 0, outboxMoods);
  const own = createMailer(outbox.address, TEST_MAIL_KEYS, undefined, (ids) =>
    acceptedIds(database.sql, ids),
  );
  const stopping = new AbortController();
  const config = readConfig({
    SEPTIMA_DATA: folder,
    SEPTIMA_PORT: "4999",
    // Another service than the outbox cannot be asked what it has.
    SEPTIMA_SMTP: mailer ? "smtp://service.example" : "",
  });
  const key = "a key for tests that is long enough";
  return {
    config,
    database,
    clock,
    log: pino({ level: "silent" }),
    signer: createSigner(key),
    makers: makersOf({ key, mail: TEST_KEY_FILE, config }, makers),
    mailer: mailer ?? own,
    outboxMoods,
    mailKeys: TEST_MAIL_KEYS,
    domains: createDomains(shippedTxt(TEST_MAIL_KEYS), TEST_MAIL_KEYS, clock),
    fonts: await openKept(folder, "fonts"),
    files: await openKept(folder, "files"),
    pictures: await openPictures(folder, convert),
    fetcher: shippedFetcher(database, clock),
    followers: createFollowers(),
    streams: createStreams(),
    guesses: createGuesses(clock),
    framePages: createFramePages(),
    visitors: createVisitors(),
    writing: createLocalHelper(),
    speller: lookUp,
    // On this thread: the one that ends it has a test of its own.
    arriving: arrivingBy(answer),
    views: createContactViews(),
    imports: { folder: join(folder, "imports"), reader: null },
    stopping: stopping.signal,
    stop: () => stopping.abort(),
    wake: () => {},
    async close() {
      own.close();
      await outbox.close();
      await database.close();
      await rm(folder, { recursive: true, force: true });
    },
  };
}
