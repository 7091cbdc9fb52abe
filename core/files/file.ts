/**
 * Files that carry an email, a template, saved blocks or a theme from one Septima to another: JSON with the pictures,
 * the house's fonts and the files that links lead to in it, so that nothing else has to come along. `fileJsonSchema`
 * says what stands in them.
 */
import { z } from "zod";
import { readDocument } from "../blocks/read.ts";
import { checkTree, type EmailDocument } from "../document/index.ts";
import { parseJson } from "../json.ts";
import { LIMITS } from "../limits.ts";
import { PICTURE_ID } from "../picture-id.ts";
import { FILE_NAME } from "../text/index.ts";
import { type Theme, themeSchema } from "../theme/theme.ts";

/** 2 brought fonts and linked files along. */
export const FILE_VERSION = 2;
const name = z.string().trim().min(1).max(LIMITS.nameLength);

/** Bytes in a file (RFC 4648, 4). */
const base64 = (most: number) => z.base64().max(Math.ceil((most * 4) / 3) + 4);

/** A picture in a file: named by the SHA-256 of its content, which documents name it by. */
export const filePictureSchema = z.strictObject({
  id: z.string().regex(PICTURE_ID),
  name: z.string().max(LIMITS.nameLength),
  type: z.enum(["image/png", "image/jpeg", "image/gif", "image/webp"]),
  base64: base64(LIMITS.pictureUpload),
});
export type FilePicture = z.infer<typeof filePictureSchema>;

/** A font of the house (WOFF2), named as a picture is. */
const fontInFile = z.strictObject({
  id: z.string().regex(PICTURE_ID),
  base64: base64(LIMITS.fontBytes),
});
export type FileFont = z.infer<typeof fontInFile>;

/** A file that links lead to, named by its content and its ending. */
const linkedInFile = z.strictObject({
  file: z.string().regex(FILE_NAME),
  ...{ name, base64: base64(LIMITS.fileBytes) },
});
export type FileLinked = z.infer<typeof linkedInFile>;

const pictures = z.array(filePictureSchema).max(LIMITS.picturesInFile);
const fonts = z.array(fontInFile).max(LIMITS.fonts).default([]);
const files = z.array(linkedInFile).max(LIMITS.files).default([]);
const carried = { pictures, fonts, files };
const document = z.looseObject({ schemaVersion: z.number().int(), root: z.looseObject({}) });
const version = z.int().min(1).max(FILE_VERSION);

/** The kinds of files. */
export const FILE_SCHEMAS = {
  email: z.strictObject({ septima: z.literal("email"), version, name, document, ...carried }),
  template: z.strictObject({
    ...{ septima: z.literal("template"), version, name, document, ...carried },
    about: z.string().max(LIMITS.aboutLength),
    category: z.string().max(LIMITS.nameLength),
  }),
  /** Blocks or bands that were saved: an email that holds them alone. */
  saved: z.strictObject({
    ...{ septima: z.literal("saved"), version, name, document, ...carried },
    of: z.enum(["band", "block"]),
  }),
  theme: z.strictObject({ septima: z.literal("theme"), version, theme: themeSchema, fonts }),
} as const;
export type FileKind = keyof typeof FILE_SCHEMAS;

/** What comes along with an email. */
export interface Carried {
  readonly pictures: readonly FilePicture[];
  readonly fonts: readonly FileFont[];
  readonly files: readonly FileLinked[];
}
export interface EmailFile extends Carried {
  readonly kind: "email" | "template" | "saved";
  readonly name: string;
  /** Of templates: what they are for. */
  readonly about: string;
  readonly category: string;
  /** Of what is saved: whether it is bands or blocks. */
  readonly of?: "band" | "block";
  readonly doc: EmailDocument;
}
export interface ThemeFile {
  readonly kind: "theme";
  readonly theme: Theme;
  readonly fonts: readonly FileFont[];
}
export type SeptimaFile = EmailFile | ThemeFile;

/** The text of a file; the same for the same content. */
export function writeFile(file: SeptimaFile): string {
  if (file.kind === "theme") {
    const { theme, fonts } = file;
    return JSON.stringify({ septima: "theme", version: FILE_VERSION, theme, fonts }, null, 2);
  }
  const { kind, name, about, category, of, doc, pictures, fonts, files } = file;
  const own = kind === "template" ? { about, category } : kind === "saved" ? { of } : {};
  return JSON.stringify(
    { septima: kind, version: FILE_VERSION, name, ...own, document: doc, pictures, fonts, files },
    null,
    2,
  );
}

const headSchema = z.looseObject({ septima: z.string(), version: z.number() });

/** Reads a file. Gives in a sentence what is wrong where it is none, of a newer version, or damaged. */
export function readFile(text: string): SeptimaFile | { readonly problem: string } {
  const json = parseJson(text);
  const head = headSchema.safeParse(json);
  if (!head.success || !Object.hasOwn(FILE_SCHEMAS, head.data.septima)) {
    return { problem: "This is not a file of Septima." };
  }
  if (head.data.version > FILE_VERSION) {
    return {
      problem: `This file was made with a newer Septima (version ${head.data.version}; this one reads ${FILE_VERSION}).`,
    };
  }
  const schema = FILE_SCHEMAS[head.data.septima as FileKind];
  const read = schema.safeParse(json);
  if (!read.success) {
    const [issue] = read.error.issues;
    return { problem: `This file is damaged: ${issue!.path.join(" › ") || "it"} cannot be read.` };
  }
  if (read.data.septima === "theme") {
    return { kind: "theme", theme: read.data.theme, fonts: read.data.fonts };
  }
  const { septima: kind, name, document: body, pictures, fonts, files } = read.data;
  const { doc, trouble } = readDocument(JSON.stringify(body));
  if (trouble) return { problem: trouble.reason };
  try {
    checkTree(doc.root, null);
  } catch (error) {
    return { problem: (error as Error).message };
  }
  const { about = "", category = "" } = read.data as { about?: string; category?: string };
  const { of } = read.data as Pick<EmailFile, "of">;
  return { kind, name, about, category, ...(of && { of }), doc, pictures, fonts, files };
}
