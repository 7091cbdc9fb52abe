/** Files that links lead to: what may be one, and its address. */

import { isJsonObject, type Json, type JsonObject } from "../json.ts";

/** By their endings: the media types (IANA) they are given out as. Nothing that a browser would run is among them. */
export const FILE_TYPES: Readonly<Record<string, string>> = {
  pdf: "application/pdf",
  ics: "text/calendar",
  vcf: "text/vcard",
  txt: "text/plain",
  csv: "text/csv",
  docx: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  pptx: "application/vnd.openxmlformats-officedocument.presentationml.presentation",
  odt: "application/vnd.oasis.opendocument.text",
  ods: "application/vnd.oasis.opendocument.spreadsheet",
  epub: "application/epub+zip",
  zip: "application/zip",
  mp3: "audio/mpeg",
  m4a: "audio/mp4",
  mp4: "video/mp4",
};

/** A file's own name: the SHA-256 of its content and its ending. */
export const FILE_NAME = new RegExp(`^[a-f0-9]{64}\\.(${Object.keys(FILE_TYPES).join("|")})$`);

/** The ending of a name, if it is one of a file that may be linked to. */
export function fileEnding(name: string): string | null {
  const ending = /\.([A-Za-z0-9]{1,5})$/.exec(name)?.[1]?.toLowerCase() ?? "";
  return Object.hasOwn(FILE_TYPES, ending) ? ending : null;
}

/** How much of its content's name stands in an address: 88 bits. */
const SHORT = 22;

/** What names a file in addresses. */
export const shortFile = (file: string): string => file.slice(0, SHORT);

/** The path of a file within the application; its name stands there for people. */
export function filePath({ file, name }: { file: string; name: string }): string {
  // biome-ignore lint/suspicious/noControlCharactersInRegex: an address has none of them
  const said = name.replace(/[\u0000-\u001f\u007f]/g, "").toWellFormed();
  return `/files/${shortFile(file)}/${encodeURIComponent(said)}`;
}

/** The file that a value of an email's JSON leads to, if it is such a link. */
const ledTo = (value: unknown): string | null =>
  isJsonObject(value as Json) && (value as JsonObject).kind === "file"
    ? String((value as JsonObject).file)
    : null;

/** The files that an email links to. */
export function filesLinked(email: unknown, files = new Set<string>()): Set<string> {
  if (typeof email !== "object" || email === null) return files;
  const file = ledTo(email);
  if (file) files.add(file);
  for (const value of Object.values(email)) filesLinked(value, files);
  return files;
}

/** An email, as JSON, whose links to other files than some lead nowhere. */
export const linkedOnlyTo = (document: string, known: ReadonlySet<string>): string =>
  JSON.stringify(
    JSON.parse(document, (_, value) => {
      const file = ledTo(value);
      return file === null || known.has(file) ? value : { ...value, file: "" };
    }),
  );
