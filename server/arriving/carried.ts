/** Fonts and linked files, brought by hand or within a file of ours: the one way into the library for each. */
import type { FileFont, FileLinked } from "#core/files/index.ts";
import { LIMITS } from "#core/limits.ts";
import { FILE_TYPES, fileEnding } from "#core/text/index.ts";
import { ownFontsOf, type Theme } from "#core/theme/theme.ts";
import type { Services } from "../services.ts";
import { addFile, type LinkedFile } from "../store/files.ts";
import { addFont, type KeptFont, listFonts } from "../store/fonts.ts";
import { ArrivalError } from "./error.ts";

type Keeper = Pick<Services, "database" | "clock" | "arriving" | "fonts" | "files">;

/** Keeps a font, once it has been read and measured. Throws an ArrivalError. */
export async function takeFont(services: Keeper, bytes: Uint8Array): Promise<KeptFont> {
  const { database, clock, arriving, fonts } = services;
  const read = await arriving.font(bytes);
  const font = { id: await fonts.add(bytes, "woff2"), ...read };
  if (await addFont(database.sql, font, clock.now())) return font;
  throw new ArrivalError(`At most ${LIMITS.fonts} fonts.`);
}

/** Keeps a file that links may lead to. Throws an ArrivalError. */
export async function takeLinked(
  { database, clock, files }: Keeper,
  called: string,
  bytes: Uint8Array,
): Promise<LinkedFile> {
  const ending = fileEnding(called);
  if (!ending) {
    throw new ArrivalError(`Only these can be linked to: ${Object.keys(FILE_TYPES).join(", ")}.`);
  }
  if (ending === "pdf" && Buffer.from(bytes.subarray(0, 5)).toString("latin1") !== "%PDF-") {
    throw new ArrivalError("This file calls itself a PDF, and is none.");
  }
  const file = `${await files.add(bytes, ending)}.${ending}`;
  const name = called.replaceAll("\0", "").toWellFormed().slice(-LIMITS.nameLength);
  const kept = await addFile(database.sql, { file, name, bytes: bytes.length }, clock.now());
  if (kept) return kept;
  throw new ArrivalError(`At most ${LIMITS.files} files.`);
}

/** What a house does not take of a file of ours is left out of it: what came with it is there all the same. */
async function ifTaken<T>(taking: Promise<T>): Promise<T | null> {
  return taking.catch((error) => {
    if (error instanceof ArrivalError) return null;
    throw error;
  });
}

/** Keeps the fonts of a file of ours that its theme asks for and that are not here yet. */
export async function takeFileFonts(
  services: Keeper,
  carried: readonly FileFont[],
  theme: Theme,
): Promise<void> {
  const here = new Set((await listFonts(services.database.sql)).map(({ id }) => id));
  const asked = new Set(ownFontsOf(theme));
  for (const { id, base64 } of carried) {
    if (asked.has(id) && !here.has(id))
      await ifTaken(takeFont(services, Buffer.from(base64, "base64")));
  }
}

/**
 * Keeps the files that its links lead to; whatever else it carries stays where it is. One that is here already costs
 * nothing but its name, and is offered again where it was deleted.
 */
export async function takeFileLinked(
  services: Keeper,
  carried: readonly FileLinked[],
  linked: ReadonlySet<string>,
): Promise<void> {
  for (const { file, name, base64 } of carried) {
    if (!linked.has(file)) continue;
    const called = fileEnding(name) === fileEnding(file) ? name : `${name}.${fileEnding(file)}`;
    await ifTaken(takeLinked(services, called, Buffer.from(base64, "base64")));
  }
}
