/**
 * Versions: the distinct emails that come of conditions. Readers for whom the same conditions hold are counted
 * together (`Group`), by whoever can count them; everything about reach follows from those groups.
 */

import type { EmailProps } from "../blocks/layout.ts";
import type { EmailDocument } from "../document/index.ts";
import type { Surroundings } from "../kinds/kind.ts";
import { allWithWhen } from "../markup/index.ts";
import { type CompiledEmail, compile } from "../render/index.ts";
import { ruleKey, type Seen, shownBy, type When } from "../text/index.ts";

/** Readers for whom the same conditions hold. */
export interface Group {
  /** A "1" for each condition that holds, in the order of the email's conditions. */
  readonly bits: string;
  readonly people: number;
  /** One of them, by id. */
  readonly sample: number;
  /** The language they get it in; left out where there is one alone. */
  readonly lang?: string;
}

/** One distinct email. */
export interface Version {
  /**
   * The language, and a "1" for each part that is shown; what stands in a hidden part counts as hidden, and a part
   * that this language does not have is a "-".
   */
  readonly key: string;
  readonly lang: string;
  readonly people: number;
  readonly sample: number;
  /** The bits of the sample. */
  readonly bits: string;
}

const partKey = (when: When) => JSON.stringify([[...when.all].sort(), [...when.none].sort()]);

/** When each conditional part of an email is shown, each way once; what parts stand in is in it. */
export function partsOf(
  email: Pick<CompiledEmail, "html" | "text" | "subject" | "fromName">,
): When[] {
  const found = new Map<string, When>();
  for (const body of [email.html, email.text, email.subject, email.fromName]) {
    for (const { segment, when } of allWithWhen(body)) {
      if (!when || typeof segment === "string") continue;
      found.set(partKey(when), when);
    }
  }
  return [...found.values()];
}

/** An email in each of its languages, the main one first, with what decides between them. */
export interface EmailInLanguages {
  readonly languages: ReadonlyMap<string, CompiledEmail>;
  readonly email: Pick<EmailProps, "lang" | "others">;
}

/** The field that decides in which language a reader gets an email; null where there is only one. */
export function languageFieldOf(doc: EmailDocument): string | null {
  const { others, languageField } = doc.root.props as unknown as EmailProps;
  return others.length > 0 ? languageField : null;
}

/** Compiles a document in each of its languages. */
export function inEachLanguage(doc: EmailDocument, surroundings: Surroundings): EmailInLanguages {
  const email = doc.root.props as unknown as EmailProps;
  const all = [email.lang, ...(languageFieldOf(doc) === null ? [] : email.others)];
  return {
    email,
    languages: new Map(all.map((lang) => [lang, compile(doc, surroundings, lang)])),
  };
}

/** The distinct emails that readers get, the most frequent first. The axes: language, and every conditional part. */
export function versionsOf(
  { languages, email }: EmailInLanguages,
  groups: readonly Group[],
): Version[] {
  const parts = new Map<string, When>();
  const own = new Map<string, ReadonlySet<string>>();
  for (const [lang, compiled] of languages) {
    const whens = partsOf(compiled);
    for (const when of whens) parts.set(partKey(when), when);
    own.set(lang, new Set(whens.map(partKey)));
  }
  const [main] = languages.values();
  const tests = [...parts].map(([key, when]) => ({
    key,
    isShown: shownBy(when, main!.conditions),
  }));
  const versions = new Map<string, Version>();
  for (const { bits, people, sample, lang = email.lang } of groups) {
    const has = own.get(lang)!;
    let key = `${lang}:`;
    for (const test of tests) key += has.has(test.key) ? (test.isShown(bits) ? "1" : "0") : "-";
    const before = versions.get(key);
    versions.set(
      key,
      before ? { ...before, people: before.people + people } : { key, lang, people, sample, bits },
    );
  }
  return [...versions.values()].sort((a, b) => b.people - a.people || (a.key < b.key ? 1 : -1));
}

const sum = (groups: readonly Group[]) => groups.reduce((all, { people }) => all + people, 0);

/** How many readers see a part. */
export const reachOf = (
  when: When | null,
  conditions: readonly string[],
  groups: readonly Group[],
): number => {
  if (!when) return sum(groups);
  const isShown = shownBy(when, conditions);
  return sum(groups.filter(({ bits }) => isShown(bits)));
};

export interface ChainReach {
  /** How many see each alternative. */
  readonly each: readonly number[];
  /** How many see none of them. */
  readonly none: number;
  /** How many more than one would be for; they see the first. */
  readonly several: number;
}

/** How a chain of alternatives falls out. */
export function chainReach(
  chain: readonly Seen[],
  conditions: readonly string[],
  groups: readonly Group[],
): ChainReach {
  const each = chain.map(() => 0);
  const places = chain.map(({ seenBy }) => seenBy && conditions.indexOf(ruleKey(seenBy)));
  let [none, several] = [0, 0];
  for (const { bits, people } of groups) {
    const holds = places.map((at) => at === null || bits[at] === "1");
    const first = holds.indexOf(true);
    if (first < 0) none += people;
    else each[first]! += people;
    // The last resort is for everybody by its nature.
    if (holds.filter((held, i) => held && chain[i]!.seenBy !== null).length > 1) several += people;
  }
  return { each, none, several };
}

/** What somebody is to see, or not to see. */
export interface Wish {
  readonly when: When;
  readonly sees: boolean;
}

/** The most usual reader for whom all of these come true, by id; null where there is none. */
export function someoneWho(
  wishes: readonly Wish[],
  conditions: readonly string[],
  groups: readonly Group[],
): { readonly sample: number; readonly people: number } | null {
  const tests = wishes.map(({ when, sees }) => ({ isShown: shownBy(when, conditions), sees }));
  const fitting = groups.filter(({ bits }) =>
    tests.every(({ isShown, sees }) => isShown(bits) === sees),
  );
  const [first] = [...fitting].sort((a, b) => b.people - a.people);
  return first ? { sample: first.sample, people: sum(fitting) } : null;
}
