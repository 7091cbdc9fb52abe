import { kilobytes } from "../kilobytes.ts";
import { LIMITS } from "../limits.ts";
import { htmlBytes, mergeBytes, prepare, unsigned } from "../merge/index.ts";
import { inEachLanguage, versionsOf } from "../versions/index.ts";
import { type Check, type CheckInput, readersIn } from "./check.ts";

/** As long as the tokens in the links of a message. */
const TOKEN = "m".repeat(28);
/** Versions that are weighed, the most frequent first. */
const WEIGHED = 60;

/** How heavy the HTML of those is who get more than some webmail shows: bytes of the heaviest, and how many they are. */
function heavy({ doc, surroundings, readers }: CheckInput): { bytes: number; people: number } {
  const email = inEachLanguage(doc, surroundings);
  const options = { links: "tracked", marks: false, sign: unsigned } as const;
  const prepared = new Map(
    [...email.languages].map(([lang, compiled]) => [lang, prepare(compiled, options)]),
  );
  let [bytes, people] = [0, 0];
  for (const version of versionsOf(email, readers?.groups ?? []).slice(0, WEIGHED)) {
    const reader = { values: {}, bits: version.bits, token: TOKEN };
    const own = mergeBytes(prepared.get(version.lang)!.html, reader).length;
    if (own <= LIMITS.htmlBytes) continue;
    bytes = Math.max(bytes, own);
    people += version.people;
  }
  return { bytes, people };
}

/** Some webmail shows so much of an email and cuts off the rest, the unsubscribe link with it. */
export const size: Check = {
  id: "size",
  run(input) {
    // What is for some and what is for others: nobody gets all of it.
    const all = htmlBytes(input.compiled);
    if (all <= LIMITS.htmlBytes) return [];
    const known = (input.readers?.groups.length ?? 0) > 0;
    const { bytes, people } = known ? heavy(input) : { bytes: all, people: 0 };
    if (bytes === 0) return [];
    return [
      {
        check: "size",
        severity: "look",
        message: `The HTML is too large: ${kilobytes(bytes)} KB`,
        detail: `${people > 0 ? `${readersIn(people)} would get it. ` : ""}Some webmail shows ${kilobytes(LIMITS.htmlBytes)} KB and cuts off the rest. Take something out.`,
        at: "email",
      },
    ];
  },
};
