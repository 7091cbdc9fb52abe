/**
 * Compiled email → prepared email → messages. Preparing decides what links lead to and encodes every
 * constant to UTF-8 once; merging then copies constants and writes values between them.
 */

import { LIMITS } from "../limits.ts";
import {
  type ChosenSlot,
  escapeHtml,
  lineMarkup,
  type Recipe,
  type Segment,
  type Slot,
  sentOf,
} from "../markup/index.ts";
import { type CompiledEmail, type EmailGround, linkKey } from "../render/index.ts";
import { inAddress, type Landing, type Line, seenRuns, shownBy, type Tag } from "../text/index.ts";
import {
  addressParts,
  type LinkMode,
  madeAddress,
  pixelParts,
  placeMark,
  placesIn,
} from "./address.ts";
import { END, type Fill, mergeText, type Piece, type PreparedBody, pack } from "./body.ts";
import { land } from "./land.ts";
import { type Reader, type TagContext, tagWriter } from "./values.ts";

export interface PrepareOptions {
  /** `tracked`: through the counting address and with an open pixel, as far as the email counts; `direct` and `shared`: as they are. */
  readonly links: LinkMode;
  /** With the marks that name nodes, texts and tags on the sheet. */
  readonly marks: boolean;
  /** With what is still to be filled in, as sheets show it. */
  readonly unfilled?: boolean;
  /** All that some readers see and others do not, as if all of it were for everybody. */
  readonly everything?: boolean;
  /** Signs the recipes of pictures that the server makes; `unsigned` where only the team sees them. */
  readonly sign: (recipe: string) => string;
}

/** For sheets and files, where nobody signs: the server asks for a session instead. */
export const unsigned = (): string => "-";

export interface PreparedEmail {
  readonly html: PreparedBody;
  readonly text: PreparedBody;
  readonly subject: PreparedBody;
  readonly fromName: PreparedBody;
}

function fill(tag: Tag, email: TagContext, place: string, safe: (words: string) => string): Fill {
  const words = tagWriter(tag, email);
  return {
    key: `${place} ${JSON.stringify([tag.ref, tag.fallback, tag.format, tag.said, tag.clock])}`,
    write: (reader) => safe(words(reader)),
  };
}
const tagFill = (tag: Tag, as: Landing, email: TagContext): Fill =>
  fill(tag, email, `${as.encoding} ${as.context}`, (words) => land(words, as));
/** What putting parts of an email together takes of it. */
type Grounded = EmailGround & Pick<CompiledEmail, "links">;

const NOBODY: Reader = { values: {}, token: "" };
/** What an item has said is the same for everybody, but for how many days there are until then. */
const constantly = ({ said, format }: Tag, fill: Fill): Piece =>
  said === undefined || format?.type === "days" ? fill : fill.write(NOBODY);

/** Choices that are kept joined: readers whose choice is the same share them. */
const KEPT_CHOICES = 2_000;

/** The items a reader has, each choice of them put together once. */
function chosenFill(
  { ref, cells, standard, frame }: ChosenSlot,
  email: Grounded,
  options: PrepareOptions,
  numbers: ReadonlyMap<string, number>,
): Fill {
  const kept = new Map<string, PreparedBody>();
  const bodyOf = (reader: Reader): PreparedBody => {
    const value = reader.values[ref];
    const refs = Array.isArray(value) ? (value as readonly string[]) : standard;
    const key = refs.join("\n");
    let body = kept.get(key);
    if (!body) {
      const known = refs.flatMap((one) => cells.get(one) ?? []);
      const whole = frame(known.map(({ first, later }, i) => (i === 0 ? first : later)));
      body = pack(resolve(whole.segments, email, options, numbers), email.conditions);
      if (kept.size >= KEPT_CHOICES) kept.clear();
      kept.set(key, body);
    }
    return body;
  };
  return {
    key: `chosen ${ref}`,
    write: (reader) => mergeText(bodyOf(reader), reader),
    body: bodyOf,
  };
}

const TOKEN: Fill = { key: "token", write: (reader) => reader.token };

const numbersOf = ({ links }: Grounded): ReadonlyMap<string, number> =>
  new Map(links.map((link, i) => [linkKey(link), i + 1]));

/** The pieces of a body under the options: no slot is left. */
function* resolve(
  segments: readonly Segment[],
  email: Grounded,
  options: PrepareOptions,
  numbers: ReadonlyMap<string, number> = numbersOf(email),
): Generator<Piece> {
  const places = placesIn(segments);
  for (const segment of options.marks || options.unfilled ? segments : sentOf(segments)) {
    if (typeof segment === "string") yield segment;
    else yield* resolveSlot(segment, email, options, numbers, places);
  }
}

function* resolveSlot(
  slot: Slot,
  email: Grounded,
  options: PrepareOptions,
  numbers: ReadonlyMap<string, number>,
  places: ReadonlySet<string>,
): Generator<Piece> {
  switch (slot.slot) {
    case "tag": {
      const fill = constantly(slot.tag, tagFill(slot.tag, slot.as, email));
      if (options.marks && !slot.plain && slot.as.context === "html") {
        yield `<span data-tag="${escapeHtml(slot.tag.ref)}">`;
        yield fill;
        yield "</span>";
      } else yield fill;
      return;
    }
    case "chosen":
      yield chosenFill(slot, email, options, numbers);
      return;
    case "made":
      yield madePiece(slot.recipe, email, options.sign);
      return;
    case "if":
      if (!options.everything) yield slot.when;
      else if (options.marks && slot.of === "words") yield '<span data-who="">';
      return;
    case "end":
      if (!options.everything) yield END;
      else if (options.marks && slot.of === "words") yield "</span>";
      return;
    case "address":
      throw new Error("Addresses are placed when compiling");
    case "sheet":
    case "unsheet":
      return;
    case "beside":
      if (!options.marks) yield slot.html;
      return;
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
      if (options.links !== "tracked" || !email.counts.opens) return;
      yield `<img src="${escapeHtml(pixelParts(email)[0])}`;
      yield TOKEN;
      yield pixelParts(email)[1];
      return;
    case "link":
      yield* linkPieces(slot, numbers.get(linkKey(slot)) ?? 0, email, modeOf(email, options));
  }
}

/** How links are written: straight to where they lead, where nobody counts clicks. */
const modeOf = ({ counts }: Grounded, { links }: PrepareOptions): LinkMode =>
  links === "tracked" && !counts.clicks ? "direct" : links;

/** A link's address, made safe for where it lands. */
export function* linkPieces(
  { to, as }: Pick<Extract<Slot, { slot: "link" }>, "to" | "as">,
  number: number,
  email: Grounded,
  mode: LinkMode,
): Generator<Piece> {
  for (const part of addressParts(to, number, email, mode)) {
    if (typeof part === "string") yield as === "html" ? escapeHtml(part) : part;
    else if (part.slot === "token") yield TOKEN;
    else yield tagFill(part.tag, inAddress(as, part.whole), email);
  }
}

/**
 * A picture the server makes: how its address is written for a reader, escaped for HTML, and whether it is
 * the same for all of them because its words have no tag, and none that only some see.
 */
export function madePicture(
  recipe: Recipe,
  email: TagContext & Pick<CompiledEmail, "publicAddress">,
  sign: (recipe: string) => string,
): { html(reader: Reader): string; fixed: boolean } {
  const content = recipe.words?.content ?? [];
  const runs = seenRuns(content).map(({ when, parts }) => ({
    shown: when && shownBy(when, email.conditions),
    parts: parts.map((part) =>
      part.type === "tag" ? tagWriter(part.attrs as unknown as Tag, email) : () => part.text ?? "",
    ),
  }));
  return {
    html(reader) {
      const seen = runs.filter(({ shown }) => !shown || shown(reader.bits ?? ""));
      const all = seen.flatMap(({ parts }) => parts.map((part) => part(reader))).join("");
      // Words that are only drawn may be cut; a code that is would say something else.
      const words = recipe.kind === "countdown" ? all.slice(0, LIMITS.drawnWords) : all;
      const { publicAddress } = email;
      return escapeHtml(madeAddress(publicAddress, recipe, recipe.words && words, sign));
    },
    fixed: runs.every(({ shown }) => !shown) && content.every((part) => part.type !== "tag"),
  };
}

function madePiece(...given: Parameters<typeof madePicture>): Piece {
  const { html, fixed } = madePicture(...given);
  if (fixed) return html(NOBODY);
  return { key: `made ${JSON.stringify(given[0])}`, write: html };
}

/** Prepares one run of segments. */
export const prepareBody = (
  segments: readonly Segment[],
  email: Grounded,
  options: PrepareOptions,
): PreparedBody => pack(resolve(segments, email, options), email.conditions);

/** A line as a reader sees it, for showing it outside of the email. */
export function lineWords(text: Line, reader: Reader, email: TagContext): string {
  const pieces = lineMarkup(text, "header").segments.map((segment): Piece => {
    if (typeof segment === "string") return segment;
    if (segment.slot === "if") return segment.when;
    return segment.slot === "tag" ? tagFill(segment.tag, segment.as, email) : END;
  });
  return mergeText(pack(pieces, email.conditions), reader);
}

/** Prepares an email for many readers. */
export function prepare(email: CompiledEmail, options: PrepareOptions): PreparedEmail {
  return {
    html: prepareBody(email.html, email, options),
    text: prepareBody(email.text, email, { ...options, marks: false }),
    subject: prepareBody(email.subject, email, { ...options, marks: false }),
    fromName: prepareBody(email.fromName, email, { ...options, marks: false }),
  };
}
