/** The pictures of an email that is taken out: found by their addresses, read or made, and put somewhere else. */
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import type { EmailDocument } from "#core/document/index.ts";
import type { FilePicture } from "#core/files/index.ts";
import { picturesIn } from "#core/mentions/index.ts";
import { readName } from "#core/picture-id.ts";
import { makePicture, readRecipe } from "../images/made.ts";
import type { Services } from "../services.ts";
import { getDerived } from "../store/derived.ts";
import { getPictures, pictureFile } from "../store/pictures.ts";

const TYPES = {
  png: "image/png",
  jpg: "image/jpeg",
  gif: "image/gif",
  webp: "image/webp",
} as const;
type Ending = keyof typeof TYPES;
const typeOf = (file: string) => TYPES[file.slice(file.lastIndexOf(".") + 1) as Ending];

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
/** Addresses of our own pictures, and of those we make. */
const addresses = (publicAddress: string) =>
  new RegExp(
    `${escaped(publicAddress)}/(?:pictures/([a-f0-9]+(?:-[0-9]{1,4})?\\.[a-z]+)|made/([A-Za-z0-9_-]+)/[A-Za-z0-9_-]+\\.(png|jpg))`,
    "g",
  );

export interface ShownPicture {
  readonly bytes: Buffer;
  readonly type: string;
  readonly ending: string;
}

async function shown(services: Services, match: RegExpMatchArray): Promise<ShownPicture | null> {
  const { pictures, database, clock } = services;
  const [, name, made, ending] = match;
  if (name) {
    const asked = readName(name);
    const file = pictures.fileOf(asked.name);
    if (!file) return null;
    const sized = asked.width === null ? null : await pictures.sized(asked.name, asked.width);
    const bytes = await readFile(sized ?? join(pictures.folder, file));
    return { bytes, type: typeOf(file), ending: file.slice(file.lastIndexOf(".") + 1) };
  }
  const recipe = readRecipe(made!);
  const fileOf = (id: string) => pictureFile(database.sql, id);
  const bytes = recipe && (await makePicture(recipe, pictures.folder, fileOf, clock.now()));
  return bytes && { bytes, type: TYPES[ending as Ending], ending: ending! };
}

/** HTML with its pictures where `place` puts each; those that are gone stay where they are. */
export async function movePictures(
  services: Services,
  html: string,
  place: (picture: ShownPicture, nth: number) => string,
): Promise<string> {
  const moved = new Map<string, string>();
  for (const match of html.matchAll(addresses(services.config.publicAddress))) {
    if (moved.has(match[0])) continue;
    const picture = await shown(services, match);
    if (picture) moved.set(match[0], place(picture, moved.size + 1));
  }
  return html.replace(addresses(services.config.publicAddress), (one) => moved.get(one) ?? one);
}

/** The pictures that a document names, as they stand in a file. */
export async function filePictures(services: Services, doc: EmailDocument): Promise<FilePicture[]> {
  const { sql } = services.database;
  const known = await getPictures(sql, picturesIn(doc.root, await getDerived(sql)));
  return Promise.all(
    known
      .toSorted((a, b) => (a.id < b.id ? -1 : 1))
      .map(async ({ id, name, file }) => ({
        ...{ id, name, type: typeOf(file) },
        base64: (await readFile(join(services.pictures.folder, file))).toString("base64"),
      })),
  );
}
