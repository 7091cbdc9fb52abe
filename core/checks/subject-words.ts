/** What the subject says: how long it is, whether it shouts, and whether the email keeps what it promises. */
import { DAYS, MONTHS, numberWord } from "./calendar-words.ts";
import type { Check } from "./check.ts";
import { bodyOf, inPassage, type Passage, rewording, said } from "./passages.ts";

/** Letters of a subject that large inboxes show, at most. */
const SHOWN = 70;

const subjects = (passages: readonly Passage[]) =>
  passages.filter(({ role, paragraphs }) => role === "subject" && paragraphs[0]!.letters.trim());

export const subjectLength: Check = {
  id: "subject-length",
  run: ({ passages }) =>
    subjects(passages).flatMap((passage) => {
      const letters = [...passage.paragraphs[0]!.letters.trim()];
      if (letters.length <= SHOWN) return [];
      return [
        {
          check: "subject-length",
          severity: "hint",
          message: `The subject has ${letters.length} letters`,
          detail: `Inboxes cut it after some ${SHOWN}: “…${letters.slice(SHOWN - 20, SHOWN).join("")}”. Say what counts first.`,
          ...inPassage(passage),
        },
      ];
    }),
};

/** Whether letters are capitals nearly all of them, and enough to be meant so. */
export function shouts(words: string, least: number): boolean {
  if (!/\p{Lu}{2}/u.test(words)) return false;
  const letters = words.match(/\p{L}/gu)?.length ?? 0;
  const capitals = words.match(/\p{Lu}/gu)?.length ?? 0;
  return letters >= least && capitals / letters > 0.8;
}

const sentenceCase = (words: string) => {
  const low = words.toLocaleLowerCase();
  return low.replace(/\p{L}/u, (first) => first.toLocaleUpperCase());
};

/** Capitals all along, and marks in heaps: readers take them for shouting, filters for worse. */
export const shouting: Check = {
  id: "shouting",
  run({ passages }) {
    return passages.flatMap((passage) =>
      passage.paragraphs.flatMap((paragraph) => {
        const { letters } = paragraph;
        const inSubject = passage.role === "subject" || passage.role === "preview";
        const severity = inSubject ? ("look" as const) : ("hint" as const);
        const where = inSubject
          ? `The ${passage.role === "subject" ? "subject" : "preview text"}`
          : "A text";
        const place = { check: "shouting", severity, ...inPassage(passage) };
        const heap = /[!?]{2,}/.exec(letters);
        const found = [];
        if (shouts(letters, inSubject ? 10 : 40)) {
          const whole = [0, letters.length] as const;
          found.push({
            ...place,
            message: `${where} is in capitals`,
            detail: "It reads as shouting, and screen readers may spell it out.",
            mends: letters.includes("\ufffc")
              ? []
              : [
                  {
                    label: "Make it small letters",
                    edits: [rewording(passage, paragraph, whole, sentenceCase(letters))],
                  },
                ],
          });
        }
        if (heap && inSubject) {
          const range = [heap.index, heap.index + heap[0].length] as const;
          found.push({
            ...place,
            message: `${where} has “${heap[0]}”`,
            detail: "One mark says as much, and none is calmer.",
            mends: [
              { label: "Leave one", edits: [rewording(passage, paragraph, range, heap[0][0]!)] },
            ],
          });
        }
        return found;
      }),
    );
  },
};

const folded = (words: string) => words.trim().toLowerCase().replace(/\s+/g, " ");

export const sameSubject: Check = {
  id: "same-subject",
  run({ passages, surroundings: { lastSubject } }) {
    if (!lastSubject) return [];
    return subjects(passages)
      .filter((passage) => folded(said(passage)) === folded(lastSubject))
      .slice(0, 1)
      .map((passage) => ({
        check: "same-subject",
        severity: "look" as const,
        message: "The subject is the one that went out last time",
        detail: "Readers take it for the same email, and programs stack the two.",
        ...inPassage(passage),
      }));
  },
};

/** Numbers, days and weekdays of the subject that the email itself never comes to. */
export const promise: Check = {
  id: "promise",
  run({ passages }) {
    return subjects(passages).flatMap((passage) => {
      const body = bodyOf(passages)
        .filter(
          ({ lang }) =>
            lang === passage.lang ||
            !passages.some((one) => one.lang === passage.lang && one.role === "words"),
        )
        .map(said)
        .join(" ")
        .toLowerCase();
      // An email that says nothing yet is found to be empty by others.
      if (body.trim() === "") return [];
      const subject = passage.paragraphs[0]!.letters;
      const has = (word: string) =>
        new RegExp(`(?<![\\p{L}\\d])${word}(?![\\p{L}\\d])`, "iu").test(body);
      const missing: string[] = [];
      const days = new RegExp(`\\b(\\d{1,2})(?:st|nd|rd|th|er)?\\s+(${MONTHS.source})`, "giu");
      const rest = subject.replace(days, (whole, day: string, month: string) => {
        const there = new RegExp(
          `(?<!\\d)${Number(day)}(?:st|nd|rd|th|er)?\\s+${month.slice(0, 3)}`,
          "iu",
        ).test(body);
        if (!there && !new RegExp(`${month}\\s+${Number(day)}(?!\\d)`, "iu").test(body))
          missing.push(whole);
        return " ";
      });
      for (const [number] of rest.matchAll(/(?<![\p{L}\d.,:])\d{1,3}(?![\p{L}\d.,:%])/gu)) {
        const word = numberWord(Number(number), passage.lang);
        if (!has(number) && !(word && has(word))) missing.push(number);
      }
      for (const [day] of rest.matchAll(
        new RegExp(`(?<!\\p{L})(?:${DAYS.source})(?!\\p{L})`, "giu"),
      )) {
        if (!has(day) && !has(`${day}s`)) missing.push(day);
      }
      return missing.map((what) => ({
        check: "promise",
        severity: "look" as const,
        message: `The subject says “${what}”, and the email does not`,
        detail:
          "A reader opens it for that: say it again in the email, or take it out of the subject.",
        ...inPassage(passage),
      }));
    });
  },
};
