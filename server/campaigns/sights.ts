/** Versions of an email as they look to a reader in a family of mail programs. */
import { type Family, type Lost, readAloud, showIn } from "#core/clients/index.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { languageOf } from "#core/languages/index.ts";
import { wrapText } from "#core/markup/index.ts";
import { mergeText, type PreparedEmail, prepare, type Reader } from "#core/merge/index.ts";
import { inEachLanguage, versionsOf } from "#core/versions/index.ts";
import { readerOf, readersAs, worldOfEmail } from "../audience/readers.ts";
import type { Services } from "../services.ts";
import type { Campaign } from "../store/campaigns.ts";
import { loadDocument, type StoredDocument } from "../store/documents.ts";
import { lookedAt } from "../store/looked.ts";
import { surroundings } from "./emails.ts";
import { statesOf } from "./wall.ts";

/** Something a reader sees, or hears. */
export interface Sight {
  /** The contact whose eyes these are; 0 for nobody. */
  readonly contact: number;
  /** The key of the version it is. */
  readonly version: string;
  readonly subject: string;
  readonly html: string;
  /** Words alone, where the family shows no more. */
  readonly words: readonly { readonly as: string | null; readonly words: string }[] | null;
  readonly lost: readonly Lost[];
  /** Of the HTML as it goes out. */
  readonly bytes: number;
  readonly state: string;
  /** Somebody has looked at this version in this state. */
  readonly looked: boolean;
}
/** What of it does not hang on who looks. */
export type Look = Omit<Sight, "contact" | "looked">;

export interface Seen {
  readonly width: number;
  readonly sights: readonly Sight[];
}

/** Shows an email to readers as a family of mail programs does. Each language is made ready once. */
export function lookerAt(
  { config, signer }: Pick<Services, "config" | "signer">,
  { stored, around }: { readonly stored: StoredDocument; readonly around: Surroundings },
  family: Family,
  { marks = false } = {},
): (reader: Reader, lang: string) => Look {
  const stateOf = statesOf({ stored, around });
  const email = inEachLanguage(stored.doc, around);
  const prepared = new Map<string, PreparedEmail>();
  const preparedIn = (lang: string) => {
    const before = prepared.get(lang);
    if (before) return before;
    // Addresses as they go out, since they weigh what they weigh; in words, where they lead.
    const links = marks || family.words ? "direct" : "tracked";
    const options = { links, marks, sign: signer.seal } as const;
    const made = prepare(email.languages.get(lang)!, options);
    prepared.set(lang, made);
    return made;
  };
  const wordsOf = (reader: Reader, lang: string, html: string): Sight["words"] => {
    if (family.words === "aloud") return readAloud(html);
    if (family.words !== "text") return null;
    return wrapText(mergeText(preparedIn(lang).text, reader), Number.POSITIVE_INFINITY)
      .split("\n")
      .map((line) => ({ as: null, words: line }));
  };
  return (reader, lang) => {
    const bits = reader.bits ?? "";
    const html = mergeText(preparedIn(lang).html, reader);
    const { html: seen, lost } = family.words ? { html: "", lost: [] } : showIn(family, html);
    return {
      version: versionsOf(email, [{ lang, bits, people: 1, sample: 0 }])[0]!.key,
      subject: mergeText(preparedIn(lang).subject, reader),
      // Pictures come from where the page is, which may not be the public address.
      html: seen.replaceAll(`${config.publicAddress}/`, "/"),
      words: wordsOf(reader, lang, html),
      lost,
      bytes: Buffer.byteLength(html),
      state: stateOf({ lang, bits }),
    };
  };
}

/**
 * What contacts see of a campaign's email as it is now; 0 stands for somebody of whom nothing is known. With `marks`,
 * the HTML names its nodes.
 */
export async function sightsOf(
  services: Services,
  campaign: Campaign,
  contacts: readonly number[],
  family: Family,
  options: { marks?: boolean } = {},
): Promise<Seen> {
  const { database, config, clock, signer } = services;
  const { sql } = database;
  const stored = (await loadDocument(sql, campaign.documentId))!;
  const { doc } = stored;
  const around = await surroundings(sql, config, doc, clock.now(), campaign.id);
  const unsent = { doc, around, campaign };
  const world = await worldOfEmail(services, unsent);
  const known = contacts.filter((id) => id !== 0);
  const readers = new Map<number, Reader>(await readersAs(services, unsent, world, known));
  if (contacts.includes(0)) readers.set(0, await readerOf(services, unsent, world, null));
  const look = lookerAt(services, { stored, around }, family, options);
  const shown = [...readers].map(([contact, reader]) => {
    const token = signer.sign({ kind: "sample", campaign: campaign.id, contact });
    return { contact, ...look({ ...reader, token }, languageOf(doc, reader.values)) };
  });
  const looked = await lookedAt(
    sql,
    campaign.id,
    shown.map(({ state }) => state),
  );
  return {
    width: Number(doc.root.props.width),
    sights: shown.map((one) => ({ ...one, looked: looked.has(one.state) })),
  };
}
