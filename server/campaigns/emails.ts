/** From a stored document to messages: surroundings, prepared launches, test sends. */
import { linkedItems } from "#core/blocks/article.ts";
import { choicesIn } from "#core/blocks/choices.ts";
import type { EmailProps } from "#core/blocks/layout.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { zoneFieldOf } from "#core/fields/index.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { languageOf } from "#core/languages/index.ts";
import { LIMITS } from "#core/limits.ts";
import { type Attachment, type Coded, codedBody, type Message } from "#core/mail/index.ts";
import { picturesIn } from "#core/mentions/index.ts";
import {
  codesOf,
  envelopeAddress,
  fallbacksOf,
  fixedValues,
  htmlBytes,
  mergeText,
  type PreparedEmail,
  prepare,
  type Reader,
  refsOf,
} from "#core/merge/index.ts";
import { type CompiledEmail, type CompiledLink, compile, linkKey } from "#core/render/index.ts";
import { nowIn } from "#core/schedule/now.ts";
import type { When } from "#core/text/index.ts";
import { forOthers } from "#core/versions/index.ts";
import type { Config } from "../config.ts";
import type { Sql } from "../db/database.ts";
import { returnLocal } from "../mail/return-address.ts";
import type { Services } from "../services.ts";
import { liveLists } from "../sources/choosing.ts";
import { getRolls } from "../store/codes.ts";
import { getDerived } from "../store/derived.ts";
import { getSchema } from "../store/fields.ts";
import { getItems } from "../store/items.ts";
import { getLaunch, type Launch } from "../store/launches/freeze.ts";
import type { Recipient } from "../store/launches/progress.ts";
import { inVariant } from "../store/launches/variants.ts";
import { getPictures } from "../store/pictures.ts";
import { getSettings } from "../store/settings.ts";
import { tagFields } from "../store/tag-values.ts";
import type { Signer } from "../tracking/signer.ts";

/** What rendering needs beside a document, as things are now. */
export async function surroundings(
  sql: Sql,
  config: Config,
  doc: EmailDocument,
  now: Date,
  /** The campaign it belongs to: what that has sent itself counts as not sent before. */
  campaign: string | null = null,
): Promise<Surroundings> {
  const [{ sender, sending, linkParameters }, derived, schema, rolls, items] = await Promise.all([
    getSettings(sql),
    getDerived(sql),
    getSchema(sql),
    getRolls(sql),
    getItems(sql, linkedItems(doc)),
  ]);
  const { zone } = sender;
  const world = { now: nowIn(zone, now), names: new Map(), zone, campaign };
  const live = await liveLists(sql, choicesIn(doc), world);
  const shown = new Set([
    ...picturesIn(doc.root, derived),
    ...[...live.values()].flatMap(({ items }) => items.flatMap(({ picture }) => picture ?? [])),
  ]);
  const pictures = await getPictures(sql, shown);
  return {
    brand: { name: sender.brandName, postalAddress: sender.postalAddress },
    publicAddress: config.publicAddress,
    pictures: new Map(pictures.map((picture) => [picture.id, picture])),
    derived,
    rolls: new Map(rolls.map((roll) => [roll.id, roll])),
    fallbacks: fallbacksOf(tagFields(schema).values()),
    zoneField: zoneFieldOf(schema.fields.values()),
    nameField: schema.fields.has(sending.nameField) ? sending.nameField : null,
    linkParameters,
    items,
    live,
  };
}

/** Bytes of an email's HTML in its main language, as it would go out now. */
export async function weightOf(
  { database, config, clock }: Pick<Services, "database" | "config" | "clock">,
  doc: EmailDocument,
): Promise<number> {
  return htmlBytes(compile(doc, await surroundings(database.sql, config, doc, clock.now())));
}

/** A launch in one language. */
export interface ReadyLanguage {
  readonly compiled: CompiledEmail;
  /** What goes out: links counted, with the open pixel. */
  readonly sent: PreparedEmail;
  /** Its HTML as it stands in a message. */
  readonly coded: (reader: Reader) => Coded;
  /** The web version: the same email with links as they are. Whoever is not to be counted gets that. */
  readonly web: PreparedEmail;
  readonly codedWeb: (reader: Reader) => Coded;
  /** The web version for others: without what is its reader's own. */
  readonly shared: () => PreparedEmail;
}

export interface ReadyLaunch {
  /** As it was frozen. */
  readonly doc: EmailDocument;
  /** In the main language. */
  readonly compiled: CompiledEmail;
  /** In the language of somebody with these values. */
  forReader(reader: Pick<Reader, "values">): ReadyLanguage;
  readonly refs: readonly string[];
  /** The code rolls it tears codes off, each with when one is seen: null for always. */
  readonly codes: ReadonlyMap<string, readonly When[] | null>;
  /** Values that are the same for all its readers. */
  readonly fixed: Readonly<Record<string, string>>;
}

/** What of a launch its messages are made of. */
type ReadyParts = Pick<
  Launch,
  "id" | "variant" | "name" | "day" | "doc" | "surroundings" | "links" | "conditions"
>;

const KEPT = 12;
const ready = new Map<string, ReadyLaunch>();
const keyOf = (launch: string, variant: number) => `${launch}/${variant}`;

/** The numbers that links were sent under stay theirs, in whatever order the renderer meets them now. */
function numbered(compiled: CompiledEmail, links: Launch["links"]): CompiledEmail {
  if (!links) return compiled;
  const known = new Set(links.map(linkKey));
  const others = compiled.links.filter((link) => !known.has(linkKey(link)));
  return { ...compiled, links: [...links, ...others] };
}

/**
 * Links of another language under the numbers of the main one, so that clicks add up: the same link of the same
 * node has the same number, whatever its words and wherever it leads.
 */
function inPlaceOf(main: readonly CompiledLink[], other: readonly CompiledLink[]): CompiledLink[] {
  const places = [...main];
  const taken = new Set<number>();
  for (const link of other) {
    const at = main.findIndex((one, i) => one.node === link.node && !taken.has(i));
    if (at < 0) places.push(link);
    else {
      taken.add(at);
      places[at] = link;
    }
  }
  return places;
}

/** The code rolls of an email in several languages. */
function codesIn(emails: readonly CompiledEmail[]): ReadonlyMap<string, readonly When[] | null> {
  const codes = new Map<string, readonly When[] | null>();
  for (const [roll, whens] of emails.flatMap((email) => [...codesOf(email)])) {
    const before = codes.get(roll);
    codes.set(roll, whens && before !== null ? [...(before ?? []), ...whens] : null);
  }
  return codes;
}

/** A launch compiled and prepared; launches never change, so the last few are kept. */
export function readyLaunch(launch: ReadyParts, signer: Signer): ReadyLaunch {
  const key = keyOf(launch.id, launch.variant);
  const before = ready.get(key);
  if (before) return before;
  const { conditions, doc } = launch;
  const { nameField } = launch.surroundings;
  const compiled = {
    ...numbered(compile(doc, launch.surroundings), launch.links),
    conditions,
  };
  const email = doc.root.props as unknown as EmailProps;
  const inOne = (own: CompiledEmail, lang: string): ReadyLanguage => {
    let shared: PreparedEmail | null = null;
    const sent = prepare(own, { links: "tracked", marks: false, sign: signer.seal });
    const web = prepare(own, { links: "direct", marks: false, sign: signer.seal });
    return {
      compiled: own,
      sent,
      coded: codedBody(sent.html),
      web,
      codedWeb: codedBody(web.html),
      shared() {
        shared ??= prepare(
          { ...compile(forOthers(doc), launch.surroundings, lang), conditions },
          { links: "shared", marks: false, sign: signer.seal },
        );
        return shared;
      },
    };
  };
  const languages = new Map([[email.lang, inOne(compiled, email.lang)]]);
  for (const lang of email.others) {
    const other = compile(doc, launch.surroundings, lang);
    const links = inPlaceOf(compiled.links, other.links);
    languages.set(lang, inOne({ ...other, links, conditions }, lang));
  }
  const made = {
    doc,
    compiled,
    forReader: ({ values }: Pick<Reader, "values">) => languages.get(languageOf(doc, values))!,
    codes: codesIn([...languages.values()].map((one) => one.compiled)),
    refs: [
      ...new Set([
        ...[...languages.values()].flatMap((one) => refsOf(one.compiled)),
        ...(email.languageField === null ? [] : [`contact:${email.languageField}`]),
        ...(nameField ? [`contact:${nameField}`] : []),
      ]),
    ],
    fixed: fixedValues(compiled.brand, launch.name, launch.day),
  };
  if (ready.size >= KEPT) ready.delete(ready.keys().next().value!);
  ready.set(key, made);
  return made;
}

/** Forgets what was made of a launch: it is to be sent otherwise. */
export function forgetReady(id: string): void {
  for (const key of [...ready.keys()])
    if (key.startsWith(keyOf(id, 0).slice(0, -1))) ready.delete(key);
}

/** A recipient as the reader of what was sent to them; of nobody where there is none. */
export const launchReader = (
  { fixed }: ReadyLaunch,
  recipient: Pick<Recipient, "values" | "bits"> | null,
  token: string,
): Reader => ({ values: { ...fixed, ...recipient?.values }, bits: recipient?.bits ?? "", token });

/** What somebody got, ready to be merged; null where the launch is gone. */
export async function readyFor(
  sql: Sql,
  { launchId, variant }: Pick<Recipient, "launchId" | "variant">,
  signer: Signer,
): Promise<ReadyLaunch | null> {
  const before = ready.get(keyOf(launchId, variant));
  if (before) return before;
  const launch = await getLaunch(sql, launchId);
  return launch && readyLaunch(inVariant(launch, variant), signer);
}

/** What of the settings stands in messages. */
export type MailConfig = Pick<Config, "publicAddress" | "returns">;

const hostOf = (config: MailConfig) => new URL(config.publicAddress).hostname;
/** A domain to write ids and return addresses on: the sender's own. */
const domainOf = (address: string) => address.split("@")[1] ?? "localhost";

/** The id of a reader's message: the same however often it is made (RFC 5322, 3.6.4). */
export const messageIdOf = (launchId: string, recipientId: number, domain: string): string =>
  `${recipientId}.${launchId}@${domain}`;

/** The domain a launch's messages are named in: the sender's, or our own where that differs between readers. */
export const idDomain = ({ fromAddress }: CompiledEmail, config: MailConfig): string =>
  fromAddress.includes("@") ? domainOf(fromAddress) : hostOf(config);

/** Where a reader's message comes from. Throws where a tag gives no address: the last resort of a sender is a fixed one. */
function fromAddress(compiled: CompiledEmail, reader: Reader): string {
  const address = envelopeAddress(compiled.fromAddress, reader, compiled);
  if (address === null) throw new Error("The sender has no mail address");
  return address;
}

/** The name a reader is known by, where a field says it. */
function nameIn({ values }: Reader, { nameField }: Pick<Surroundings, "nameField">): string {
  const value = nameField ? values[`contact:${nameField}`] : null;
  return typeof value === "string" ? value.slice(0, LIMITS.nameLength) : "";
}

/** A reader's message of a launch. */
export function launchMessage(
  launch: ReadyParts & Pick<Launch, "campaignId">,
  recipient: { id: number; email: string; uncounted?: boolean },
  reader: Reader,
  { config, signer }: { config: MailConfig; signer: Signer },
  date: Date,
  attachments: readonly Attachment[] = [],
): Message {
  const own = readyLaunch(launch, signer).forReader(reader);
  const { compiled } = own;
  const [sent, coded] = recipient.uncounted ? [own.web, own.codedWeb] : [own.sent, own.coded];
  const domain = idDomain(compiled, config);
  const address = fromAddress(compiled, reader);
  return {
    from: { name: mergeText(sent.fromName, reader), address },
    to: { name: nameIn(reader, launch.surroundings), address: recipient.email },
    replyTo: envelopeAddress(compiled.replyTo, reader, compiled),
    subject: mergeText(sent.subject, reader),
    text: mergeText(sent.text, reader),
    html: coded(reader),
    attachments,
    lang: compiled.lang,
    messageId: messageIdOf(launch.id, recipient.id, domain),
    date,
    // One return address per message, so that late refusals can be told apart (VERP).
    returnPath: `${returnLocal(signer, "bounce", recipient.id)}@${config.returns?.domain ?? domainOf(address)}`,
    unsubscribe: {
      address: `${config.publicAddress}/u/${reader.token}`,
      mail:
        config.returns &&
        `${returnLocal(signer, "leave", recipient.id)}@${config.returns.domain}?subject=unsubscribe`,
    },
    listId: `${launch.campaignId}.${hostOf(config)}`,
  };
}

/** Test messages of an email: as a chosen contact would get it, marked as tests, counting nothing. */
export function testMessages(
  compiled: CompiledEmail,
  {
    to,
    mark,
    reader,
    signer,
    newId,
    date,
    attachments = [],
  }: {
    to: readonly string[];
    /** What stands before the subject. */
    mark: string;
    reader: Reader;
    signer: Signer;
    newId: () => string;
    date: Date;
    attachments?: readonly Attachment[];
  },
): (Message & { readonly html: string })[] {
  const prepared = prepare(compiled, { links: "direct", marks: false, sign: signer.seal });
  const address = fromAddress(compiled, reader);
  const same = {
    from: { name: mergeText(prepared.fromName, reader), address },
    replyTo: envelopeAddress(compiled.replyTo, reader, compiled),
    subject: `[${mark}] ${mergeText(prepared.subject, reader)}`,
    text: mergeText(prepared.text, reader),
    html: mergeText(prepared.html, reader),
    lang: compiled.lang,
    date,
    attachments,
    returnPath: address,
    unsubscribe: null,
    listId: null,
  };
  const domain = domainOf(address);
  return to.map((address) => ({
    ...same,
    to: { name: "", address },
    messageId: `test.${newId()}@${domain}`,
  }));
}
