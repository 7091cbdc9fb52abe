/** How quickly messages go to one domain: at most so many a minute, and slower where it asks for less haste. */
import { LIMITS } from "../limits.ts";

const MINUTE = 60_000;

/** What a domain says that is in too much of a hurry, whatever its code. */
const LESS_HASTE =
  /slow(er)? down|too (many|fast|quick)|rate.?limit|throttl|try again more slowly|less haste/i;
export const asksForLessHaste = (reply: string): boolean =>
  /^4/.test(reply) && LESS_HASTE.test(reply);

export interface DomainWatch {
  /**
   * When a message (its id) to a domain is to go, at most so many a minute (null: any number): null at once. It has its
   * place then, and goes when it comes in that minute.
   */
  place(domain: string, message: number, now: Date, perMinute: number | null): Date | null;
  /** It asks for less haste: nothing goes there for a while, longer each time until it takes something again. */
  slower(domain: string, now: Date): Date;
  /** It has taken a message. */
  took(domain: string): void;
}

/** One for a line to a service: what a domain asks for holds for all that goes to it, however often work is taken up. */
export function watchDomains(): DomainWatch {
  /** The messages that have a place, by domain and minute. */
  const places = new Map<string, Map<number, Set<number>>>();
  const holds = new Map<string, { until: number; times: number }>();
  const minuteOf = (at: number) => Math.floor(at / MINUTE);

  /** The first minute from a moment on that has a place for one more, which takes it; its own where it has one then. */
  function take(domain: string, message: number, from: number, perMinute: number): number {
    const taken = places.get(domain) ?? new Map<number, Set<number>>();
    places.set(domain, taken);
    for (const minute of taken.keys()) if (minute < minuteOf(from)) taken.delete(minute);
    let minute = minuteOf(from);
    if (taken.get(minute)?.has(message)) return minute;
    while ((taken.get(minute)?.size ?? 0) >= perMinute) minute++;
    taken.set(minute, (taken.get(minute) ?? new Set()).add(message));
    return minute;
  }

  return {
    place(domain, message, now, perMinute) {
      const held = holds.get(domain)?.until ?? 0;
      const from = Math.max(now.getTime(), held);
      if (perMinute === null) return from > now.getTime() ? new Date(from) : null;
      const minute = take(domain, message, from, perMinute);
      if (from === now.getTime() && minute === minuteOf(from)) return null;
      return new Date(Math.max(from, minute * MINUTE));
    },
    slower(domain, now) {
      const times = (holds.get(domain)?.times ?? 0) + 1;
      const waits = LIMITS.domainWaits;
      const until = now.getTime() + waits[Math.min(times, waits.length) - 1]!;
      holds.set(domain, { until, times });
      return new Date(until);
    },
    took(domain) {
      holds.delete(domain);
    },
  };
}

/** The domain of an address, in small letters. */
export const domainOfAddress = (address: string): string =>
  address.slice(address.lastIndexOf("@") + 1).toLowerCase();
