/** From what somebody brought to a campaign: read, looked at beside how it came, started from. */
import { readDocument } from "#core/blocks/read.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { readFile as readOwn } from "#core/files/index.ts";
import { guessedMeaning, type Meaning } from "#core/import/emails/index.ts";
import { canonical } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import type { Services } from "../services.ts";
import { type Arrival, createArrival } from "../store/arrivals.ts";
import { getSchema } from "../store/fields.ts";
import { getSettings } from "../store/settings.ts";
import { tagFields } from "../store/tag-values.ts";
import { ArrivalError } from "./error.ts";
import { takeFilePictures, takePictures } from "./pictures.ts";
import type { TakenApart } from "./work.ts";

const titleOf = (file: string) =>
  file
    .replace(/\.[^.]*$/, "")
    .replace(/[-_]+/g, " ")
    .trim()
    .slice(0, LIMITS.nameLength);

/** What can be put in for a tag: fields of contacts, by the refs of their tags. */
export async function tagChoices({ database }: Services) {
  const fields = tagFields(await getSchema(database.sql));
  return [
    { ref: "contact:email", label: "Email address" },
    ...[...fields.values()].map(({ id, label }) => ({ ref: `contact:${id}`, label })),
  ];
}

async function bringOwn(services: Services, text: string, member: string): Promise<string> {
  const read = readOwn(text);
  if ("problem" in read) throw new ArrivalError(read.problem);
  if (read.kind === "theme")
    throw new ArrivalError("This file carries a theme, not an email. Settings take it.");
  const changed = await takeFilePictures(services, read.pictures);
  // An id is 64 digits of hex: nothing else in an email is.
  let document = canonical(read.doc);
  for (const [id, own] of changed) document = document.replaceAll(id, own);
  const { name, about, category } = read;
  return createArrival(
    services.database.sql,
    {
      ...{ name, kind: "own", subject: "", html: "", draft: false, document, about, category },
      ...{ pictures: {}, tags: [], meanings: {}, notes: [] },
    },
    member,
    services.clock.now(),
  );
}

/** Takes a file in; gives the id of what it is kept as. Throws an ArrivalError. */
export async function bring(
  services: Services,
  file: { readonly name: string; readonly bytes: Uint8Array },
  member: string,
): Promise<string> {
  if (/\.json$/i.test(file.name)) {
    return bringOwn(services, new TextDecoder().decode(file.bytes), member);
  }
  const {
    html,
    subject,
    draft,
    images,
    tags,
    title,
    pictures: beside,
    notes,
  } = await services.arriving.read(file.name, file.bytes);
  const pictures = await takePictures(services, images, beside);
  const choices = await tagChoices(services);
  const meanings: Record<string, Meaning> = {};
  for (const tag of tags.slice(0, LIMITS.foreignTags)) {
    meanings[tag.name] = guessedMeaning(tag, choices) ?? { is: "words" };
  }
  return createArrival(
    services.database.sql,
    {
      ...{
        name: subject || title || titleOf(file.name) || "A text",
        kind: "foreign",
        subject,
        html,
        draft,
      },
      ...{ document: null, about: "", category: "", pictures, meanings, notes },
      tags: tags.slice(0, LIMITS.foreignTags),
    },
    member,
    services.clock.now(),
  );
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
  const { theme } = await getSettings(services.database.sql);
  const { html, subject, draft, meanings, pictures } = arrival;
  const { doc, ...report } = await services.arriving.take({
    ...{ html, subject, draft, meanings, pictures, theme, whole },
    keepLook: keepLook && !draft,
  });
  return { doc, report };
}
