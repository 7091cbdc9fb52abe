/**
 * An email in other languages: the same document with words, pictures and links of some nodes replaced. What
 * is not translated stays as it is in the main language; system texts come from the catalogue.
 */
import { checkNode, nodeKind, textsOf } from "../blocks/index.ts";
import type { EmailProps } from "../blocks/layout.ts";
import { nameOf } from "../blocks/names.ts";
import { isPartShown, walkShown } from "../blocks/parts.ts";
import {
  type DocNode,
  type EmailDocument,
  type SimpleEdit,
  valueAt,
  withValue,
} from "../document/index.ts";
import { canonical, fingerprint, type Json, sameJson } from "../json.ts";
import type { Translations } from "../kinds/translations.ts";
import { LANGUAGES, type Language, type Phrases, phrases } from "../phrases/index.ts";
import { isBlank, line, type TextJson, type TextKind } from "../text/index.ts";

/** Something that can be said otherwise in another language. */
export interface Translatable {
  readonly node: DocNode;
  readonly path: readonly string[];
  /** What it is: “Heading · Words”. */
  readonly label: string;
  readonly kind: TextKind | "link" | "picture" | "plain";
  readonly source: Json;
}

const trOf = (node: DocNode): Translations => (node.props.tr ?? {}) as unknown as Translations;
export const translationKey = (path: readonly string[]): string => path.join(".");
/** The mark of what is translated, by which a later change of it is found. */
export const sourceMark = (source: Json): string => fingerprint(canonical(source));

/** Everything in an email that can be said otherwise, in the order of the document; empty texts are left out. */
export function translatables(document: EmailDocument): Translatable[] {
  const found: Translatable[] = [];
  for (const { node, holder } of walkShown(document.root)) {
    const kind = nodeKind(node.type);
    const name = node.type === "email" ? "Envelope" : nameOf(node);
    const add = (path: readonly string[], label: string, of: Translatable["kind"]) => {
      const source = valueAt(node.props, path);
      if (source === undefined || source === null) return;
      if (of !== "link" && of !== "picture" && isBlank(source as unknown as TextJson)) return;
      if (of === "link" && (source as { kind?: string }).kind !== "web") return;
      found.push({
        node,
        path,
        label: name === label ? label : `${name} · ${label}`,
        kind: of,
        source,
      });
    };
    for (const text of textsOf(node.type)) {
      if (isPartShown(node, text.path, holder)) add(text.path, text.label, text.kind);
    }
    if (node.props.plain) {
      const source = node.props.plain;
      found.push({ node, path: ["plain"], label: `${name} · Plain text`, kind: "plain", source });
    }
    for (const control of kind?.content ?? []) {
      if (control.control !== "link" && control.control !== "picture") continue;
      if (isPartShown(node, control.path, holder)) {
        add(control.path, control.label, control.control);
      }
    }
  }
  return found;
}

/** Whether it is words to be translated; links, pictures and plain text by hand need no translation. */
export const isText = ({ kind }: Pick<Translatable, "kind">): boolean =>
  kind !== "link" && kind !== "picture" && kind !== "plain";

export type TranslationState = "done" | "stale" | "missing";

const hasWords = (text: TextJson): boolean =>
  (text.text ?? "").trim() !== "" || (text.content ?? []).some(hasWords);

/** How far the translation of something is. Pictures and links need none: what is missing stays. */
export function stateOf(one: Translatable, lang: string): TranslationState {
  const known = trOf(one.node)[lang]?.[translationKey(one.path)];
  if (known) return known.of === sourceMark(one.source) ? "done" : "stale";
  const words = isText(one);
  // Tags alone say the same in every language.
  const needs = words && hasWords(one.source as unknown as TextJson);
  return needs && !systemText(one.node, one.path, one.source, lang) ? "missing" : "done";
}

/** What stands for something in a language, where it has been translated. */
export const translationOf = (one: Translatable, lang: string): Json | undefined =>
  trOf(one.node)[lang]?.[translationKey(one.path)]?.value;

/** What readers of a language get of it: its translation, a text of the catalogue, or else the original. */
export const shownIn = (one: Translatable, lang: string): Json =>
  translationOf(one, lang) ??
  (systemText(one.node, one.path, one.source, lang) as unknown as Json | null) ??
  one.source;

/** The edit that translates something; null takes its translation away. Translations of other texts are not touched. */
export function translating(one: Translatable, lang: string, value: Json | null): SimpleEdit {
  const path = ["tr", lang, translationKey(one.path)];
  const edit = { type: "set" as const, node: one.node.id, path, make: true as const };
  return value === null ? edit : { ...edit, value: { of: sourceMark(one.source), value } };
}

/** Texts of the footer that the catalogue knows. */
const SYSTEM: Readonly<
  Record<string, keyof Phrases & ("unsubscribe" | "webVersion" | "preferencesLink")>
> = {
  unsubscribeLabel: "unsubscribe",
  webVersionLabel: "webVersion",
  webVersion: "webVersion",
  preferencesLabel: "preferencesLink",
};
const catalogued = (lang: string): Language | null =>
  LANGUAGES.find(({ code }) => lang === code || lang.startsWith(`${code}-`))?.code ?? null;

/** A text of the system that nobody has changed, in another language of the catalogue; null for any other. */
function systemText(
  node: DocNode,
  path: readonly string[],
  source: Json,
  lang: string,
): TextJson | null {
  const key = path.length === 1 ? SYSTEM[path[0]!] : undefined;
  const own = catalogued(lang);
  if (!key || !own || !["footer", "masthead"].includes(node.type)) return null;
  const known = LANGUAGES.some(({ code }) => sameJson(source, line(phrases(code)[key])));
  return known ? line(phrases(own)[key]) : null;
}

const made = new WeakMap<DocNode, Map<string, DocNode>>();

/** A node's own properties in a language. A translation that does not fit (any more) is passed over. */
function ownIn(node: DocNode, lang: string): DocNode["props"] {
  // Plain text by hand is of one language: where it has no translation, it is made from the block again.
  let props = node.props.plain ? { ...node.props, plain: null } : node.props;
  const own = trOf(node)[lang] ?? {};
  for (const { path } of textsOf(node.type)) {
    const source = valueAt(node.props, path);
    const system =
      source !== undefined && !own[translationKey(path)] && systemText(node, path, source, lang);
    if (system) props = withValue(props, path, system as unknown as Json);
  }
  for (const [key, { value }] of Object.entries(own)) {
    const path = key.split(".");
    if ((valueAt(node.props, path) ?? null) === null) continue;
    try {
      const next = withValue(props, path, value);
      checkNode({ ...node, props: next });
      props = next;
    } catch {
      // It was made for something that has become another thing since.
    }
  }
  return props;
}

function nodeIn(node: DocNode, lang: string): DocNode {
  const before = made.get(node)?.get(lang);
  if (before) return before;
  const props = ownIn(node, lang);
  const children = node.children.map((child) => nodeIn(child, lang));
  const same = props === node.props && children.every((child, i) => child === node.children[i]);
  const translated = same ? node : { ...node, props, children };
  if (!made.has(node)) made.set(node, new Map());
  made.get(node)!.set(lang, translated);
  return translated;
}

const emails = new WeakMap<EmailDocument, Map<string, EmailDocument>>();

/** The email in a language: as it is in the main one, which it is in too where it has no such other. */
export function inLanguage(document: EmailDocument, lang?: string): EmailDocument {
  const { others, lang: main } = document.root.props as unknown as EmailProps;
  if (lang === undefined || lang === main || !others.includes(lang)) return document;
  const before = emails.get(document)?.get(lang);
  if (before) return before;
  const root = nodeIn(document.root, lang);
  const translated = { ...document, root: { ...root, props: { ...root.props, lang } } };
  if (!emails.has(document)) emails.set(document, new Map());
  emails.get(document)!.set(lang, translated);
  return translated;
}

/** Names of languages, in English and in the language itself, folded. */
function namesOf(lang: string): string[] {
  const plain = (text: string) =>
    text
      .normalize("NFKD")
      .replace(/\p{M}+/gu, "")
      .toLowerCase()
      .trim();
  const names = ["en", lang].map((where) => {
    try {
      return new Intl.DisplayNames([where], { type: "language" }).of(lang) ?? lang;
    } catch {
      return lang;
    }
  });
  const base = lang.split("-")[0]!;
  return [lang, base, ...names, ...(base === lang ? [] : namesOf(base))].map(plain);
}
const known = new Map<string, string[]>();

/**
 * The language an email is read in by somebody whose field says this (“French”, “français”, “fr”, “fr-BE”):
 * one of the email's, the main one where it says none of them.
 */
export function languageFor(
  value: Json | undefined,
  { lang, others }: Pick<EmailProps, "lang" | "others">,
): string {
  if (typeof value !== "string" || value.trim() === "" || others.length === 0) return lang;
  const said = value
    .normalize("NFKD")
    .replace(/\p{M}+/gu, "")
    .toLowerCase()
    .trim();
  const fits = (one: string) => {
    const names = known.get(one) ?? namesOf(one);
    known.set(one, names);
    return names.includes(said) || names.includes(said.split("-")[0]!);
  };
  const all = [lang, ...others];
  // The very language first: where there are two of one tongue, each reader gets their own.
  return all.find((one) => one.toLowerCase() === said) ?? all.find(fits) ?? lang;
}

/** The language in which a reader with these values gets an email. */
export function languageOf(
  document: EmailDocument,
  values: { readonly [ref: string]: Json | undefined },
): string {
  const email = document.root.props as unknown as EmailProps;
  return languageFor(values[`contact:${email.languageField}`], email);
}

/** What a language is called on screen. */
export const languageName = (lang: string): string =>
  new Intl.DisplayNames(["en"], { type: "language" }).of(lang) ?? lang;

/** How many texts there are to translate, and how many are missing or stale. */
export function translationCount(
  document: EmailDocument,
  lang: string,
): { readonly all: number; readonly missing: number; readonly stale: number } {
  const texts = translatables(document).filter(isText);
  const states = texts.map((one) => stateOf(one, lang));
  const count = (state: TranslationState) => states.filter((one) => one === state).length;
  return { all: texts.length, missing: count("missing"), stale: count("stale") };
}
