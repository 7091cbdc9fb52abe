/**
 * Merge tags as other systems write them. No notation is known beforehand: marks that stand on both sides of short
 * names, and repeat, are one; a person says what the names mean.
 */
import {
  type Line,
  type Link,
  line,
  linkSchema,
  type Tag,
  type TextJson,
} from "../../text/index.ts";

export interface FoundTag {
  /** As it is written, with its marks and what else stands within them: the shortest. */
  readonly written: string;
  readonly name: string;
  readonly count: number;
  /** It is all of an address somewhere. */
  readonly leads: boolean;
}
/** What a name means: a value of the reader, where one of our own links leads, or nothing (it stays as written). */
export type Meaning =
  | { readonly is: "tag"; readonly ref: string }
  | { readonly is: "link"; readonly kind: "unsubscribe" | "webVersion" | "preferences" }
  | { readonly is: "words" };
export type Meanings = ReadonlyMap<string, Meaning>;

const OPEN = "{[<%*|#$@~^!=&";
const CLOSE = "}]>%*|#$@~^!=&";
const cls = (marks: string) => `[${marks.replace(/[\]^\\]/g, "\\$&")}]`;
const NAME = "[A-Za-z][\\w.-]*(?: [\\w.-]+){0,2}";
const TAG = new RegExp(
  `(${cls(OPEN)}{1,4})\\s?(${NAME})((?:\\s*[|:,]\\s*[\\w'"][^{}\\[\\]<>%*#$@~^\\n]{0,80})?)\\s?(${cls(CLOSE)}{1,4})`,
  "g",
);
const MARK = new RegExp(cls(OPEN));
const FLIP: Record<string, string> = { "{": "}", "[": "]", "<": ">" };
const mirrored = (open: string) =>
  [...open]
    .reverse()
    .map((one) => FLIP[one] ?? one)
    .join("");
/** Statements of a template's language are no values. */
const STATEMENT =
  /^(?:end(?:if|for|unless|each)?|if|else|elsif|elseif|for|unless|each|set|assign)(?:\s|$)/i;
/** Alone on each side these are marks of other kinds. */
const COMMON = new Set(["*", "&", "=", "<", "!", "^"]);
const ENCODED = /^[0-9A-Fa-f]{2}$/;

interface Hit {
  readonly from: number;
  readonly to: number;
  readonly name: string;
  readonly open: string;
  readonly written: string;
}

/**
 * The marks on both sides of a name, and how many letters before and after them are none: what is said on one side is
 * said on the other the other way about, as in `?card=%%CARD%%!`.
 */
function marksOf(
  all: string,
  close: string,
): { open: string; before: number; after: number } | null {
  // Some write more on the inner side of the first mark alone.
  const outer = all.replace(/[=-]+$/, "") || all;
  for (let n = Math.min(outer.length, close.length); n > 0; n--) {
    if (mirrored(outer.slice(-n)) !== close.slice(0, n)) continue;
    const before = /^.*[=&]/.exec(outer.slice(0, -n))?.[0].length ?? 0;
    return { open: all.slice(before), before, after: close.length - n };
  }
  return null;
}

/** Everything that could be a tag in a text. */
function hitsIn(text: string): Hit[] {
  if (!MARK.test(text)) return [];
  return [...text.matchAll(TAG)].flatMap((match) => {
    const [written, all, name, , close] = match as unknown as [
      string,
      string,
      string,
      string,
      string,
    ];
    const marks = marksOf(all, close);
    if (!marks) return [];
    const { open } = marks;
    if (STATEMENT.test(name)) return [];
    if (open.length === 1 && (COMMON.has(open) || name.includes(" ") || ENCODED.test(name))) {
      return [];
    }
    const from = match.index + marks.before;
    const to = match.index + written.length - marks.after;
    const own = written.slice(marks.before, written.length - marks.after);
    return [{ from, to, name: name.trim(), open, written: own }];
  });
}

/** The tags among texts and addresses of an email. */
export function foundTags(texts: readonly string[], addresses: readonly string[]): FoundTag[] {
  const notations = new Map<
    string,
    Map<string, { written: string; count: number; leads: boolean }>
  >();
  const note = (text: string, address: boolean) => {
    for (const { open, name, written } of hitsIn(text)) {
      const names = notations.get(open) ?? new Map();
      notations.set(open, names);
      const before = names.get(name) ?? { written, count: 0, leads: false };
      names.set(name, {
        written: before.written.length <= written.length ? before.written : written,
        count: before.count + 1,
        leads: before.leads || (address && text.trim() === written),
      });
    }
  };
  for (const text of texts) note(text, false);
  for (const address of addresses) note(address, true);
  const found: FoundTag[] = [];
  for (const [open, names] of notations) {
    const all = [...names.values()].reduce((sum, { count }) => sum + count, 0);
    const again = [...names.values()].some(({ count }) => count > 1);
    // One mark alone is one only where it repeats.
    if (open.length > 1 || (all > 1 && again)) {
      found.push(...[...names].map(([name, one]) => ({ name, ...one })));
    }
  }
  return found;
}

const plain = (name: string) => name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, "");

/** What a name most likely means; null where nobody can say. */
export function guessedMeaning(
  { name, leads }: FoundTag,
  fields: readonly { readonly ref: string; readonly label: string }[],
): Meaning | null {
  const whole = plain(name);
  if (leads) {
    if (/unsub|leave|optout|signoff/.test(whole)) return { is: "link", kind: "unsubscribe" };
    if (/online|browser|webver|onweb|viewin/.test(whole)) return { is: "link", kind: "webVersion" };
    if (/pref|manage|profile/.test(whole)) return { is: "link", kind: "preferences" };
  }
  const last = plain(name.split(/[. ]/).at(-1)!);
  for (const said of [whole, last]) {
    const fits = fields.filter(({ ref, label }) => {
      const words = label
        .toLowerCase()
        .split(/[^\p{L}\p{N}]+/u)
        .filter(Boolean);
      const short = words.length > 1 ? `${words[0]![0]}${words.at(-1)}` : "";
      return [
        plain(label),
        plain(ref.split(":")[1] ?? ""),
        short,
        words.length > 1 ? words[0] : "",
      ].includes(said);
    });
    if (fits.length > 0) return { is: "tag", ref: fits[0]!.ref };
  }
  return null;
}

/** Words with their tags, in a row. */
function partsOf(text: string, meanings: Meanings): (string | Tag)[] {
  const parts: (string | Tag)[] = [];
  let at = 0;
  for (const { from, to, name } of hitsIn(text)) {
    const meaning = meanings.get(name);
    if (meaning?.is !== "tag") continue;
    if (from > at) parts.push(text.slice(at, from));
    parts.push({ ref: meaning.ref, fallback: null, format: null });
    at = to;
  }
  if (at < text.length) parts.push(text.slice(at));
  return parts;
}

/** A line of words with tags for the names that mean a value. */
export const lineWithTags = (text: string, meanings: Meanings): Line =>
  line(...partsOf(text, meanings));

/** A text with tags for the names that mean a value. */
export function withTags(text: TextJson, meanings: Meanings): TextJson {
  if (!text.content || meanings.size === 0) return text;
  return {
    ...text,
    content: text.content.flatMap((part): TextJson[] => {
      if (part.type !== "text") return [withTags(part, meanings)];
      return partsOf(part.text ?? "", meanings).map((one) =>
        typeof one === "string"
          ? { ...part, text: one }
          : {
              type: "tag",
              attrs: { ref: one.ref, fallback: one.fallback, format: one.format },
              ...(part.marks && { marks: part.marks }),
            },
      );
    }),
  };
}

/** Where an address leads that has tags in it; null where it has none that mean something. */
export function taggedLink(address: string, meanings: Meanings): Link | null {
  const text = address.trim();
  const [only] = hitsIn(text);
  const meaning =
    only && only.from === 0 && only.to === text.length ? meanings.get(only.name) : null;
  if (meaning?.is === "link") return { kind: meaning.kind };
  const parts = partsOf(text, meanings);
  if (parts.every((part) => typeof part === "string")) return null;
  const read = linkSchema.safeParse({ kind: "web", address: line(...parts) });
  return read.success ? read.data : null;
}
