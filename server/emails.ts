/** From a stored document to messages: surroundings, prepared launches, test sends. */
import type { Surroundings } from "#core/kinds/kind.ts";
import {
  mergeBytes,
  mergeText,
  type PreparedEmail,
  prepare,
  type Reader,
  refsOf,
} from "#core/merge/index.ts";
import { type CompiledEmail, compile, linkKey } from "#core/render/index.ts";
import { flowText } from "#core/text/index.ts";
import type { Config } from "./config.ts";
import type { Sql } from "./db/database.ts";
import type { Message } from "./mail/mailer.ts";
import { getLaunch, type Launch } from "./store/launches.ts";
import { picturesById } from "./store/pictures.ts";
import { getSettings } from "./store/settings.ts";
import type { Signer } from "./tracking/signer.ts";

/** What rendering needs beside a document, as things are now. */
export async function surroundings(sql: Sql, config: Config): Promise<Surroundings> {
  const { sender } = await getSettings(sql);
  return {
    brand: { name: sender.brandName, postalAddress: sender.postalAddress },
    publicAddress: config.publicAddress,
    pictures: await picturesById(sql),
  };
}

export interface ReadyLaunch {
  readonly compiled: CompiledEmail;
  /** What goes out: links counted, with the open pixel. */
  readonly sent: PreparedEmail;
  /** The web version: the same email with links as they are. */
  readonly web: PreparedEmail;
  readonly refs: readonly string[];
}

const KEPT = 8;
const ready = new Map<string, ReadyLaunch>();

/** The numbers that links were sent under stay theirs, in whatever order the renderer meets them now. */
function numbered(compiled: CompiledEmail, links: Launch["links"]): CompiledEmail {
  if (!links) return compiled;
  const known = new Set(links.map(linkKey));
  const others = compiled.links.filter((link) => !known.has(linkKey(link)));
  return { ...compiled, links: [...links, ...others] };
}

/** A launch compiled and prepared; launches never change, so the last few are kept. */
export function readyLaunch(
  launch: Pick<Launch, "id" | "doc" | "surroundings" | "links">,
  signer: Signer,
): ReadyLaunch {
  const before = ready.get(launch.id);
  if (before) return before;
  const compiled = numbered(compile(launch.doc, launch.surroundings), launch.links);
  const made = {
    compiled,
    sent: prepare(compiled, { links: "tracked", marks: false, sign: signer.seal }),
    web: prepare(compiled, { links: "direct", marks: false, sign: signer.seal }),
    refs: refsOf(compiled),
  };
  if (ready.size >= KEPT) ready.delete(ready.keys().next().value!);
  ready.set(launch.id, made);
  return made;
}

/** A launch ready to be merged, by its id; null where there is no such launch. */
export async function readyLaunchById(
  sql: Sql,
  id: string,
  signer: Signer,
): Promise<ReadyLaunch | null> {
  const before = ready.get(id);
  if (before) return before;
  const launch = await getLaunch(sql, id);
  return launch && readyLaunch(launch, signer);
}

const hostOf = (config: Config) => new URL(config.publicAddress).hostname;
/** A domain to write ids and return addresses on: the sender's own. */
const domainOf = (address: string) => address.split("@")[1] ?? "localhost";

/** The id of a reader's message: the same however often it is made (RFC 5322, 3.6.4). */
export const messageIdOf = (launchId: string, recipientId: number, fromAddress: string): string =>
  `${recipientId}.${launchId}@${domainOf(fromAddress)}`;

/** A reader's message of a launch. */
export function launchMessage(
  launch: Pick<Launch, "id" | "campaignId" | "doc" | "surroundings" | "links">,
  recipient: { id: number; email: string },
  reader: Reader,
  { config, signer }: { config: Config; signer: Signer },
  date: Date,
): Message {
  const { sent, compiled } = readyLaunch(launch, signer);
  const domain = domainOf(compiled.fromAddress);
  return {
    from: { name: mergeText(sent.fromName, reader), address: compiled.fromAddress },
    to: recipient.email,
    replyTo: compiled.replyTo || null,
    subject: mergeText(sent.subject, reader),
    text: flowText(mergeText(sent.text, reader)),
    html: Buffer.from(mergeBytes(sent.html, reader)),
    messageId: messageIdOf(launch.id, recipient.id, compiled.fromAddress),
    date,
    // One return address per message, so that late refusals can be told apart (VERP).
    returnPath: `return+${recipient.id}@${domain}`,
    unsubscribe: { address: `${config.publicAddress}/u/${reader.token}`, oneClick: true },
    listId: `${launch.campaignId}.${hostOf(config)}`,
  };
}

/** Test messages of an email: as a chosen contact would get it, marked as tests, counting nothing. */
export function testMessages(
  compiled: CompiledEmail,
  to: readonly string[],
  reader: Reader,
  signer: Signer,
  newId: () => string,
  date: Date,
): Message[] {
  const prepared = prepare(compiled, { links: "direct", marks: false, sign: signer.seal });
  const same = {
    from: { name: mergeText(prepared.fromName, reader), address: compiled.fromAddress },
    replyTo: compiled.replyTo || null,
    subject: `[Test] ${mergeText(prepared.subject, reader)}`,
    text: flowText(mergeText(prepared.text, reader)),
    html: Buffer.from(mergeBytes(prepared.html, reader)),
    date,
    returnPath: compiled.fromAddress,
    unsubscribe: null,
    listId: null,
  };
  const domain = domainOf(compiled.fromAddress);
  return to.map((address) => ({ ...same, to: address, messageId: `test.${newId()}@${domain}` }));
}
