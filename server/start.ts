/** Starts everything in order, and stops it in the reverse one. */
import { randomBytes } from "node:crypto";
import { readFile, writeFile } from "node:fs/promises";
import type { Server } from "node:http";
import { join } from "node:path";
import type { Express } from "express";
import pino from "pino";
import { LIMITS } from "#core/limits.ts";
import { arrivingIn } from "./arriving/arriving.ts";
import { createContactViews } from "./audience/contact-views.ts";
import { shipTemplates } from "./campaigns/shipped.ts";
import { type Clock, systemClock } from "./clock.ts";
import type { Config } from "./config.ts";
import { lockFolder, migrate, openInWorker, StartError } from "./db/open.ts";
import { startUpkeep } from "./db/upkeep.ts";
import { createFollowers } from "./http/followers.ts";
import { createFramePages } from "./http/frame-pages.ts";
import { createGuesses } from "./http/guesses.ts";
import { createStreams } from "./http/streams.ts";
import { createVisitors } from "./http/visitors.ts";
import { convertInChild } from "./images/in-child.ts";
import { openPictures } from "./images/pictures.ts";
import { gatherTones } from "./images/tones.ts";
import { makersOf } from "./jobs/making/makers.ts";
import { startQueue } from "./jobs/queue.ts";
import { openKept } from "./kept-files.ts";
import { mailKeys as keysOf, readMailKeys } from "./mail/keys.ts";
import { createMailer } from "./mail/mailer.ts";
import { startOutbox } from "./mail/outbox.ts";
import type { OutboxMoods } from "./mail/outbox-moods.ts";
import { createDomains } from "./mail/resolver.ts";
import { startReturns } from "./mail/returns.ts";
import type { Services } from "./services.ts";
import { shippedTxt } from "./standins/dns.ts";
import { shippedFetcher } from "./standins/fetcher.ts";
import { gatherWords } from "./store/contacts.ts";
import { acceptedIds } from "./store/outbox.ts";
import { addMember, createSignInLink, listMembers } from "./store/team.ts";
import { createSigner } from "./tracking/signer.ts";
import { createLocalHelper } from "./writing/local.ts";
import { spellerIn } from "./writing/speller.ts";

export interface Started {
  readonly services: Services;
  stop(): Promise<void>;
}

async function readKey(config: Config): Promise<string> {
  if (config.key) return config.key;
  const file = join(config.dataFolder, "key");
  try {
    return (await readFile(file, "utf8")).trim();
  } catch {
    const key = randomBytes(32).toString("base64url");
    await writeFile(file, `${key}\n`, { mode: 0o600 });
    return key;
  }
}

/** Opens the data, the outbox and the queue. Throws a StartError with a line for the person. */
export async function startServices(
  config: Config,
  options: {
    /** Entries of threads: of the database, of the reader of files, of the makers of messages, and of dictionaries. */
    worker: URL;
    reader: URL;
    maker: URL;
    speller: URL;
    arriving: URL;
    /** Entry of the process that draws pictures from outside. */
    drawer: URL;
    progress: (line: string) => void;
    clock?: Clock;
    /** Runs after the migrations, before anything is sent: the demo's seeding. */
    prepare?: (services: Omit<Services, "wake" | "mailer">) => Promise<void>;
  },
): Promise<Started> {
  const { progress, clock = systemClock } = options;
  const log = pino({ level: process.env.LOG_LEVEL ?? "info" }, pino.destination(2));
  const unlock = await lockFolder(config.dataFolder);
  progress("opening the database");
  const database = await openInWorker(
    join(config.dataFolder, "database"),
    options.worker,
    // Everybody waits for one of these: they are what to mend first.
    (text, took) => log.warn({ took: Math.round(took), text }, "a slow statement"),
  );
  await migrate(database, progress);
  const stopping = new AbortController();
  const keyFile = await readMailKeys(config.dataFolder);
  const mailKeys = keysOf(keyFile);
  const key = await readKey(config);
  const base = {
    config,
    database,
    clock,
    log,
    signer: createSigner(key),
    mailKeys,
    makers: makersOf({ key, mail: keyFile, config }, options.maker),
    outboxMoods: { is: "well" } as OutboxMoods,
    domains: createDomains(shippedTxt(mailKeys), mailKeys, clock),
    fonts: await openKept(config.dataFolder, "fonts"),
    files: await openKept(config.dataFolder, "files"),
    pictures: await openPictures(config.dataFolder, convertInChild(options.drawer)),
    fetcher: shippedFetcher(database, clock),
    followers: createFollowers(),
    streams: createStreams(),
    guesses: createGuesses(clock),
    framePages: createFramePages(),
    visitors: createVisitors(),
    writing: createLocalHelper(),
    speller: spellerIn(options.speller),
    arriving: arrivingIn(options.arriving),
    views: createContactViews(),
    imports: { folder: join(config.dataFolder, "imports"), reader: options.reader },
    stopping: stopping.signal,
  };
  await options.prepare?.(base);
  await shipTemplates(database, clock.now());
  const outbox = config.smtp
    ? null
    : await startOutbox(database, clock, config.outboxPort, base.outboxMoods);
  const mailer = outbox
    ? createMailer(outbox.address, base.mailKeys, undefined, (ids) =>
        acceptedIds(database.sql, ids),
      )
    : createMailer(config.smtp!, base.mailKeys);
  const returns = config.returns && (await startReturns(base, config, config.returns.port));
  const queue = await startQueue({ ...base, mailer });
  const endUpkeep = startUpkeep(
    database.sql,
    (error) => log.warn({ err: error }, "something was not looked after"),
    (sql) => gatherWords(sql, LIMITS.wordsAtOnce),
    (sql) => gatherTones(sql, base.pictures.folder),
  );
  return {
    services: { ...base, mailer, wake: queue.wake },
    async stop() {
      stopping.abort();
      // What is on the line may finish; a service that hangs does not keep the process.
      const cutOff = setTimeout(() => mailer.close(), LIMITS.stopMs);
      await queue.ended;
      await endUpkeep();
      clearTimeout(cutOff);
      mailer.close();
      await returns?.close();
      await outbox?.close();
      await database.close();
      await unlock();
    },
  };
}

/** Listens on the configured address. Throws a StartError when the port is taken. */
export function listen(app: Express, config: Config): Promise<Server> {
  return new Promise((ok, fail) => {
    const server = app.listen(config.port, config.host, LIMITS.backlog, (error?: Error) => {
      if (!error) {
        // A proxy before it that thinks a line stands would send into one that was closed that moment.
        server.keepAliveTimeout = LIMITS.keepAliveMs;
        return ok(server);
      }
      const taken = (error as NodeJS.ErrnoException).code === "EADDRINUSE";
      fail(
        taken
          ? new StartError(
              `Port ${config.port} is taken. Stop what uses it, or set SEPTIMA_PORT to another one.`,
            )
          : error,
      );
    });
  });
}

const FIRST_MEMBER = { name: "Owner", email: "owner@localhost", role: "owner" } as const;

/** An address that signs the first person in, once; makes that person where there is nobody yet. */
export async function signInAddress({ database, clock, config }: Services): Promise<string> {
  const { sql } = database;
  const now = clock.now();
  const [member = await addMember(sql, FIRST_MEMBER, now)] = await listMembers(sql);
  return `${config.publicAddress}/sign-in/${await createSignInLink(sql, member.id, now)}`;
}
