/** What the thread does: files become HTML, HTML becomes an email. */
import { createBand, createBlock, createColumn } from "#core/blocks/index.ts";
import { EditError, type EmailDocument } from "#core/document/index.ts";
import { type EmailFile, readFile as readOwn } from "#core/files/index.ts";
import {
  asItCame,
  asOneBlock,
  type Foreign,
  type FoundTag,
  type Kept,
  keptIn,
  type Meaning,
  readForeign,
  type Taken,
  takeApart,
} from "#core/import/emails/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { Theme } from "#core/theme/theme.ts";
import type { ReadFont } from "../fonts/measure.ts";
import { newId } from "../ids.ts";
import { ArrivalError } from "./error.ts";
import { type Brought, decoded, readFile } from "./files.ts";

export type Question =
  | { readonly do: "read"; readonly name: string; readonly bytes: Uint8Array }
  | ({ readonly do: "take" } & ToTake)
  | { readonly do: "font"; readonly bytes: Uint8Array };

/** A picture of the library: its id, where the studio shows it, and where it is on the web. */
export interface KnownPicture {
  readonly id: string;
  readonly here: string;
  readonly address: string;
}

export interface ToTake {
  readonly html: string;
  readonly subject: string;
  readonly draft: boolean;
  readonly keepLook: boolean;
  /** All of it as one HTML block. */
  readonly whole: boolean;
  readonly theme: Theme;
  readonly meanings: Readonly<Record<string, Meaning>>;
  /** By the addresses they had. */
  readonly pictures: ReadonlyMap<string, KnownPicture>;
}
export interface ReadForeign extends Brought {
  readonly kind: "foreign";
  readonly images: readonly string[];
  readonly tags: readonly FoundTag[];
  readonly title: string;
}
/** A file of ours. */
export interface ReadOwn {
  readonly kind: "own";
  readonly file: EmailFile;
}
export type Read = ReadForeign | ReadOwn;
export interface TakenApart extends Omit<Taken, "doc"> {
  readonly doc: EmailDocument;
  readonly kept: Kept;
  /** It had more elements than may be. */
  readonly cut: boolean;
  /** As it came, to be looked at; null where it looks like nothing, or is too long to be shown. */
  readonly came: string | null;
}
/** Errors lose their class between threads: what is refused is an answer. */
export type Answer = Read | TakenApart | ReadFont | { readonly refused: string };

/** A page of the web says what it is about in one part; an email has no such parts. */
const isPage = (html: string) => /<(main|article)[\s>]/i.test(html);
const foreignOf = (html: string, subject: string): Foreign =>
  readForeign(html, subject, isPage(html));

async function read(name: string, bytes: Uint8Array): Promise<Read> {
  if (/\.json$/i.test(name)) {
    const file = readOwn(decoded(bytes));
    if ("problem" in file) throw new ArrivalError(file.problem);
    if (file.kind !== "theme") return { kind: "own", file };
    throw new ArrivalError("This file carries a theme, not an email: the library takes it.");
  }
  const brought = await readFile(name, bytes);
  const { images, tags, title } = foreignOf(brought.html, brought.subject);
  return { kind: "foreign", ...brought, images, tags, title };
}

/** What somebody wrote has no footer, and every email needs one. */
function withFooter(doc: EmailDocument): EmailDocument {
  const footer = createBlock("footer", newId);
  const band = createBand(newId, [createColumn(newId, [footer])], { name: "Footer" });
  return { ...doc, root: { ...doc.root, children: [...doc.root.children, band] } };
}

const WHOLE = { blocks: 1, rest: [], stacked: 0, backdrops: [], counters: 0 };

function take({ html, subject, draft, whole, meanings, pictures, ...look }: ToTake): TakenApart {
  const foreign = foreignOf(html, subject);
  const written = new Map<string, string>();
  for (const { name } of foreign.tags) {
    const meaning = meanings[name];
    if (meaning?.is === "tag") written.set(meaning.ref, name);
  }
  const taking = {
    ...{ ...look, subject, newId, aloneIsButton: draft },
    meanings: new Map(Object.entries(meanings)),
    pictureOf: (src: string) => pictures.get(src)?.id ?? null,
    addressOf: (src: string) => pictures.get(src)?.address ?? null,
  };
  const taken = whole ? { ...WHOLE, doc: asOneBlock(foreign, taking) } : takeApart(foreign, taking);
  const srcs = new Map(
    [...pictures].flatMap(([src, { id, address }]) => [
      [id, src] as const,
      [address, src] as const,
    ]),
  );
  const kept = keptIn(
    foreign.body,
    taken.doc,
    (ref) => written.get(ref) ?? "",
    (picture) => srcs.get(picture) ?? picture,
  );
  const came = draft ? "" : asItCame(foreign, (src) => pictures.get(src)?.here ?? null);
  return {
    ...taken,
    ...{ kept, cut: foreign.cut },
    doc: draft ? withFooter(taken.doc) : taken.doc,
    came: came === "" || came.length > LIMITS.foreignShown ? null : came,
  };
}

export async function answer(question: Question): Promise<Answer> {
  try {
    switch (question.do) {
      case "read":
        return await read(question.name, question.bytes);
      case "take":
        return take(question);
      case "font":
        return (await import("../fonts/measure.ts")).measureFont(question.bytes);
    }
  } catch (error) {
    if (error instanceof ArrivalError || error instanceof EditError) {
      return { refused: error.message };
    }
    throw error;
  }
}
