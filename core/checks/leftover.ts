import { type Check, placeOf } from "./check.ts";
import { bodyOf, inPassage, matchesIn } from "./passages.ts";

interface Leftover {
  readonly pattern: RegExp;
  readonly severity: "stop" | "look";
  readonly what: string;
}

/** Marks that repeat around a short name: how other systems write what is to be filled in. */
const FOREIGN =
  /(?<open>[{[%*<|$#])[{[%*<|$#]?\s*(?=\S*[A-Za-z])[A-Za-z][\w.:-]{1,30}\s*(?:\k<open>[\]}%*>|$#]?|[\]}%*>|#]{2})/gu;

const LEFT: readonly Leftover[] = [
  { pattern: /lorem ipsum|dolor sit amet/giu, severity: "stop", what: "dummy text" },
  { pattern: FOREIGN, severity: "stop", what: "a tag of another system" },
  {
    pattern:
      /\b(?:TODO|TBD|TBC|FIXME|XXX+)\b|\[[^\]]{0,20}\b(?:date|name|link|price|text|insert|here|nom|lien|prix|texte)\b[^\]]{0,20}\]/giu,
    severity: "look",
    what: "a note to yourself",
  },
];

/** Words that somebody meant to replace. */
export const leftover: Check = {
  id: "leftover",
  run: ({ passages }) =>
    LEFT.flatMap(({ pattern, severity, what }) =>
      [
        ...matchesIn(
          [...passages.filter(({ node }) => placeOf(node) === "envelope"), ...bodyOf(passages)],
          pattern,
        ),
      ].map(({ passage, match }) => ({
        check: "leftover",
        severity,
        message: `“${match[0]}” was left in`,
        detail: `It looks like ${what}.`,
        ...inPassage(passage),
      })),
    ),
};
