/**
 * Compiled email → prepared email → messages. Preparing decides what links lead to and encodes every
 * constant to UTF-8 once; merging then copies constants and writes values between them.
 */
import { type CompiledEmail, linkKey } from "../render/index.ts";
import {
  escapeHtml,
  type Landing,
  lineMarkup,
  oneLine,
  type Recipe,
  type Segment,
  type Slot,
  type Tag,
} from "../text/index.ts";
import {
  addressParts,
  type LinkMode,
  madeAddress,
  pixelParts,
  placeMark,
  placesIn,
} from "./address.ts";
import { type Reader, tagWriter } from "./values.ts";

export interface PrepareOptions {
  /** `tracked`: through the counting address and with an open pixel; `direct`: as they are. */
  readonly links: LinkMode;
  /** With the marks that name nodes, texts and tags on the sheet. */
  readonly marks: boolean;
  /** Signs the recipes of pictures that the server makes; `unsigned` where only the team sees them. */
  readonly sign: (recipe: string) => string;
}

/** For sheets and files, where nobody signs: the server asks for a session instead. */
export const unsigned = (): string => "-";

/** Makes a value safe for where it lands. */
export function land(value: string, as: Landing): string {
  switch (as) {
    case "html":
    case "attribute":
      return escapeHtml(value);
    case "url":
      // Lone surrogates have no UTF-8, and so no address.
      return escapeHtml(encodeURIComponent(value.toWellFormed()));
    case "header":
      return oneLine(value);
    case "text":
      return oneLine(value);
  }
}

/** A value that is written for each reader. */
interface Fill {
  readonly key: string;
  write(reader: Reader): string;
}

/** Constants as bytes with one fill between each two. */
export interface PreparedBody {
  readonly constants: readonly Uint8Array[];
  /** Index into `fills` for each gap. */
  readonly gaps: readonly number[];
  readonly fills: readonly Fill[];
  readonly constantBytes: number;
}

export interface PreparedEmail {
  readonly html: PreparedBody;
  readonly text: PreparedBody;
  readonly subject: PreparedBody;
  readonly fromName: PreparedBody;
}

const encoder = new TextEncoder();
const decoder = new TextDecoder();

const tagFill = (tag: Tag, as: Landing, locale: string): Fill => {
  const words = tagWriter(tag, locale);
  return {
    key: `${as} ${JSON.stringify([tag.ref, tag.fallback, tag.format])}`,
    write: (reader) => land(words(reader), as),
  };
};
const TOKEN: Fill = { key: "token", write: (reader) => reader.token };

type Piece = string | Fill;

/** The pieces of a body under the options: no slot is left. */
function* resolve(
  segments: readonly Segment[],
  email: CompiledEmail,
  options: PrepareOptions,
): Generator<Piece> {
  const numbers = new Map(email.links.map((link, i) => [linkKey(link), i + 1]));
  const places = placesIn(segments);
  for (const segment of segments) {
    if (typeof segment === "string") yield segment;
    else yield* resolveSlot(segment, email, options, numbers, places);
  }
}

function* resolveSlot(
  slot: Slot,
  email: CompiledEmail,
  options: PrepareOptions,
  numbers: ReadonlyMap<string, number>,
  places: ReadonlySet<string>,
): Generator<Piece> {
  switch (slot.slot) {
    case "tag": {
      const fill = tagFill(slot.tag, slot.as, email.lang);
      if (options.marks && slot.as === "html") {
        yield `<span data-tag="${escapeHtml(slot.tag.ref)}">`;
        yield fill;
        yield "</span>";
      } else yield fill;
      return;
    }
    case "made":
      yield madePiece(slot.recipe, email, options.sign);
      return;
    case "address":
      throw new Error("Addresses are placed when compiling");
    case "mark":
      if (!options.marks) {
        const name = placeMark(slot, places);
        if (name) yield name;
        return;
      }
      yield slot.text === null
        ? ` data-node="${escapeHtml(slot.node)}"`
        : ` data-text="${escapeHtml(slot.text)}"`;
      return;
    case "pixel":
      if (options.links !== "tracked") return;
      yield `<img src="${escapeHtml(pixelParts(email)[0])}`;
      yield TOKEN;
      yield pixelParts(email)[1];
      return;
    case "link":
      yield* linkPieces(slot, numbers.get(linkKey(slot)) ?? 0, email, options.links);
  }
}

/** A link's address, made safe for where it lands. */
function* linkPieces(
  { to, as }: Pick<Extract<Slot, { slot: "link" }>, "to" | "as">,
  number: number,
  email: CompiledEmail,
  mode: LinkMode,
): Generator<Piece> {
  for (const part of addressParts(to, number, email, mode)) {
    if (typeof part === "string") yield as === "html" ? escapeHtml(part) : part;
    else yield part.slot === "token" ? TOKEN : tagFill(part.tag, "url", email.lang);
  }
}

/**
 * A picture the server makes: how its address is written for a reader, escaped for HTML, and whether it is
 * the same for all of them because no tag stands in its words.
 */
export function madePicture(
  recipe: Recipe,
  email: Pick<CompiledEmail, "lang" | "publicAddress">,
  sign: (recipe: string) => string,
): { html(reader: Reader): string; fixed: boolean } {
  const content = recipe.words?.content ?? [];
  const parts = content.map((part) =>
    part.type === "tag"
      ? tagWriter(part.attrs as unknown as Tag, email.lang)
      : () => part.text ?? "",
  );
  return {
    html(reader) {
      const words = recipe.words && parts.map((part) => part(reader)).join("");
      return escapeHtml(madeAddress(email.publicAddress, recipe, words, sign));
    },
    fixed: content.every((part) => part.type !== "tag"),
  };
}

function madePiece(...given: Parameters<typeof madePicture>): Piece {
  const { html, fixed } = madePicture(...given);
  if (fixed) return html({ values: {}, token: "" });
  return { key: `made ${JSON.stringify(given[0])}`, write: html };
}

function pack(pieces: Iterable<Piece>): PreparedBody {
  const constants: Uint8Array[] = [];
  const gaps: number[] = [];
  const fills: Fill[] = [];
  const known = new Map<string, number>();
  let constant = "";
  for (const piece of pieces) {
    if (typeof piece === "string") {
      constant += piece;
      continue;
    }
    constants.push(encoder.encode(constant));
    constant = "";
    let at = known.get(piece.key);
    if (at === undefined) {
      at = fills.push(piece) - 1;
      known.set(piece.key, at);
    }
    gaps.push(at);
  }
  constants.push(encoder.encode(constant));
  const constantBytes = constants.reduce((sum, c) => sum + c.length, 0);
  return { constants, gaps, fills, constantBytes };
}

/** Prepares one run of segments. */
export const prepareBody = (
  segments: readonly Segment[],
  email: CompiledEmail,
  options: PrepareOptions,
): PreparedBody => pack(resolve(segments, email, options));

/** Prepares an email for many readers. */
export function prepare(email: CompiledEmail, options: PrepareOptions): PreparedEmail {
  return {
    html: prepareBody(email.html, email, options),
    text: prepareBody(email.text, email, { ...options, marks: false }),
    subject: prepareBody(email.subject, email, { ...options, marks: false }),
    fromName: prepareBody(email.fromName, email, { ...options, marks: false }),
  };
}

let scratch = new Uint8Array(128 * 1024);
function room(bytes: number): Uint8Array {
  if (scratch.length < bytes) scratch = new Uint8Array(bytes * 2);
  return scratch;
}

/** Writes text as UTF-8 at an offset and gives the offset after it. Short ASCII, the usual case, goes fast. */
function write(out: Uint8Array, at: number, text: string): number {
  const length = text.length;
  if (length < 48) {
    let i = 0;
    for (; i < length; i++) {
      const code = text.charCodeAt(i);
      if (code > 127) break;
      out[at + i] = code;
    }
    if (i === length) return at + length;
  }
  return at + encoder.encodeInto(text, out.subarray(at)).written;
}

/**
 * A reader's bytes (UTF-8). They stand in memory that the next call uses again: copy or use them
 * before merging another.
 */
export function mergeBytes(body: PreparedBody, reader: Reader): Uint8Array {
  const { constants, gaps, fills } = body;
  const words = new Array<string>(fills.length);
  for (let i = 0; i < fills.length; i++) words[i] = fills[i]!.write(reader);
  let most = body.constantBytes;
  for (let i = 0; i < gaps.length; i++) most += words[gaps[i]!]!.length * 3;
  const out = room(most);
  let at = 0;
  for (let i = 0; i < gaps.length; i++) {
    const constant = constants[i]!;
    out.set(constant, at);
    at = write(out, at + constant.length, words[gaps[i]!]!);
  }
  const last = constants[gaps.length]!;
  out.set(last, at);
  return out.subarray(0, at + last.length);
}

/** A reader's text. */
export const mergeText = (body: PreparedBody, reader: Reader): string =>
  decoder.decode(mergeBytes(body, reader));

/** The address a numbered link leads a reader to, or null: only addresses of the email itself come out. */
export function linkAddress(email: CompiledEmail, number: number, reader: Reader): string | null {
  const link = email.links[number - 1];
  if (link?.to.kind !== "web") return null;
  const body = pack(linkPieces({ to: link.to, as: "text" }, number, email, "direct"));
  return mergeText(body, reader);
}

/** The tags of a compiled email by reference, each once. */
export function refsOf(email: CompiledEmail): string[] {
  const refs = new Set<string>();
  const visit = (segments: readonly Segment[]) => {
    for (const segment of segments) {
      if (typeof segment === "string") continue;
      if (segment.slot === "tag") refs.add(segment.tag.ref);
      if (segment.slot === "made" && segment.recipe.words) {
        visit(lineMarkup(segment.recipe.words, "text").segments);
      }
      if (segment.slot === "link" && segment.to.kind === "web") {
        visit(lineMarkup(segment.to.address, "url").segments);
      }
    }
  };
  for (const body of [email.html, email.text, email.subject, email.fromName]) visit(body);
  return [...refs].sort();
}
