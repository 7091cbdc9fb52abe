/**
 * What a domain says of who may send in its name: a policy of senders (SPF, RFC 7208), keys (DKIM, RFC 6376), and what
 * becomes of mail that fits neither (DMARC, RFC 7489).
 */
import type { DomainStanding } from "../kinds/kind.ts";
import { type Algorithm, keyName, keyRecord } from "./dkim.ts";

/** What DNS answered for a name: the TXT records there are; null where it could not be asked. */
export type Answers = ReadonlyMap<string, readonly string[] | null>;

export interface DomainRecord {
  readonly kind: "spf" | "dkim" | "dmarc";
  /** Where it stands. */
  readonly name: string;
  /** What is to stand there; null where that depends on who sends besides us. */
  readonly wanted: string | null;
  readonly found: readonly string[];
  /** `unknown`: DNS could not be asked. */
  readonly state: "right" | "missing" | "wrong" | "unknown";
  /** What it is for, and what is wrong with it. */
  readonly says: string;
}

export interface SigningKey {
  readonly algorithm: Algorithm;
  readonly selector: string;
  readonly published: string;
}

const dmarcName = (domain: string) => `_dmarc.${domain}`;

/** The names that have to be asked about a domain. */
export const namesToAsk = (domain: string, keys: readonly SigningKey[]): string[] => [
  domain,
  ...keys.map(({ selector }) => keyName(selector, domain)),
  dmarcName(domain),
];

/** Tags of a record: `p=none; rua=…`. */
function tagsOf(record: string): ReadonlyMap<string, string> {
  return new Map(
    record.split(";").flatMap((one) => {
      const at = one.indexOf("=");
      return at < 0 ? [] : [[one.slice(0, at).trim().toLowerCase(), one.slice(at + 1).trim()]];
    }),
  );
}

/** DNS is asked again for each of these, and ten times at most (RFC 7208, 4.6.4). */
const ASKS = /^[+~?-]?(?:include:|a(?:[:/]|$)|mx(?:[:/]|$)|ptr(?:[:/]|$)|exists:|redirect=)/i;
const MOST_ASKED = 10;

function spf(domain: string, all: readonly string[] | null): DomainRecord {
  const record = { kind: "spf" as const, name: domain, wanted: null };
  if (all === null) return { ...record, found: [], state: "unknown", says: UNKNOWN };
  const found = all.filter((one) => /^v=spf1(?: |$)/i.test(one));
  const is = (state: DomainRecord["state"], says: string) => ({ ...record, found, state, says });
  if (found.length === 0) {
    return is(
      "missing",
      "Says which servers send for the domain. It names your mail service: “v=spf1 include:… ~all”, with what the service tells you to include.",
    );
  }
  if (found.length > 1) {
    return is("wrong", "There are several, and then none of them counts: make them one.");
  }
  const terms = found[0]!.trim().split(/\s+/).slice(1);
  const asked = terms.filter((term) => ASKS.test(term)).length;
  if (asked > MOST_ASKED) {
    return is("wrong", `It asks DNS ${asked} times; after ${MOST_ASKED} nobody reads on.`);
  }
  if (terms.some((term) => /^\+?all$/i.test(term))) {
    return is("wrong", "It lets every server send for the domain: end it with “~all” or “-all”.");
  }
  if (!terms.some((term) => /^[~?-]all$|^redirect=/i.test(term))) {
    return is("wrong", "It does not say what becomes of other servers: end it with “~all”.");
  }
  return is("right", "Says which servers send for the domain; your mail service has to be in it.");
}

function dkim(domain: string, key: SigningKey, all: readonly string[] | null): DomainRecord {
  const name = keyName(key.selector, domain);
  const wanted = keyRecord(key.algorithm, key.published);
  const record = { kind: "dkim" as const, name, wanted };
  if (all === null) return { ...record, found: [], state: "unknown", says: UNKNOWN };
  const said = all.map((one) => tagsOf(one).get("p")?.replace(/\s/g, ""));
  const is = (state: DomainRecord["state"], says: string) => ({
    ...record,
    found: all,
    state,
    says,
  });
  const use =
    key.algorithm === "rsa-sha256"
      ? "The key that every mail program checks our signature with"
      : "A shorter key of a newer kind, which some programs prefer";
  if (said.includes(key.published)) return is("right", `${use}.`);
  if (said.includes("")) return is("wrong", `${use}; it has been taken back there.`);
  return all.length === 0
    ? is("missing", `${use}. Publish it as it stands.`)
    : is("wrong", `${use}. Another one stands there: put this in its place.`);
}

type Policy = NonNullable<DomainStanding["policy"]>;

/** What a domain wants done with mail that is not its own; null where it says nothing. */
export function policyIn(all: readonly string[] | null): Policy | null {
  const found = all?.filter((one) => /^v=DMARC1\b/i.test(one)) ?? [];
  const policy = found.length === 1 ? tagsOf(found[0]!).get("p")?.toLowerCase() : undefined;
  return policy === "none" || policy === "quarantine" || policy === "reject" ? policy : null;
}

function dmarc(domain: string, all: readonly string[] | null): DomainRecord {
  const record = { kind: "dmarc" as const, name: dmarcName(domain), wanted: "v=DMARC1; p=none" };
  if (all === null) return { ...record, found: [], state: "unknown", says: UNKNOWN };
  const found = all.filter((one) => /^v=DMARC1\b/i.test(one));
  const is = (state: DomainRecord["state"], says: string) => ({ ...record, found, state, says });
  if (found.length === 0) {
    return is(
      "missing",
      "Says what becomes of mail that pretends to be yours. Large mail services want one from whoever sends to many; “p=none” changes nothing yet.",
    );
  }
  const policy = policyIn(all);
  if (found.length > 1) return is("wrong", "There are several, and then none of them counts.");
  if (policy === null)
    return is("wrong", "It has no policy: “p=none”, “p=quarantine” or “p=reject”.");
  const what = {
    none: "Mail that pretends to be yours is let through, and told of.",
    quarantine: "Mail that pretends to be yours goes to spam.",
    reject: "Mail that pretends to be yours is refused.",
  };
  return is("right", what[policy]);
}

const UNKNOWN = "DNS did not answer just now.";

/** What a domain has, and what is missing. */
export function recordsOf(
  domain: string,
  keys: readonly SigningKey[],
  answers: Answers,
): DomainRecord[] {
  const at = (name: string) => answers.get(name) ?? null;
  return [
    ...keys.map((key) => dkim(domain, key, at(keyName(key.selector, domain)))),
    spf(domain, at(domain)),
    dmarc(domain, at(dmarcName(domain))),
  ];
}

/** What mail from a domain is taken for. */
export function standingOf(
  domain: string,
  keys: readonly SigningKey[],
  answers: Answers,
): DomainStanding {
  const states = recordsOf(domain, keys, answers)
    .filter(({ kind }) => kind === "dkim")
    .map(({ state }) => state);
  const signed = states.includes("right") ? true : states.includes("unknown") ? null : false;
  return { domain, signed, policy: policyIn(answers.get(dmarcName(domain)) ?? null) };
}
