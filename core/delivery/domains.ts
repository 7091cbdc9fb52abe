/** How quickly messages go to one domain: at most so many a minute, and slower where it asks for less haste. */
import { LIMITS } from "../limits.ts";

const MINUTE = 60_000;

/** What a domain says that is in too much of a hurry, whatever its code. */
const LESS_HASTE =
  /slow(er)? down|too (many|fast|quick)|rate.?limit|throttl|try again more slowly|less haste/i;
export const asksForLessHaste = (reply: string): boolean =>
  /^4/.test(reply) && LESS_HASTE.test(reply);

export interface DomainWatch {
  /** When a message to a domain is to go: null at once. Each that is asked for has its place then. */
  place(domain: string, now: Date): Date | null;
  /** It asks for less haste: nothing goes there for a while, longer each time until it takes something again. */
  slower(domain: string, now: Date): Date;
  /** It has taken a message. */
  took(domain: string): void;
}

/** `perMinute` null: as quickly as they go. */
export function watchDomains(perMinute: number | null): DomainWatch {
  const minutes = new Map<string, Map<number, number>>();
  const holds = new Map<string, { until: number; times: number }>();
  const minuteOf = (at: number) => Math.floor(at / MINUTE);

  /** The first minute from a moment on that has a place for one more, which takes it. */
  function take(domain: string, from: number): number {
    const counts = minutes.get(domain) ?? new Map<number, number>();
    minutes.set(domain, counts);
    for (const minute of counts.keys()) if (minute < minuteOf(from)) counts.delete(minute);
    let minute = minuteOf(from);
    while ((counts.get(minute) ?? 0) >= perMinute!) minute++;
    counts.set(minute, (counts.get(minute) ?? 0) + 1);
    return minute;
  }

  return {
    place(domain, now) {
      const held = holds.get(domain)?.until ?? 0;
      const from = Math.max(now.getTime(), held);
      if (perMinute === null) return from > now.getTime() ? new Date(from) : null;
      const minute = take(domain, from);
      if (minute === minuteOf(now.getTime())) return null;
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
