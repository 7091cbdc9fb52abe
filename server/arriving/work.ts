/** What the thread does: files become HTML, HTML becomes an email. */

import type { EmailDocument } from "#core/document/index.ts";
import {
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
import type { Theme } from "#core/theme/theme.ts";
import { newId } from "../ids.ts";
import { type Brought, readFile } from "./files.ts";

export type Question =
  | { readonly do: "read"; readonly name: string; readonly bytes: Uint8Array }
  | ({ readonly do: "take" } & ToTake);

export interface ToTake {
  readonly html: string;
  readonly subject: string;
  readonly draft: boolean;
  readonly keepLook: boolean;
  /** All of it as one HTML block. */
  readonly whole: boolean;
  readonly theme: Theme;
  readonly meanings: Readonly<Record<string, Meaning>>;
  readonly pictures: Readonly<Record<string, string | null>>;
}
export interface Read extends Brought {
  readonly images: readonly string[];
  readonly tags: readonly FoundTag[];
  readonly title: string;
}
export interface TakenApart extends Omit<Taken, "doc"> {
  readonly doc: EmailDocument;
  readonly kept: Kept;
}

/** A page of the web says what it is about in one part; an email has no such parts. */
const isPage = (html: string) => /<(main|article)[\s>]/i.test(html);
const foreignOf = (html: string, subject: string): Foreign =>
  readForeign(html, subject, isPage(html));

async function read({ name, bytes }: Extract<Question, { do: "read" }>): Promise<Read> {
  const brought = await readFile(name, bytes);
  const { images, tags, title } = foreignOf(brought.html, brought.subject);
  return { ...brought, images, tags, title };
}

function take({
  html,
  subject,
  draft,
  keepLook,
  whole,
  theme,
  meanings,
  pictures,
}: ToTake): TakenApart {
  const foreign = foreignOf(html, subject);
  const written = new Map<string, string>();
  for (const { name } of foreign.tags) {
    const meaning = meanings[name];
    if (meaning?.is === "tag") written.set(meaning.ref, name);
  }
  const taking = {
    ...{ subject, theme, keepLook, newId, aloneIsButton: draft },
    meanings: new Map(Object.entries(meanings)),
    pictureOf: (src: string) => (Object.hasOwn(pictures, src) ? pictures[src]! : null),
  };
  const taken = whole
    ? {
        doc: asOneBlock(foreign, taking),
        blocks: 1,
        rest: [],
        stacked: 0,
        backdrops: [],
        counters: 0,
      }
    : takeApart(foreign, taking);
  const srcs = new Map(Object.entries(pictures).map(([src, id]) => [id, src]));
  const kept = keptIn(
    foreign.body,
    taken.doc,
    (ref) => written.get(ref) ?? "",
    (picture) => srcs.get(picture) ?? picture,
  );
  return { ...taken, kept };
}

export const answer = async (question: Question): Promise<Read | TakenApart> =>
  question.do === "read" ? read(question) : take(question);
