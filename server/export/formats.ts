/** The ways out: what an email can be taken out as. A new one is an entry here. */
import { strToU8, zipSync } from "fflate";
import { writeFile } from "#core/files/index.ts";
import { carriedBy } from "./carried.ts";
import type { Exported } from "./email.ts";
import { movePictures } from "./pictures.ts";

export interface Format {
  readonly label: string;
  readonly about: string;
  readonly ending: string;
  /** Media type (RFC 6838). */
  readonly type: string;
  /** Whether it can be filled in for a reader, and whether it can keep its tags. */
  readonly as: "either" | "reader" | "itself";
  make(email: Exported): Promise<string | Uint8Array> | string | Uint8Array;
}

const HTML = "text/html; charset=utf-8";
const ZIP = "application/zip";

/** Files as a ZIP; packed again, the same files give the same bytes. */
const zipped = (files: Record<string, string | Uint8Array>): Uint8Array =>
  zipSync(
    Object.fromEntries(
      Object.entries(files).map(([name, one]) => [
        name,
        typeof one === "string" ? strToU8(one) : one,
      ]),
    ),
    // The first moment that a ZIP can name.
    { mtime: new Date(1980, 0, 1) },
  );

export const FORMATS = {
  html: {
    ...{ label: "HTML", ending: "html", type: HTML, as: "either" },
    about: "One file; its images stay where they are on the web.",
    make: (email) => email.written().html,
  },
  embedded: {
    ...{ label: "HTML with images in it", ending: "html", type: HTML, as: "either" },
    about:
      "One file that needs nothing else: for archives and browsers. Most mail programs show no such images.",
    make: (email) =>
      movePictures(
        email.services,
        email.written().html,
        ({ type, bytes }) => `data:${type};base64,${bytes.toString("base64")}`,
      ),
  },
  zip: {
    ...{ label: "HTML and a folder of images", ending: "zip", type: ZIP, as: "either" },
    about: "A ZIP file with the HTML, the plain text and the images beside them.",
    async make(email) {
      const { html, text, subject } = email.written();
      const files: Record<string, Uint8Array> = {};
      const moved = await movePictures(email.services, html, ({ bytes, ending }, nth) => {
        const name = `images/${nth}.${ending}`;
        files[name] = bytes;
        return name;
      });
      return zipped({ "email.html": moved, "email.txt": text, "subject.txt": subject, ...files });
    },
  },
  eml: {
    ...{ label: "Message (EML)", ending: "eml", type: "message/rfc822", as: "either" },
    about: "As it would arrive, with its attachments: opens in mail programs.",
    make: (email) => email.message(),
  },
  text: {
    ...{ label: "Plain text", ending: "txt", type: "text/plain; charset=utf-8", as: "either" },
    about: "The plain text part alone.",
    make: (email) => email.written().text,
  },
  liquid: {
    ...{ label: "Liquid templates", ending: "zip", type: ZIP, as: "itself" },
    about:
      "HTML, text and subject for another system to merge, and a contract.json that says what each variable is.",
    make(email) {
      const { html, text, subject, contract } = email.template();
      const templates = {
        html: "email.html.liquid",
        text: "email.txt.liquid",
        subject: "subject.liquid",
      };
      return zipped({
        [templates.html]: html,
        [templates.text]: text,
        [templates.subject]: subject,
        "contract.json": `${JSON.stringify({ templates, variables: contract }, null, 2)}\n`,
      });
    },
  },
  json: {
    ...{ label: "Septima file (JSON)", ending: "json", type: "application/json", as: "itself" },
    about:
      "All of it, with its images, fonts and linked files: another Septima starts from it. Its JSON Schema stands beside it here.",
    make: async ({ services, name, doc }) =>
      writeFile({
        ...{ kind: "email", name, about: "", category: "", doc },
        ...(await carriedBy(services, doc)),
      }),
  },
} as const satisfies Record<string, Format>;
export type FormatKey = keyof typeof FORMATS;
export const isFormat = (key: string): key is FormatKey => Object.hasOwn(FORMATS, key);
