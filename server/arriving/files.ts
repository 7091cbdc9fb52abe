/**
 * Files that an email can come in, as HTML with its pictures beside it. Runs in a thread: none of them is trusted. Each
 * has a thread of its own, which loads what reads this kind of file alone.
 */
import { unzipSync, zipSync } from "fflate";
import { marked } from "marked";
import { LIMITS } from "#core/limits.ts";
import { ArrivalError } from "./error.ts";

export interface Brought {
  readonly html: string;
  readonly subject: string;
  /** By the addresses they have in the HTML. */
  readonly pictures: ReadonlyMap<string, Uint8Array>;
  /** Somebody's words, which look like nothing yet. */
  readonly draft: boolean;
  readonly notes: readonly string[];
}

const bare = (html: string): Brought => ({
  ...{ html, subject: "", pictures: new Map(), draft: false, notes: [] },
});

/** Bytes as text: in the encoding that they name, else UTF-8, else Windows-1252 (WHATWG Encoding). */
export function decoded(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  const head = new TextDecoder("latin1").decode(bytes.subarray(0, 2_048));
  const named = /charset\s*=\s*["']?([\w-]{2,30})/i.exec(head)?.[1];
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    try {
      return new TextDecoder(named ?? "windows-1252").decode(bytes);
    } catch {
      return new TextDecoder("windows-1252").decode(bytes);
    }
  }
}

const escaped = (text: string) =>
  text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;");

/** Markdown (CommonMark with tables) as HTML. */
const fromMarkdown = (text: string): string =>
  marked.parse(text.slice(0, LIMITS.foreignHtml), { async: false, gfm: true });

/** Plain text: what Markdown makes of it, so that lists are lists; nothing in it is HTML. */
const fromText = (text: string): string =>
  marked.parse(escaped(text.slice(0, LIMITS.foreignHtml)), {
    async: false,
    gfm: true,
    breaks: true,
  });

/** The files of a ZIP; those beyond the limits are a reason to take none. */
function unzipped(bytes: Uint8Array, wanted: (name: string) => boolean): Map<string, Uint8Array> {
  let size = 0;
  let count = 0;
  const files = new Map<string, Uint8Array>();
  let over = false;
  try {
    const all = unzipSync(bytes, {
      filter({ name, originalSize }) {
        size += originalSize;
        count++;
        if (size > LIMITS.foreignUnpacked || count > LIMITS.foreignFiles) over = true;
        return !over && !name.endsWith("/") && wanted(name);
      },
    });
    for (const [name, file] of Object.entries(all)) files.set(name, file);
  } catch {
    throw new ArrivalError("This ZIP file is damaged, or it is locked.");
  }
  if (over) {
    throw new ArrivalError(
      `This file unpacks to more than ${LIMITS.foreignUnpacked / 1e6} MB or ${LIMITS.foreignFiles} files.`,
    );
  }
  return files;
}

const IMAGE = /\.(png|jpe?g|gif|webp)$/i;
const isPage = (name: string) => /\.html?$/i.test(name) && !/(^|\/)(__MACOSX|\.)/.test(name);

/** Where a file lies that another names; never above the folder they are in. */
function beside(from: string, to: string): string {
  const parts = from.split("/").slice(0, -1);
  for (const part of decodeURIComponent(to.split(/[?#]/)[0]!).split("/")) {
    if (part === "..") parts.pop();
    else if (part !== "." && part !== "") parts.push(part);
  }
  return parts.join("/");
}

function fromZip(bytes: Uint8Array): Brought {
  const files = unzipped(bytes, (name) => isPage(name) || IMAGE.test(name));
  const pages = [...files.keys()].filter(isPage);
  const [page] = pages.toSorted(
    (a, b) => a.split("/").length - b.split("/").length || b.localeCompare(a),
  );
  if (!page) throw new ArrivalError("There is no HTML file in this ZIP file.");
  const html = decoded(files.get(page)!);
  const pictures = new Map<string, Uint8Array>();
  for (const [, , written] of html.matchAll(/(src|background)\s*=\s*["']?([^"'\s>]+)/gi)) {
    if (/^[a-z]+:/i.test(written!)) continue;
    try {
      const file = files.get(beside(page, written!));
      if (file) pictures.set(written!, file);
    } catch {
      // An address that cannot be decoded names no file.
    }
  }
  const notes =
    pages.length > 1 ? [`There are ${pages.length} HTML files in it; “${page}” was taken.`] : [];
  return { ...bare(html), pictures, notes };
}

async function fromMessage(bytes: Uint8Array): Promise<Brought> {
  const { simpleParser } = await import("mailparser");
  const mail = await simpleParser(Buffer.from(bytes), {
    ...{ skipImageLinks: true, skipTextToHtml: true, maxHtmlLengthToParse: LIMITS.foreignHtml },
  }).catch(() => {
    throw new ArrivalError("This message cannot be read.");
  });
  const html = typeof mail.html === "string" ? mail.html : "";
  const text = mail.text ?? "";
  if (!html && !text.trim()) throw new ArrivalError("There are no words in this message.");
  const pictures = new Map<string, Uint8Array>();
  const others: string[] = [];
  for (const { cid, content, contentType, filename } of mail.attachments) {
    if (cid && contentType.startsWith("image/")) pictures.set(`cid:${cid}`, content);
    else others.push(filename ?? contentType);
  }
  const notes = others.length
    ? [`Its attachments were left out: ${others.slice(0, 5).join(", ")}.`]
    : [];
  const subject = mail.subject ?? "";
  return html
    ? { ...bare(html), subject, pictures, notes }
    : { ...bare(fromText(text)), subject, draft: true, notes };
}

async function fromWord(bytes: Uint8Array): Promise<Brought> {
  let macros = false;
  const files = unzipped(bytes, (name) => {
    const isMacro = /vba\w*\.(bin|xml)(\.rels)?$/i.test(name);
    macros ||= isMacro;
    return !isMacro;
  });
  const { default: mammoth } = await import("mammoth");
  // A file may say that it is small and unpack without end: whoever reads it gets what we have unpacked.
  const buffer = Buffer.from(zipSync(Object.fromEntries(files), { level: 0 }));
  const { value } = await mammoth.convertToHtml({ buffer }).catch(() => {
    throw new ArrivalError(
      "This document cannot be read. Save it as .docx anew, or copy its text.",
    );
  });
  return { ...bare(value), draft: true, notes: macros ? ["The macros in it were left out."] : [] };
}

const DATA = /data:image\/(?:png|jpe?g|gif|webp);base64,([A-Za-z0-9+/=\s]+)/gi;
/** Pictures that stand in the HTML itself are put beside it. */
function withoutData(brought: Brought): Brought {
  const pictures = new Map(brought.pictures);
  let n = 0;
  const html = brought.html.replace(DATA, (_, base64: string) => {
    const name = `embedded:${++n}`;
    pictures.set(name, Buffer.from(base64, "base64"));
    return name;
  });
  return { ...brought, html, pictures };
}

/** By the ending of a file's name. A new one is a line here. */
const KINDS: Record<string, (bytes: Uint8Array) => Brought | Promise<Brought>> = {
  html: (bytes) => bare(decoded(bytes)),
  htm: (bytes) => bare(decoded(bytes)),
  md: (bytes) => ({ ...bare(fromMarkdown(decoded(bytes))), draft: true }),
  markdown: (bytes) => ({ ...bare(fromMarkdown(decoded(bytes))), draft: true }),
  txt: (bytes) => ({ ...bare(fromText(decoded(bytes))), draft: true }),
  zip: fromZip,
  eml: fromMessage,
  docx: fromWord,
  docm: fromWord,
};
export const ENDINGS = Object.keys(KINDS);

/** Reads a file. Throws an ArrivalError. */
export async function readFile(name: string, bytes: Uint8Array): Promise<Brought> {
  const ending = name.slice(name.lastIndexOf(".") + 1).toLowerCase();
  const read = Object.hasOwn(KINDS, ending) ? KINDS[ending]! : null;
  if (!read) {
    throw new ArrivalError(
      `A file like this is not taken. Bring .html, .zip, .eml, .docx, .md, .txt or .json.`,
    );
  }
  const { html, ...rest } = await read(bytes);
  // No text in the database holds it, and no HTML does either (HTML, 13.2.3.5).
  const brought = withoutData({ ...rest, html: html.replaceAll("\0", "") });
  if (brought.html.trim() === "") throw new ArrivalError("There is nothing in this file.");
  if (brought.html.length > LIMITS.foreignHtml) {
    throw new ArrivalError(`This HTML has more than ${LIMITS.foreignHtml / 1e6} million letters.`);
  }
  return brought;
}
