/** Emails that were made elsewhere, taken apart into bands and blocks of our own. */
import {
  checkDocument,
  createBand,
  createBlock,
  createColumn,
  createDocument,
} from "../../blocks/index.ts";
import { newEmail } from "../../blocks/layout.ts";
import { checkTree, EditError, type EmailDocument } from "../../document/index.ts";
import { box, pad } from "../../kinds/common.ts";
import { langSchema } from "../../kinds/translations.ts";
import { LIMITS } from "../../limits.ts";
import { linkFrom } from "../../text/index.ts";
import type { Theme } from "../../theme/theme.ts";
import { Builder, type Rest } from "./build.ts";
import { piecesOf } from "./flow.ts";
import { countBlocks } from "./kept.ts";
import { imageIs } from "./leaves.ts";
import { isHidden } from "./look.ts";
import {
  type FoundTag,
  foundTags,
  lineWithTags,
  type Meanings,
  taggedLink,
  withTags,
} from "./marks.ts";
import type { ForeignPiece } from "./pieces.ts";
import { themeOf } from "./theme.ts";
import { type El, elementsIn, isEl, letters, treeOf } from "./tree.ts";
import { sourceOf } from "./words.ts";

export { type Kept, keptIn } from "./kept.ts";
export { type FoundTag, guessedMeaning, type Meaning, type Meanings } from "./marks.ts";

/** A foreign email, read once: what is in it is told before it becomes an email of ours. */
export interface Foreign {
  readonly body: El;
  readonly title: string;
  /** It had more elements than may be: the rest was left out. */
  readonly cut: boolean;
  /** Addresses of its images, each once. */
  readonly images: readonly string[];
  readonly tags: readonly FoundTag[];
}

/** The part of a page that says what it is about; all of it where no part says so. */
function mainOf(body: El): El {
  for (const tag of ["main", "article"]) {
    const found = [...elementsIn(body)].filter((one) => one.tag === tag);
    if (found.length === 1) return { ...found[0]!, attrs: { ...body.attrs, ...found[0]!.attrs } };
  }
  return body;
}

/** Reads HTML. Of a page only its main part is taken. */
export function readForeign(html: string, subject = "", page = false): Foreign {
  const { body: whole, title, cut } = treeOf(html);
  const body = page ? mainOf(whole) : whole;
  const images = new Set<string>();
  const texts: string[] = [subject];
  const addresses: string[] = [];
  const visit = (el: El) => {
    for (const one of el.children) {
      if (!isEl(one)) texts.push(one);
      else if (!isHidden(one)) {
        if (one.tag === "img" && imageIs(one) === "image") images.add(one.attrs.src!);
        if (one.attrs.href) addresses.push(one.attrs.href);
        if (one.attrs.alt) texts.push(one.attrs.alt);
        visit(one);
      }
    }
  };
  visit(body);
  return { body, title, cut, images: [...images], tags: foundTags(texts, addresses) };
}

export interface Taking {
  readonly subject: string;
  /** What blocks look like; with `keepLook`, only where it says nothing itself. */
  readonly theme: Theme;
  readonly keepLook: boolean;
  readonly aloneIsButton: boolean;
  readonly meanings: Meanings;
  newId(): string;
  /** A picture of the library by the address it had, and where it is on the web; null where it is not there. */
  pictureOf(src: string): string | null;
  addressOf(src: string): string | null;
}

export interface Taken {
  readonly doc: EmailDocument;
  readonly blocks: number;
  /** What stays HTML, and why. */
  readonly rest: readonly Rest[];
  /** Columns within columns that stand one under the other now; pictures behind others, by their addresses. */
  readonly stacked: number;
  readonly backdrops: readonly string[];
  readonly counters: number;
}

const weigh = (piece: ForeignPiece): number =>
  "nodes" in piece ? piece.nodes.reduce((sum, one) => sum + letters(one), 0) : 0;

const envelopeOf = (subject: string, preview: string, meanings: Meanings) => ({
  ...newEmail().envelope,
  subject: lineWithTags(subject.slice(0, LIMITS.lineLength), meanings),
  preview: lineWithTags(preview.slice(0, LIMITS.lineLength), meanings),
});

/** Takes an email apart. Throws an EditError where what comes of it is more than an email may hold. */
export function takeApart(foreign: Foreign, taking: Taking): Taken {
  const { body } = foreign;
  const { meanings, keepLook } = taking;
  const { pieces, notes, look } = piecesOf(body, taking);
  const theme = keepLook ? themeOf(pieces, look.ground, taking.theme, weigh) : taking.theme;
  const empty = createDocument([], { theme });
  const builder = new Builder({
    ...{ doc: empty, theme, keepLook },
    newId: taking.newId,
    pictureOf: taking.pictureOf,
    addressOf: taking.addressOf,
    linkOf: (href) => taggedLink(href, meanings) ?? linkFrom(href),
    words: (text) => withTags(text, meanings),
    line: (text) => lineWithTags(text.slice(0, LIMITS.lineLength), meanings),
  });
  const bands = builder.bands(pieces);
  const lang = body.attrs.lang ?? "";
  const doc = createDocument(bands, {
    ...{
      theme,
      dir: look.dir,
      envelope: envelopeOf(taking.subject || foreign.title, notes.preview, meanings),
    },
    ...(langSchema.safeParse(lang).success && { lang }),
  });
  checkDocument(doc);
  checkTree(doc.root, null);
  const { stacked, backdrops, counters } = notes;
  return { doc, blocks: countBlocks(doc), rest: builder.rest, stacked, backdrops, counters };
}

/**
 * An email with the whole of a foreign one in a single HTML block. Throws an EditError where that is longer than a
 * block may be.
 */
export function asOneBlock(
  foreign: Foreign,
  { subject, theme, meanings, newId, addressOf }: Taking,
): EmailDocument {
  const source = sourceOf(foreign.body.children, addressOf);
  if (source.length > LIMITS.htmlSource) {
    throw new EditError("limit", "It is longer than one HTML block may be. Take it in blocks.");
  }
  const block = createBlock("html", newId, { source, box: box(pad(0, 0)) });
  const doc = createDocument([createBand(newId, [createColumn(newId, [block])])], {
    ...{ theme, envelope: envelopeOf(subject || foreign.title, "", meanings) },
  });
  checkDocument(doc);
  return doc;
}

/** A foreign email as it came, to be looked at: its images are ours, and nothing in it runs or is fetched. */
export function asItCame({ body }: Foreign, imageAt: (src: string) => string | null): string {
  const written = sourceOf([body], imageAt, true);
  return body.tag === "body" ? written : `<body>${written}</body>`;
}
