/** Asking DNS for the records that say who may send for a domain. */
import { Resolver as Dns } from "node:dns/promises";
import { setTimeout as sleep } from "node:timers/promises";
import type { DomainStanding } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import {
  type Answers,
  type DomainRecord,
  namesToAsk,
  recordsOf,
  standingOf,
} from "#core/mail/index.ts";
import type { Clock } from "../clock.ts";
import type { MailKeys } from "./keys.ts";

/** The TXT records of a name, each whole. Throws where nobody answers. */
export type AskTxt = (name: string) => Promise<readonly string[]>;

/** A name that is not there has no records; all else is no answer. */
const NOT_THERE = new Set(["ENOTFOUND", "ENODATA"]);

export function networkTxt(): AskTxt {
  const dns = new Dns({ timeout: LIMITS.dnsMs, tries: 2 });
  return async (name) => {
    try {
      return (await dns.resolveTxt(name)).map((parts) => parts.join(""));
    } catch (error) {
      if (NOT_THERE.has((error as NodeJS.ErrnoException).code ?? "")) return [];
      throw error;
    }
  };
}

/** Knows how domains stand; what DNS said is remembered for a while. */
export interface Domains {
  /** `fresh`: DNS is asked, whatever is remembered. */
  records(domain: string, fresh?: boolean): Promise<DomainRecord[]>;
  /** Keeps nobody waiting: where DNS is slow nothing is known yet (null), and it is asked on meanwhile. */
  standing(domain: string): Promise<DomainStanding | null>;
}

export function createDomains(ask: AskTxt, keys: MailKeys, clock: Clock): Domains {
  const known = new Map<string, { until: number; readonly answers: Promise<Answers> }>();
  const { published } = keys;

  async function asked(domain: string): Promise<Answers> {
    const names = namesToAsk(domain, published);
    const answers = await Promise.all(names.map((name) => ask(name).catch(() => null)));
    return new Map(names.map((name, i) => [name, answers[i] ?? null]));
  }
  function answersOf(domain: string, fresh: boolean): Promise<Answers> {
    const now = clock.now().getTime();
    const before = known.get(domain);
    if (!fresh && before && now < before.until) return before.answers;
    if (known.size >= LIMITS.dnsDomains) known.clear();
    const entry = { until: now + LIMITS.dnsKeptMs, answers: asked(domain) };
    known.set(domain, entry);
    void entry.answers.then((answers) => {
      const silent = [...answers.values()].includes(null);
      if (silent) entry.until = now + LIMITS.dnsUnknownMs;
    });
    return entry.answers;
  }
  return {
    records: async (domain, fresh = false) =>
      recordsOf(domain, published, await answersOf(domain, fresh)),
    async standing(domain) {
      const late = new AbortController();
      const patience = sleep(LIMITS.dnsPageMs, null, { signal: late.signal }).catch(() => null);
      const answers = await Promise.race([answersOf(domain, false), patience]);
      late.abort();
      return answers && standingOf(domain, published, answers);
    },
  };
}
