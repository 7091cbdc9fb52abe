/**
 * Which opens and clicks are a machine's: of scanners that follow every link before a message is shown, and of
 * programs that fetch pictures on their own. Plain rules over what a request shows; nothing of it is kept but the verdict.
 */
import { LIMITS } from "../limits.ts";

export type Machine = "agent" | "fetch" | "speed" | "links";

/** Words by which programs that nobody looks at name themselves. */
const NAMES_ITSELF =
  /bot\b|crawl|spider|scan|preview|proxy|fetch|monitor|check|curl|wget|python|java\/|go-http|headless|library|http-?client/i;

export interface Signal {
  /** The User-Agent of the request (RFC 9110, 10.1.5); null where it names none. */
  readonly agent: string | null;
  readonly method: string;
  /** What it says it asks for (Fetch Metadata, Sec-Purpose), or null. */
  readonly purpose: string | null;
  /** How long after the message was handed over; null where that is not known. */
  readonly sinceMs: number | null;
}

/** Why a single open or click is a machine's; null where it is taken as a person's. */
export function machineIn({ agent, method, purpose, sinceMs }: Signal): Machine | null {
  if (agent === null || agent.trim() === "" || NAMES_ITSELF.test(agent)) return "agent";
  if (method === "HEAD" || purpose?.includes("prefetch")) return "fetch";
  // Nobody has read a message before it was handed over, or in the same moment.
  if (sinceMs !== null && sinceMs < LIMITS.readFromMs) return "speed";
  return null;
}

/** Whether so many different links of one message in so short a time are all of them a scanner's. */
export const isScan = (links: number): boolean => links >= LIMITS.scanLinks;
