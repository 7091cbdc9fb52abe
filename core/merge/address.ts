/** What a link leads to, as pieces: constants, the message's token, and tags. The one spelling of every address. */

import type { Parameter } from "../kinds/parameters.ts";
import type { Recipe, Segment, Slot } from "../markup/index.ts";
import type { CompiledEmail } from "../render/index.ts";
import { filePath, type Line, type Link, type Tag } from "../text/index.ts";
import { percent } from "./land.ts";

/** `tracked`: through the counting address; `direct`: as they are; `shared`: as they are for others than the reader. */
export type LinkMode = "tracked" | "direct" | "shared";
export type AddressPart =
  | string
  | { readonly slot: "token" }
  /** A value: a part of the address, or all of it. */
  | { readonly slot: "tag"; readonly tag: Tag; readonly whole: boolean };

const TOKEN = { slot: "token" } as const;

/** The name a node has as a place that links lead to; of the email itself, so that no webmail mixes it up with its own. */
const placeName = (node: string): string => `at-${node}`;

/** The nodes that links of some markup lead to. */
export function placesIn(segments: readonly Segment[]): ReadonlySet<string> {
  const places = new Set<string>();
  for (const segment of segments) {
    if (typeof segment !== "string" && segment.slot === "link" && segment.to.kind === "place") {
      places.add(segment.to.node);
    }
  }
  return places;
}

/** What names a node in an email that goes out: only those that links lead to have a name. */
export const placeMark = (
  { node, text }: Extract<Slot, { slot: "mark" }>,
  places: ReadonlySet<string>,
): string => (text === null && places.has(node) ? ` id="${placeName(node)}"` : "");

/** The tag whose value is where a derived link leads. */
export const derivedLinkTag = (id: string): Tag => ({
  ref: `derived:${id}`,
  fallback: null,
  format: null,
});

/** A line within an address; it is the same for all readers but for its tags. */
const wordsAndTags = (line: Line): (string | Tag)[] =>
  (line.content ?? []).map((part) =>
    part.type === "tag" ? (part.attrs as unknown as Tag) : (part.text ?? ""),
  );

/** The parts of a web address; one that is a single tag is a whole address of the reader's. */
function webParts(line: Line): AddressPart[] {
  const parts = wordsAndTags(line);
  const [only] = parts;
  const whole = parts.length === 1 && typeof only === "object";
  return parts.map((part) => (typeof part === "string" ? part : { slot: "tag", tag: part, whole }));
}

/** Whether a query says something under a name already. */
const says = (query: string, name: string): boolean =>
  query.split(/[?&]/).some((one) => one === name || one.startsWith(`${name}=`));

/**
 * An address with parameters in its query (RFC 3986, 3.4), before what names a place on the page. What it says itself
 * under a name stays; an address that is a reader's own value is left as it is.
 */
function withParameters(parts: AddressPart[], parameters: readonly Parameter[]): AddressPart[] {
  if (parts.some((part) => typeof part !== "string" && (part.slot !== "tag" || part.whole))) {
    return parts;
  }
  const hash = parts.findIndex((part) => typeof part === "string" && part.includes("#"));
  const end = hash < 0 ? parts.length : hash;
  const cut = hash < 0 ? "" : (parts[hash] as string);
  const before = [...parts.slice(0, end), ...(hash < 0 ? [] : [cut.slice(0, cut.indexOf("#"))])];
  const after = hash < 0 ? [] : [cut.slice(cut.indexOf("#")), ...parts.slice(hash + 1)];
  const written = before.map((part) => (typeof part === "string" ? part : "x")).join("");
  const query = written.includes("?") ? written.slice(written.indexOf("?")) : "";
  const added = parameters.filter(({ name }) => !says(query, name));
  let sign = query === "" ? "?" : /[?&]$/.test(query) ? "" : "&";
  const made = added.flatMap(({ name, value }): AddressPart[] => {
    const lead = `${sign}${name}=`;
    sign = "&";
    return typeof value === "string"
      ? [`${lead}${percent(value)}`]
      : [lead, { slot: "tag", tag: value, whole: false }];
  });
  return [...before, ...made, ...after].filter((part) => part !== "");
}

/** The address of a link, nothing escaped; `number` is the link's number in the email. */
export function addressParts(
  to: Link,
  number: number,
  email: Pick<CompiledEmail, "publicAddress" | "parameters">,
  mode: LinkMode,
): AddressPart[] {
  const base = email.publicAddress;
  const others = mode === "shared";
  switch (to.kind) {
    case "web":
      if (mode === "tracked") return [`${base}/c/`, TOKEN, `/${number}`];
      return withParameters(webParts(to.address), email.parameters);
    case "file":
      if (mode === "tracked") return [`${base}/c/`, TOKEN, `/${number}`];
      return [`${base}${filePath(to)}`];
    case "derived":
      if (mode === "tracked") return [`${base}/c/`, TOKEN, `/${number}`];
      return [{ slot: "tag", tag: derivedLinkTag(to.tag), whole: true }];
    case "mail":
      return [`mailto:${to.address}`];
    case "phone":
      // RFC 3966: digits, and a plus in front.
      return [`tel:${to.number.replace(/[^+0-9]/g, "")}`];
    case "place":
      return [`#${placeName(to.node)}`];
    case "webVersion":
      // What others read is the web version.
      if (others) return ["#"];
      return [`${base}/w/`, TOKEN];
    case "preferences":
      if (others) return [];
      return [`${base}/p/`, TOKEN];
    case "unsubscribe":
      if (others) return [];
      return [`${base}/u/`, TOKEN];
    case "answer":
      if (others) return [];
      return [`${base}/q/`, TOKEN, `/${to.node}`];
    case "shared":
      if (others) return ["#"];
      return [`${base}/s/`, TOKEN];
    case "forward":
      // RFC 6068: a new message with a subject, and the shared version's address in it.
      return [
        "mailto:?subject=",
        ...wordsAndTags(to.subject).map(
          (part): AddressPart =>
            typeof part === "string" ? percent(part) : { slot: "tag", tag: part, whole: false },
        ),
        ...(others ? [] : [`&body=${percent(`${base}/s/`)}`, TOKEN]),
      ];
    case "none":
      return [];
  }
}

/** The open pixel around its address: what stands before the token and after it. */
export const pixelParts = (email: Pick<CompiledEmail, "publicAddress">): [string, string] => [
  `${email.publicAddress}/o/`,
  '.gif" width="1" height="1" alt="" style="display:block;border:0">',
];

/** Base64url of UTF-8 (RFC 4648, 5), without padding. */
function base64url(text: string): string {
  const bytes = new TextEncoder().encode(text);
  const binary = Array.from(bytes, (byte) => String.fromCharCode(byte)).join("");
  return btoa(binary).replaceAll("+", "-").replaceAll("/", "_").replace(/=+$/, "");
}

/**
 * A recipe as short as it can be told apart: its kind, its words where it has any, and the values of its settings in the
 * order of their names (`made.ts` of the server reads it).
 */
const shortRecipe = ({ kind, settings }: Recipe, words: string | null): string =>
  JSON.stringify([
    kind,
    ...(words === null ? [] : [words]),
    ...Object.keys(settings)
      .sort()
      .map((name) => settings[name]!),
  ]);

/** The address of a picture that the server makes: its recipe, signed, so that nobody else can order one. */
export function madeAddress(
  publicAddress: string,
  made: Recipe,
  words: string | null,
  sign: (recipe: string) => string,
): string {
  const recipe = base64url(shortRecipe(made, words));
  return `${publicAddress}/made/${recipe}/${sign(recipe)}.${made.settings.format ?? "png"}`;
}
