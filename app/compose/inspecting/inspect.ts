/** What is found about an email while it is composed: the checks of the proof, and its size. */
import { contrastsOf, type NodeContrast } from "#core/checks/contrast.ts";
import {
  inOrder,
  type KnownReaders,
  passagesOf,
  runChecks,
  spelling,
  wordsToSpell,
} from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Fields } from "#core/fields/index.ts";
import type { Finding, Surroundings } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { htmlBytes } from "#core/merge/index.ts";
import { colourPairs, compile } from "#core/render/index.ts";
import type { Theme } from "#core/theme/theme.ts";

export interface Inspection {
  readonly findings: readonly Finding[];
  /** By node: how well its words can be read. */
  readonly contrasts: { readonly [node: string]: NodeContrast };
  /** Of the HTML as it goes out. */
  readonly bytes: number;
}

/** What the dictionaries say of words, by language: what a wrong one might be, null for a right one. */
export type KnownWords = ReadonlyMap<string, ReadonlyMap<string, readonly string[] | null>>;
/** Words that nobody has looked up yet, by language. */
export type UnknownWords = readonly (readonly [lang: string, words: readonly string[]])[];

export interface Inspected {
  readonly doc: EmailDocument;
  readonly surroundings: Surroundings;
  readonly fields: Fields;
  readonly readers: KnownReaders | null;
  readonly known: KnownWords;
}

/** What is wrong by what is known is the server's own words' too: they are known as right. */
const OURS: ReadonlySet<string> = new Set();

export function inspect({
  doc,
  surroundings,
  fields,
  readers,
  known,
}: Inspected): Inspection & { readonly unknown: UnknownWords } {
  const passages = passagesOf(doc);
  const unknown: [string, string[]][] = [];
  const wrong = new Map<string, Map<string, readonly string[]>>();
  for (const [lang, words] of wordsToSpell(passages, OURS)) {
    const told = known.get(lang);
    const others = [...words].filter((word) => !told?.has(word));
    if (others.length > 0) unknown.push([lang, others.slice(0, LIMITS.spellAsked)]);
    const bad = [...(told ?? [])].flatMap(([word, guesses]) =>
      guesses ? [[word, guesses] as const] : [],
    );
    wrong.set(lang, new Map(bad));
  }
  const all = [
    ...runChecks(doc, surroundings, fields, readers),
    ...spelling(passages, OURS, wrong),
  ];
  const findings = inOrder(all, doc, readers);
  return { ...inspectionOf(doc, surroundings, findings), unknown };
}

/** The same where the checks have been run already. */
export function inspectionOf(
  doc: EmailDocument,
  surroundings: Surroundings,
  findings: readonly Finding[],
): Inspection {
  const compiled = compile(doc, surroundings);
  return {
    findings,
    contrasts: contrastsOf(colourPairs(compiled.html), doc.root.props.theme as unknown as Theme),
    bytes: htmlBytes(compiled),
  };
}
