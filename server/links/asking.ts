/** Asks whether anything is there where the links of an email lead: a few at a time, each once in a while. */
import { addressesToAsk } from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { FetchError } from "../fetching/fetcher.ts";
import type { Services } from "../services.ts";
import { getCampaign } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import { hurry, isAtWork } from "../store/jobs.ts";
import { type Answered, keepLinkAnswer, linkAnswers } from "../store/link-answers.ts";

/** The addresses of an email that nobody has asked lately. */
async function unasked({ database, clock }: Services, doc: EmailDocument): Promise<string[]> {
  const addresses = addressesToAsk(doc).slice(0, LIMITS.linksAsked);
  const since = clock.now().getTime() - LIMITS.linkAnswerFresh;
  const known = await linkAnswers(database.sql, addresses);
  const fresh = new Set(known.filter(({ at }) => at.getTime() > since).map((one) => one.address));
  return addresses.filter((address) => !fresh.has(address));
}

export const isAskingLinks = (
  { database, clock }: Pick<Services, "database" | "clock">,
  campaign: string,
): Promise<boolean> => isAtWork(database.sql, "askLinks", { campaign }, clock.now());

/** Has the links of a campaign's email asked where that has not been done lately. Gives whether it is going on. */
export async function haveLinksAsked(
  services: Services,
  campaign: string,
  doc: EmailDocument,
): Promise<boolean> {
  const now = services.clock.now();
  if (await isAskingLinks(services, campaign)) return true;
  if ((await unasked(services, doc)).length === 0) return false;
  await services.database.tx((sql) => hurry(sql, "askLinks", { campaign }, now));
  services.wake();
  return true;
}

async function ask({ fetcher, clock, stopping }: Services, address: string): Promise<Answered> {
  const answer = { address, problem: null, gone: false, ledTo: null, redirects: 0 };
  try {
    const { address: end, redirects } = await fetcher(address, {
      only: "whether",
      signal: stopping,
    });
    return { ...answer, redirects, ledTo: redirects > 0 ? end : null, at: clock.now() };
  } catch (error) {
    if (!(error instanceof FetchError)) throw error;
    return { ...answer, problem: error.message, gone: error.gone, at: clock.now() };
  }
}

/** The job: asks at all addresses of a campaign's email that have not been asked lately. */
export async function askLinks(services: Services, campaign: string): Promise<void> {
  const { sql } = services.database;
  const found = await getCampaign(sql, campaign);
  const stored = found && (await loadDocument(sql, found.documentId));
  if (!stored) return;
  const left = await unasked(services, stored.doc);
  const lane = async () => {
    for (let address = left.shift(); address !== undefined; address = left.shift()) {
      if (services.stopping.aborted) return;
      await keepLinkAnswer(sql, await ask(services, address));
    }
  };
  await Promise.all(Array.from({ length: LIMITS.linksAtOnce }, lane));
}
