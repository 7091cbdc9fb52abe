/** Header fields: words, mailboxes and lines as RFC 5322 has them, other letters by encoded words (RFC 2047). */

const encoder = new TextEncoder();

/** Control characters and ends of lines have no place in a header: nobody begins a field of their own. */
export const oneLine = (words: string): string =>
  words.replace(/[\p{Cc}\u2028\u2029]+/gu, " ").trim();

const isAscii = (text: string) => /^[ -~]*$/.test(text);
/** What would be read as an encoded word where it was none. */
const looksCoded = (text: string) => text.includes("=?");

/** An encoded word has 75 characters at most, and its line 76 (RFC 2047, 2): the longest name of a field is before it. */
const WORD = 64;
const [Q, B] = ["=?utf-8?q?", "=?utf-8?b?"];

const inQ = (letter: string) =>
  letter === " "
    ? "_"
    : /[A-Za-z0-9!*+/-]/.test(letter)
      ? letter
      : [...encoder.encode(letter)]
          .map((byte) => `=${byte.toString(16).toUpperCase().padStart(2, "0")}`)
          .join("");

const inB = (letters: string) => btoa(String.fromCharCode(...encoder.encode(letters)));

/** Letters cut into words that are not longer than may be; a letter is never cut in two. */
function cut(text: string, room: number, size: (letters: string) => number): string[] {
  const words: string[] = [];
  let word = "";
  for (const letter of text) {
    if (word !== "" && size(word + letter) > room) {
      words.push(word);
      word = "";
    }
    word += letter;
  }
  return [...words, word];
}

/** Words with letters of any kind as encoded words, by the shorter of both ways. */
export function encodedWords(text: string): string {
  const room = WORD - Q.length - 2;
  const q = cut(text, room, (letters) =>
    [...letters].reduce((sum, one) => sum + inQ(one).length, 0),
  );
  const b = cut(text, room, (letters) => Math.ceil(encoder.encode(letters).length / 3) * 4);
  const short = q.length <= b.length;
  return (short ? q : b)
    .map((word) => `${short ? Q + [...word].map(inQ).join("") : B + inB(word)}?=`)
    .join("\r\n ");
}

/** The value of a field without structure, as a subject's. */
export function unstructured(words: string): string {
  const text = oneLine(words);
  // A word without an end could not be folded.
  return isAscii(text) && !looksCoded(text) && !/\S{200}/.test(text) ? text : encodedWords(text);
}

const ATOM = /^[\w!#$%&'*+/=?^`{|}~-]+$/;

/** The name before an address. */
function phrase(name: string): string {
  if (!isAscii(name) || looksCoded(name)) return encodedWords(name);
  if (name.split(" ").every((word) => ATOM.test(word))) return name;
  return `"${name.replace(/["\\]/g, "\\$&")}"`;
}

const QUOTED = /^"(?:[^"\\]|\\.)*"$/u;
const DOT_ATOM = /^[^\s"(),:;<>@[\]\\]+$/u;

/**
 * An address as a header and an envelope have it: letters of any kind before the @ stay (RFC 6532), a domain of any kind
 * is written in ASCII (RFC 5891), and what is no atom stands in quotes.
 */
export function addressSpec(address: string): string {
  const text = oneLine(address);
  const at = text.lastIndexOf("@");
  const [local, domain] = at < 0 ? [text, ""] : [text.slice(0, at), text.slice(at + 1)];
  const plain = DOT_ATOM.test(local) && !/^\.|\.\.|\.$/.test(local);
  const name = plain || QUOTED.test(local) ? local : `"${local.replace(/["\\]/g, "\\$&")}"`;
  return `${name}@${asciiDomain(domain)}`;
}

/** A domain in the letters that DNS has. */
export function asciiDomain(domain: string): string {
  if (/^[a-z0-9.-]+$/i.test(domain)) return domain.toLowerCase();
  try {
    return new URL(`http://${domain}`).hostname;
  } catch {
    return domain.replace(/[^\p{L}\p{N}.-]/gu, "");
  }
}

export interface Mailbox {
  readonly name: string;
  readonly address: string;
}

/** A mailbox: its name, where it has one, before its address. */
export function mailbox({ name, address }: Mailbox): string {
  const own = oneLine(name);
  const spec = addressSpec(address);
  return own === "" ? spec : `${phrase(own)} <${spec}>`;
}

/** Characters of a line that people see without scrolling (RFC 5322, 2.1.1). */
const LINE = 78;

/** A field as it stands in a message, its lines folded at blanks where they are long (RFC 5322, 2.2.3). */
export function field(name: string, value: string): string {
  const lines: string[] = [];
  for (const given of `${name}: ${value}`.split("\r\n ")) {
    let line = "";
    for (const [i, word] of given.split(" ").entries()) {
      const long = line.length + 1 + word.length + (lines.length ? 1 : 0) > LINE;
      // A line has more than blanks, and a field's name does not stand alone.
      if (i > 0 && long && line.trim() !== "" && !/^[\w-]+:$/.test(line)) {
        lines.push(line);
        line = word;
      } else line = i === 0 ? word : `${line} ${word}`;
    }
    lines.push(line);
  }
  return `${lines.join("\r\n ")}\r\n`;
}

const DAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];
const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");
const two = (n: number) => String(n).padStart(2, "0");

/** A moment as a header has it (RFC 5322, 3.3), in UTC. */
export const dateSpec = (at: Date): string =>
  `${DAYS[at.getUTCDay()]}, ${at.getUTCDate()} ${MONTHS[at.getUTCMonth()]} ${at.getUTCFullYear()} ${two(at.getUTCHours())}:${two(at.getUTCMinutes())}:${two(at.getUTCSeconds())} +0000`;

/**
 * The name of a file as a parameter of its disposition (RFC 2183, 2.3): in quotes where it is ASCII, else coded as RFC 2231
 * has it, in pieces where it is long.
 */
export function fileName(name: string): string {
  // Several blanks would be one once it is signed (RFC 6376, 3.4.4).
  const text = oneLine(name).replace(/[/\\]/g, "-").replace(/\s+/g, " ") || "file";
  if (isAscii(text) && !looksCoded(text) && text.length <= 60) {
    return `filename="${text.replace(/"/g, "\\$&")}"`;
  }
  const letters = [...text].map((letter) =>
    /[A-Za-z0-9._-]/.test(letter)
      ? letter
      : [...encoder.encode(letter)]
          .map((byte) => `%${byte.toString(16).toUpperCase().padStart(2, "0")}`)
          .join(""),
  );
  const pieces: string[] = [""];
  for (const letter of letters) {
    if (pieces.at(-1)!.length + letter.length > 50) pieces.push("");
    pieces[pieces.length - 1] += letter;
  }
  return pieces
    .map((piece, i) => `filename*${i}*=${i === 0 ? "utf-8''" : ""}${piece}`)
    .join(";\r\n ");
}
