/** How likely filters are to mistrust an email: plain rules, each with its weight; from so much on it is told. */
import { MISTRUSTED } from "../writing/wordings.ts";
import type { Check, CheckInput } from "./check.ts";
import { linksIn, plainAddress } from "./link-addresses.ts";
import { bodyOf, said } from "./passages.ts";
import { shouts } from "./subject-words.ts";

interface Rule {
  readonly says: string;
  /** How often it fits; each time counts, up to a limit. */
  count(input: CheckInput): number;
  readonly weight: number;
}

/** One rule counts so often at most. */
const MOST = 3;
/** From here on it is told, and looked at. */
const TOLD = 2;
const MUCH = 4;

const subjectOf = ({ passages }: CheckInput) => {
  const found = passages.find(({ role }) => role === "subject");
  return found ? said(found).trim() : "";
};
const folded = (words: string) => words.toLowerCase().replace(/\s+%/g, "%").replace(/’/g, "'");

const KNOWN = [...new Set(Object.values(MISTRUSTED).flat().map(folded))];

/** Nearly all emails have none of them: one pass tells. */
const SOME = new RegExp(KNOWN.map((one) => one.replace(/[^\p{L}\d\s]/gu, "\\$&")).join("|"));

const RULES: readonly Rule[] = [
  {
    says: "words that filters mistrust",
    weight: 1,
    count({ passages }) {
      const words = folded(passages.map(said).join(" \n "));
      return SOME.test(words) ? KNOWN.filter((one) => words.includes(one)).length : 0;
    },
  },
  {
    says: "a subject that pretends to be an answer",
    weight: 3,
    count: (input) => (/^(re|fwd?|aw|tr)\s*:/i.test(subjectOf(input)) ? 1 : 0),
  },
  {
    says: "a subject in capitals",
    weight: 2,
    count: (input) => (shouts(subjectOf(input), 10) ? 1 : 0),
  },
  {
    says: "signs of money in heaps",
    weight: 2,
    count: ({ passages }) =>
      passages
        .map(said)
        .join(" ")
        .match(/[$€£]{2,}/g)?.length ?? 0,
  },
  {
    says: "links to bare numbers instead of a site",
    weight: 2,
    count: (input) =>
      linksIn(input).filter((link) =>
        /^https?:\/\/\d+\.\d+\.\d+\.\d+/.test(plainAddress(link) ?? ""),
      ).length,
  },
  {
    says: "many links for few words",
    weight: 1,
    count(input) {
      const links = linksIn(input).length;
      if (links <= 12) return 0;
      const words = bodyOf(input.passages).reduce(
        (sum, one) => sum + said(one).split(" ").length,
        0,
      );
      return links > words / 6 ? 1 : 0;
    },
  },
];

export const spam: Check = {
  id: "spam",
  run(input) {
    const hits = RULES.map((rule) => ({ rule, times: Math.min(MOST, rule.count(input)) })).filter(
      ({ times }) => times > 0,
    );
    const score = hits.reduce((sum, { rule, times }) => sum + rule.weight * times, 0);
    if (score < TOLD) return [];
    return [
      {
        check: "spam",
        severity: score >= MUCH ? "look" : "hint",
        message: `Filters may mistrust it: ${score} points`,
        detail: `${hits.map(({ rule, times }) => `${rule.says}${times > 1 ? ` (${times})` : ""}`).join(", ")}.`,
        at: "envelope",
      },
    ];
  },
};
