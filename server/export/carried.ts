/** What comes along with an email that is written into a file of ours: its pictures, its fonts, the files it links to. */
import { readFile } from "node:fs/promises";
import type { EmailDocument } from "#core/document/index.ts";
import type { Carried, FileFont, FileLinked } from "#core/files/index.ts";
import { LIMITS } from "#core/limits.ts";
import { filesLinked } from "#core/text/index.ts";
import { ownFontsOf, type Theme } from "#core/theme/theme.ts";
import type { Services } from "../services.ts";
import { namedFiles } from "../store/files.ts";
import { filePictures } from "./pictures.ts";

/** The fonts of the house that a theme asks for. */
export async function fileFonts({ fonts }: Services, theme: Theme): Promise<FileFont[]> {
  const found = ownFontsOf(theme).flatMap((id) => {
    const path = fonts.pathOf(`${id}.woff2`);
    return path ? [{ id, path }] : [];
  });
  return Promise.all(
    found.map(async ({ id, path }) => ({ id, base64: (await readFile(path)).toString("base64") })),
  );
}

/** The files that an email links to, as long as they are no heavier together than one may be. */
async function fileLinked({ database, files }: Services, doc: EmailDocument) {
  const carried: FileLinked[] = [];
  let room = LIMITS.fileBytes;
  const linked = await namedFiles(database.sql, [...filesLinked(doc)]);
  for (const { file, name, bytes } of linked) {
    const path = files.pathOf(file);
    if (!path || bytes > room) continue;
    room -= bytes;
    carried.push({ file, name, base64: (await readFile(path)).toString("base64") });
  }
  return carried;
}

export async function carriedBy(services: Services, doc: EmailDocument): Promise<Carried> {
  const [pictures, fonts, files] = await Promise.all([
    filePictures(services, doc),
    fileFonts(services, doc.root.props.theme as unknown as Theme),
    fileLinked(services, doc),
  ]);
  return { pictures, fonts, files };
}
