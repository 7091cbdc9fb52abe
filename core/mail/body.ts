/** Bodies of parts: coded by what is shorter, constants of a launch once for all of its readers. */
import type { Fill, PreparedBody } from "../merge/body.ts";
import { mergeBytes } from "../merge/index.ts";
import type { Reader } from "../merge/values.ts";
import { base64, base64Length } from "./base64.ts";
import { quoted, quotedWords } from "./quoted.ts";

/** What stands in a part of a message: ASCII, and how it is coded (RFC 2045, 6). */
export interface Coded {
  readonly encoding: "quoted-printable" | "base64";
  readonly bytes: Uint8Array;
}

const encoder = new TextEncoder();

/** Text as it stands in a part: the shorter of both codings, and the readable one where they are alike. */
export function coded(text: string | Uint8Array): Coded {
  const bytes = typeof text === "string" ? encoder.encode(text) : text;
  const readable = quoted(bytes);
  return readable.length <= base64Length(bytes.length)
    ? { encoding: "quoted-printable", bytes: readable }
    : { encoding: "base64", bytes: base64(bytes) };
}

/** A file as it stands in a part: byte for byte, whatever ends its lines. */
export const codedFile = (bytes: Uint8Array): Coded => ({
  encoding: "base64",
  bytes: base64(bytes),
});

const known = new WeakMap<PreparedBody, PreparedBody>();

/** A body whose constants are coded already, and whose fills code what they write. */
function quotedBody(body: PreparedBody): PreparedBody {
  const before = known.get(body);
  if (before) return before;
  const last = body.constants.length - 1;
  const constants = body.constants.map((one, i) => quoted(one, i < last));
  const fills = body.fills.map(
    (fill): Fill => ({
      key: fill.key,
      write: (reader) => quotedWords(fill.write(reader)),
      ...(fill.body && { body: (reader: Reader) => openBody(fill.body!(reader)) }),
    }),
  );
  const constantBytes = constants.reduce((sum, one) => sum + one.length, 0);
  const made = { constants, gaps: body.gaps, regions: body.regions, fills, constantBytes };
  known.set(body, made);
  return made;
}

const open = new WeakMap<PreparedBody, PreparedBody>();
/** A body that stands within another: what follows it begins at the head of a line. */
function openBody(body: PreparedBody): PreparedBody {
  const before = open.get(body);
  if (before) return before;
  const whole = quotedBody(body);
  const last = body.constants.at(-1)!;
  const end = quoted(last, true);
  const constants = [...whole.constants.slice(0, -1), end];
  const constantBytes = whole.constantBytes - whole.constants.at(-1)!.length + end.length;
  const made = { ...whole, constants, constantBytes };
  open.set(body, made);
  return made;
}

/**
 * What writes a body for its readers as it stands in a part. How it is coded is settled once, by its constants.
 */
export function codedBody(body: PreparedBody): (reader: Reader) => Coded {
  const readable = quotedBody(body);
  if (readable.constantBytes <= base64Length(body.constantBytes) || body.constantBytes === 0) {
    return (reader) => ({
      encoding: "quoted-printable",
      bytes: mergeBytes(readable, reader).slice(),
    });
  }
  return (reader) => ({ encoding: "base64", bytes: base64(mergeBytes(body, reader)) });
}
