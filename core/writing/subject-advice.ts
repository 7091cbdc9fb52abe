/** Advice on a subject: its length, its first words, what repeats, and how earlier ones like it were opened. */
import type { EarlierSubject, SubjectAdvice } from "./helper.ts";
import { wordsOfText } from "./readability.ts";
import { languageOf, MISTRUSTED } from "./wordings.ts";

/** Characters that a small phone shows of a subject. */
const PHONE = 40;
/** Words at the beginning that decide whether the rest is read. */
const FIRST = 3;
/** Subjects on both sides of a comparison, at least. */
const LEAST = 2;
const ALIKE = 3;

const folded = (text: string) => text.toLowerCase().normalize("NFKD").replace(/\p{M}/gu, "");
/** Words that tell subjects apart: those of more than three letters. */
const telling = (text: string) =>
  new Set(
    wordsOfText(text)
      .map(folded)
      .filter((word) => word.length > 3),
  );

/** How alike two subjects are: shared telling words against all of them (Jaccard), 0–1. */
function likeness(a: string, b: string): number {
  const [one, two] = [telling(a), telling(b)];
  const shared = [...one].filter((word) => two.has(word)).length;
  const all = new Set([...one, ...two]).size;
  return all === 0 ? 0 : shared / all;
}

/** Kinds of subjects that can be compared: what is said of those that are so, and of the others. */
const KINDS: readonly { yes: string; no: string; is: (subject: string) => boolean }[] = [
  {
    yes: `up to ${PHONE} characters`,
    no: "longer ones",
    is: (subject) => [...subject].length <= PHONE,
  },
  { yes: "with a question", no: "those without", is: (subject) => subject.includes("?") },
  { yes: "with a number", no: "those without", is: (subject) => /\d/.test(subject) },
];

/** The share of opened emails, each reader counted once. */
function openedOf(subjects: readonly EarlierSubject[]): number {
  const readers = subjects.reduce((sum, one) => sum + one.readers, 0);
  const opened = subjects.reduce((sum, one) => sum + one.opened * one.readers, 0);
  return readers ? opened / readers : 0;
}
const percent = (share: number) => `${Math.round(share * 100)} %`;

export function adviseSubject(
  {
    subject,
    preview,
    earlier,
  }: { subject: string; preview: string; earlier: readonly EarlierSubject[] },
  lang: string,
): SubjectAdvice {
  const remarks: string[] = [];
  const length = [...subject].length;
  if (length > PHONE) {
    const cut = [...subject].slice(0, PHONE).join("").trimEnd();
    remarks.push(`Small phones end it after “${cut}…”.`);
  }
  const beginning = (text: string) => wordsOfText(text).slice(0, FIRST).map(folded).join(" ");
  const own = beginning(subject);
  const same = earlier.filter((one) => own && beginning(one.subject) === own);
  if (same.length) {
    const times =
      same.length === 1 ? "one earlier subject begins" : `${same.length} earlier subjects begin`;
    remarks.push(`Its first words are not new: ${times} with them.`);
  }
  const words = wordsOfText(subject).map(folded);
  const twice = words.find((word, i) => word.length > 3 && words.indexOf(word) < i);
  if (twice) remarks.push(`“${twice}” stands in it twice.`);
  const shared = [...telling(subject)].filter((word) => telling(preview).has(word));
  if (shared.length) {
    remarks.push(`The preview text says ${shared.map((word) => `“${word}”`).join(", ")} again.`);
  }
  const wanted = folded(subject);
  const mistrusted = (MISTRUSTED[languageOf(lang)] ?? []).filter((one) =>
    wanted.includes(folded(one)),
  );
  for (const one of mistrusted) remarks.push(`“${one}” is met with mistrust.`);
  if (/!/.test(subject)) remarks.push("An exclamation mark makes no news of it.");
  if (/\p{Lu}{4,}/u.test(subject)) remarks.push("Words in capitals read as shouting.");

  const comparisons = KINDS.flatMap(({ yes, no, is }) => {
    const [those, others] = [
      earlier.filter((one) => is(one.subject)),
      earlier.filter((one) => !is(one.subject)),
    ];
    if (those.length < LEAST || others.length < LEAST) return [];
    const mine = subject && is(subject) ? "Like this one: " : "";
    return [
      `${mine}${yes}: ${percent(openedOf(those))} opened; ${no}: ${percent(openedOf(others))}.`,
    ];
  });
  const alike = earlier
    .map((one) => ({ one, like: likeness(one.subject, subject) }))
    .filter(({ like }) => like > 0)
    .sort((a, b) => b.like - a.like || b.one.readers - a.one.readers)
    .slice(0, ALIKE)
    .map(({ one }) => one);
  return { length, shown: PHONE, remarks, alike, comparisons };
}
