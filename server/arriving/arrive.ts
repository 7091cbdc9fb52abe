/** From what somebody brought to a campaign: read, looked at beside how it came, started from. */
import { linksIn, unlinked } from "#core/blocks/linked.ts";
import { readDocument } from "#core/blocks/read.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { cleanText } from "#core/fields/types/text.ts";
import type { EmailFile } from "#core/files/index.ts";
import { guessedMeaning, type Meaning } from "#core/import/emails/index.ts";
import { canonical } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { pictureAddress } from "#core/picture-id.ts";
import { filesLinked, linkedOnlyTo } from "#core/text/index.ts";
import { ownFont, type Theme, withKnownFonts } from "#core/theme/theme.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import { type Arrival, createArrival } from "../store/arrivals.ts";
import { getSchema } from "../store/fields.ts";
import { knownFiles } from "../store/files.ts";
import { listFonts } from "../store/fonts.ts";
import { getPictures } from "../store/pictures.ts";
import { nodesOf, save, savedById } from "../store/saved.ts";
import { getSettings } from "../store/settings.ts";
import { tagFields } from "../store/tag-values.ts";
import { takeFileFonts, takeFileLinked } from "./carried.ts";
import { ArrivalError } from "./error.ts";
import { takeFilePictures, takePictures } from "./pictures.ts";
import type { KnownPicture, ReadForeign, TakenApart } from "./work.ts";

/** A name that anybody may have given: on one line, and no longer than a name is. */
const named = (name: string): string =>
  cleanText(name).replace(/\s+/g, " ").trim().slice(0, LIMITS.nameLength);
const titleOf = (file: string) => file.replace(/\.[^.]*$/, "").replace(/[-_]+/g, " ");

/** What can be put in for a tag: fields of contacts, by the refs of their tags. */
export async function tagChoices({ database }: Services) {
  const fields = tagFields(await getSchema(database.sql));
  return [
    { ref: "contact:email", label: "Email address" },
    ...[...fields.values()].map(({ id, label }) => ({ ref: `contact:${id}`, label })),
  ];
}

const NOTHING = { document: null, about: "", category: "", subject: "", html: "", draft: false };

/** An email, as JSON, that leads nowhere where it led to files that are not here. */
async function withKnownFiles(
  sql: Sql,
  document: string,
  linked: ReadonlySet<string>,
): Promise<string> {
  const known = new Set(await knownFiles(sql, [...linked]));
  return linked.size === known.size ? document : linkedOnlyTo(document, known);
}

/** The email of a file of ours, as JSON, with the ids that its pictures have here, and without what is not here. */
async function ownDocument(services: Services, file: EmailFile): Promise<string> {
  const { sql } = services.database;
  const { doc } = file;
  const changed = await takeFilePictures(services, file.pictures);
  await takeFileFonts(services, file.fonts, doc.root.props.theme as unknown as Theme);
  const linked = filesLinked(doc);
  await takeFileLinked(services, file.files, linked);
  const links = linksIn(doc.root);
  const saved = await savedById(sql, links);
  const root = [...links].every((id) => saved.has(id)) ? doc.root : unlinked(doc.root);
  const fonts = new Set((await listFonts(sql)).map(({ id }) => ownFont(id)));
  const theme = withKnownFonts(root.props.theme as unknown as Theme, fonts);
  // An id is 64 digits of hex: nothing else in an email is.
  let document = canonical({
    ...doc,
    root: { ...root, props: { ...root.props, theme: theme as never } },
  });
  for (const [id, own] of changed) document = document.replaceAll(id, own);
  return withKnownFiles(sql, document, linked);
}

async function ownArrival(services: Services, file: EmailFile): Promise<Omit<Arrival, "id">> {
  if (file.kind === "saved") {
    throw new ArrivalError("This file carries saved blocks, not an email: the library takes it.");
  }
  const document = await ownDocument(services, file);
  return {
    ...NOTHING,
    ...{ kind: "own", name: named(file.name) || "An email", document },
    ...{ about: cleanText(file.about), category: cleanText(file.category) },
    ...{ pictures: {}, tags: [], meanings: {}, notes: [] },
  };
}

async function foreignArrival(
  services: Services,
  fileName: string,
  read: ReadForeign,
): Promise<Omit<Arrival, "id">> {
  const { html, subject, draft, title, notes } = read;
  const tags = read.tags.slice(0, LIMITS.foreignTags);
  const choices = await tagChoices(services);
  const meanings = tags.map((tag) => [tag.name, guessedMeaning(tag, choices) ?? WORDS] as const);
  return {
    ...NOTHING,
    ...{ kind: "foreign", html, draft, tags, subject: named(subject) },
    name: [subject, title, titleOf(fileName)].map(named).find(Boolean) ?? "A text",
    pictures: await takePictures(services, read.images, read.pictures),
    meanings: Object.fromEntries(meanings),
    notes: notes.map(cleanText),
  };
}
const WORDS: Meaning = { is: "words" };

/** Takes a file in; gives the id of what it is kept as. Throws an ArrivalError. */
export async function bring(
  services: Services,
  { name, bytes }: { readonly name: string; readonly bytes: Uint8Array },
  member: string,
): Promise<string> {
  const read = await services.arriving.read(name, bytes);
  const arrival =
    read.kind === "own"
      ? await ownArrival(services, read.file)
      : await foreignArrival(services, name, read);
  return createArrival(services.database.sql, arrival, member, services.clock.now());
}

/** Takes a file of saved blocks into the library; gives their id. Throws an ArrivalError. */
export async function bringSaved(
  services: Services,
  { name, bytes }: { readonly name: string; readonly bytes: Uint8Array },
  member: string,
): Promise<string> {
  const read = await services.arriving.read(name, bytes);
  if (read.kind !== "own" || read.file.kind !== "saved" || !read.file.of) {
    throw new ArrivalError("This file carries no saved blocks.");
  }
  const { doc } = readDocument(await ownDocument(services, read.file));
  const called = named(read.file.name) || "Saved";
  const { sql } = services.database;
  const id = await save(sql, called, nodesOf(doc, read.file.of), services.clock.now(), member);
  if (!id) throw new ArrivalError(`At most ${LIMITS.savedBlocks} saved blocks.`);
  return id;
}

export interface How {
  readonly keepLook: boolean;
  readonly whole: boolean;
}

/** The email that an arrival becomes, with what there is to tell of it. Throws an ArrivalError. */
export async function takenOf(
  services: Services,
  arrival: Arrival,
  { keepLook, whole }: How,
): Promise<{ doc: EmailDocument; report: Omit<TakenApart, "doc"> | null }> {
  if (arrival.document !== null) return { doc: readDocument(arrival.document).doc, report: null };
  const { sql } = services.database;
  const { theme } = await getSettings(sql);
  const { html, subject, draft, meanings } = arrival;
  const { doc, ...report } = await services.arriving.take({
    ...{ html, subject, draft, meanings, theme, whole },
    pictures: await knownPictures(services, arrival),
    keepLook: keepLook && !draft,
  });
  return { doc, report };
}

/** The pictures of an arrival that are in the library, by the addresses they had. */
async function knownPictures(
  { database, config }: Services,
  { pictures }: Arrival,
): Promise<Map<string, KnownPicture>> {
  const ids = Object.values(pictures).filter((id) => id !== null);
  const known = new Map((await getPictures(database.sql, ids)).map((one) => [one.id, one]));
  return new Map(
    Object.entries(pictures).flatMap(([src, id]) => {
      const picture = id === null ? undefined : known.get(id);
      if (!picture) return [];
      const here = pictureAddress("", picture);
      return [
        [src, { id: picture.id, here, address: pictureAddress(config.publicAddress, picture) }],
      ];
    }),
  );
}
