/** Findings as they are shown: what stops a send first, and each with how many readers it is about. */
import type { EmailDocument } from "../document/index.ts";
import type { Finding } from "../kinds/kind.ts";
import { shownNodes } from "../mentions/index.ts";
import { reachOf } from "../versions/index.ts";
import { type KnownReaders, placeOf, readersIn } from "./check.ts";

const SEVERITIES = ["stop", "look", "hint"] as const;

/**
 * How many readers get what stands at the place of a finding; null where all of them do, nobody knows, or nobody does,
 * which has a finding of its own.
 */
function reach(doc: EmailDocument, { conditions, groups }: KnownReaders) {
  const whens = new Map(shownNodes(doc).map(({ node, when }) => [placeOf(node), when]));
  const all = reachOf(null, conditions, groups);
  return ({ at, in: path }: Finding): number | null => {
    // A translation is got by those who read its language.
    const [translated, lang] = path ?? [];
    const own = translated === "tr" ? groups.filter((group) => group.lang === lang) : groups;
    const people = reachOf(whens.get(at) ?? null, conditions, own);
    return people > 0 && people < all ? people : null;
  };
}

/** Findings in order, with the readers they are about where those are not all of them. */
export function inOrder(
  findings: readonly Finding[],
  doc: EmailDocument,
  readers: KnownReaders | null,
): Finding[] {
  const reached = readers && findings.length > 0 ? reach(doc, readers) : () => null;
  const told = findings.map((finding): Finding => {
    if (finding.people !== undefined) return finding;
    const people = reached(finding);
    return people === null ? finding : { ...finding, people };
  });
  return SEVERITIES.flatMap((severity) => told.filter((one) => one.severity === severity));
}

/** “214 readers get it.”, where it is not for all. */
export const whoGets = ({ people }: Pick<Finding, "people">): string =>
  people == null ? "" : `${readersIn(people)} ${people === 1 ? "gets" : "get"} it.`;
