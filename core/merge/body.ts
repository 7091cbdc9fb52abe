/**
 * Bodies as bytes: constants are encoded once, values are written between them for each reader. What only some
 * readers see is a region; readers for whom the same conditions hold share the version of a body without it.
 */
import type { When } from "../text/index.ts";
import { HOLDS, type Reader } from "./values.ts";

const encoder = new TextEncoder();
const decoder = new TextDecoder();

/** A value that is written for each reader. */
export interface Fill {
  readonly key: string;
  write(reader: Reader): string;
  /** What stands there is a body by itself, which a reader shares with others. */
  body?(reader: Reader): PreparedBody;
}

/** Some gaps in a row that only some readers see, by the places of conditions in a reader's bits. */
interface Region {
  readonly all: readonly number[];
  readonly none: readonly number[];
  /** The gap it ends with. */
  end: number;
}

/** What a gap holds that is no fill: the end of a region, or (-2 and below) the beginning of one. */
export const END = -1;
const beginning = (region: number) => -2 - region;

function isShown({ all, none }: Region, bits: string): boolean {
  for (let i = 0; i < all.length; i++) if (bits.charCodeAt(all[i]!) !== HOLDS) return false;
  for (let i = 0; i < none.length; i++) if (bits.charCodeAt(none[i]!) === HOLDS) return false;
  return true;
}

/** Constants as bytes with one gap between each two. */
export interface PreparedBody {
  readonly constants: readonly Uint8Array[];
  /** What stands in each gap: an index into `fills`, or a mark of a region. */
  readonly gaps: readonly number[];
  readonly regions: readonly Region[];
  readonly fills: readonly Fill[];
  readonly constantBytes: number;
}

/** What a body is made of, in a row. */
export type Piece = string | Fill | When | typeof END;

/** Packs the pieces of a body; `conditions` are those of its email. */
export function pack(pieces: Iterable<Piece>, conditions: readonly string[]): PreparedBody {
  const places = new Map(conditions.map((key, i) => [key, i]));
  // A condition that is not the email's own holds for nobody.
  const placesOf = (keys: readonly string[]) => keys.map((key) => places.get(key) ?? -1);
  const constants: Uint8Array[] = [];
  const gaps: number[] = [];
  const fills: Fill[] = [];
  const known = new Map<string, number>();
  const regions: Region[] = [];
  const open: Region[] = [];
  let constant = "";
  for (const piece of pieces) {
    if (typeof piece === "string") {
      constant += piece;
      continue;
    }
    constants.push(encoder.encode(constant));
    constant = "";
    if (piece === END) {
      const region = open.pop();
      if (!region) throw new Error("A region ends that has not begun");
      region.end = gaps.push(END) - 1;
      continue;
    }
    if ("all" in piece) {
      const region = { all: placesOf(piece.all), none: placesOf(piece.none), end: 0 };
      gaps.push(beginning(regions.push(region) - 1));
      open.push(region);
      continue;
    }
    let at = known.get(piece.key);
    if (at === undefined) {
      at = fills.push(piece) - 1;
      known.set(piece.key, at);
    }
    gaps.push(at);
  }
  constants.push(encoder.encode(constant));
  const constantBytes = constants.reduce((sum, c) => sum + c.length, 0);
  if (open.length > 0) throw new Error("A region does not end");
  return { constants, gaps, regions, fills, constantBytes };
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

/** A body with what a reader has in its gaps: words, or bodies within it. */
interface Filled {
  readonly version: Version;
  readonly words: readonly (string | Filled | undefined)[];
  /** Bytes that it takes at most. */
  readonly most: number;
}

function filledFor(body: PreparedBody, reader: Reader): Filled {
  const version = versionOf(body, reader.bits ?? "");
  const { gaps, fills, constantBytes } = version;
  const words = new Array<string | Filled | undefined>(fills.length);
  let most = constantBytes;
  for (let i = 0; i < gaps.length; i++) {
    const gap = gaps[i]!;
    if (gap < 0) continue;
    let own = words[gap];
    if (own === undefined) {
      const fill = fills[gap]!;
      own = fill.body ? filledFor(fill.body(reader), reader) : fill.write(reader);
      words[gap] = own;
    }
    most += typeof own === "string" ? own.length * 3 : own.most;
  }
  return { version, words, most };
}

/** Writes a body at an offset and gives the offset after it. */
function emit(out: Uint8Array, start: number, { version, words }: Filled): number {
  const { constants, gaps } = version;
  let at = start;
  for (let i = 0; i < gaps.length; i++) {
    const constant = constants[i]!;
    out.set(constant, at);
    at += constant.length;
    const gap = gaps[i]!;
    if (gap < 0) continue;
    const own = words[gap]!;
    at = typeof own === "string" ? write(out, at, own) : emit(out, at, own);
  }
  const last = constants[gaps.length]!;
  out.set(last, at);
  return at + last.length;
}

/**
 * A reader's bytes (UTF-8). They stand in memory that the next call uses again: copy or use them
 * before merging another.
 */
export function mergeBytes(body: PreparedBody, reader: Reader): Uint8Array {
  const filled = filledFor(body, reader);
  const out = room(filled.most);
  return out.subarray(0, emit(out, 0, filled));
}

/** Constants with a fill between each two: what those see for whom the same conditions hold. */
type Version = Pick<PreparedBody, "constants" | "gaps" | "fills" | "constantBytes">;

/**
 * Bytes of the versions of a body that are kept joined: as many as a processor keeps near it. Readers of rarer
 * ones get theirs piece by piece from what all versions share, which is quicker than fetching theirs from afar.
 */
const KEPT_BYTES = 512 * 1024;

interface Versions {
  readonly joined: Map<string, Version>;
  bytes: number;
  /** The places of the conditions on which the body depends: others make no version of it. */
  readonly places: readonly number[];
}
const versions = new WeakMap<PreparedBody, Versions>();

const placesIn = (regions: readonly Region[]): number[] =>
  [...new Set(regions.flatMap(({ all, none }) => [...all, ...none]))]
    .filter((at) => at >= 0)
    .sort((a, b) => a - b);

/** The body as it is for readers with these bits: joined once for all of them, while there are not too many. */
function versionOf(body: PreparedBody, bits: string): Version {
  if (body.regions.length === 0) return body;
  let known = versions.get(body);
  if (!known) {
    known = { joined: new Map(), bytes: 0, places: placesIn(body.regions) };
    versions.set(body, known);
  }
  const { joined, places } = known;
  let key = bits;
  if (places.length < bits.length) {
    key = "";
    for (let i = 0; i < places.length; i++) key += bits[places[i]!] === "1" ? "1" : "0";
  }
  let version = joined.get(key);
  if (version) return version;
  if (known.bytes > KEPT_BYTES) return shownOf(body, bits);
  version = makeVersion(body, bits);
  joined.set(key, version);
  known.bytes += version.constantBytes;
  return version;
}

/** What is shown of a body, its constants as they are: as quick to make as to go through once. */
function shownOf(body: PreparedBody, bits: string): Version {
  const { constants, gaps, regions, fills, constantBytes } = body;
  const shown: Uint8Array[] = [];
  const between: number[] = [];
  for (let i = 0; i < gaps.length; i++) {
    const gap = gaps[i]!;
    shown.push(constants[i]!);
    between.push(gap >= 0 ? gap : END);
    if (gap < END) {
      const region = regions[beginning(gap)]!;
      if (!isShown(region, bits)) i = region.end;
    }
  }
  shown.push(constants[gaps.length]!);
  return { constants: shown, gaps: between, fills, constantBytes };
}

function makeVersion({ constants, gaps, regions, fills }: PreparedBody, bits: string): Version {
  const joined: Uint8Array[] = [];
  const between: number[] = [];
  let open: Uint8Array[] = [];
  const close = () => {
    const all = new Uint8Array(open.reduce((sum, { length }) => sum + length, 0));
    let at = 0;
    for (const piece of open) {
      all.set(piece, at);
      at += piece.length;
    }
    joined.push(all);
    open = [];
  };
  for (let i = 0; i < gaps.length; i++) {
    open.push(constants[i]!);
    const gap = gaps[i]!;
    if (gap >= 0) {
      close();
      between.push(gap);
    } else if (gap < END) {
      const region = regions[beginning(gap)]!;
      if (!isShown(region, bits)) i = region.end;
    }
  }
  open.push(constants[gaps.length]!);
  close();
  const constantBytes = joined.reduce((sum, { length }) => sum + length, 0);
  return { constants: joined, gaps: between, fills, constantBytes };
}

/** A reader's text. */
export const mergeText = (body: PreparedBody, reader: Reader): string =>
  decoder.decode(mergeBytes(body, reader));
