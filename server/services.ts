/** What routes, jobs and the mail service work with; made once at the start and handed in. */
import type { Logger } from "pino";
import type { WritingHelper } from "#core/writing/helper.ts";
import type { Arriving } from "./arriving/arriving.ts";
import type { ContactViews } from "./audience/contact-views.ts";
import type { Clock } from "./clock.ts";
import type { Config } from "./config.ts";
import type { Database } from "./db/database.ts";
import type { Fetcher } from "./fetching/fetcher.ts";
import type { Followers } from "./http/followers.ts";
import type { FramePages } from "./http/frame-pages.ts";
import type { Guesses } from "./http/guesses.ts";
import type { Streams } from "./http/streams.ts";
import type { Visitors } from "./http/visitors.ts";
import type { PictureFolder } from "./images/pictures.ts";
import type { Makers } from "./jobs/making/makers.ts";
import type { KeptFiles } from "./kept-files.ts";
import type { MailKeys } from "./mail/keys.ts";
import type { Mailer } from "./mail/mailer.ts";
import type { OutboxMoods } from "./mail/outbox-moods.ts";
import type { Domains } from "./mail/resolver.ts";
import type { Signer } from "./tracking/signer.ts";
import type { Speller } from "./writing/speller.ts";

export interface Services {
  readonly config: Config;
  readonly database: Database;
  readonly clock: Clock;
  readonly signer: Signer;
  readonly mailer: Mailer;
  /** What the outbox is told to be. */
  readonly outboxMoods: OutboxMoods;
  /** What it signs with. */
  readonly mailKeys: MailKeys;
  /** Who makes the messages of launches. */
  readonly makers: Makers;
  /** What is said of who may send for a domain. */
  readonly domains: Domains;
  readonly pictures: PictureFolder;
  readonly fonts: KeptFiles;
  /** Those that links lead to. */
  readonly files: KeptFiles;
  /** The one way to read something from elsewhere. */
  readonly fetcher: Fetcher;
  readonly followers: Followers;
  readonly streams: Streams;
  readonly guesses: Guesses;
  readonly framePages: FramePages;
  readonly visitors: Visitors;
  readonly writing: WritingHelper;
  readonly speller: Speller;
  /** Reads emails that were made elsewhere. */
  readonly arriving: Arriving;
  readonly views: ContactViews;
  /** Where files of people wait, and the entry of the thread that reads them (null: on this one). */
  readonly imports: { readonly folder: string; readonly reader: URL | null };
  readonly log: Logger;
  /** Aborted when the process is told to end: long work comes to a place where it can be taken up again. */
  readonly stopping: AbortSignal;
  /** Tells the queue that there is something to do. */
  wake(): void;
}
