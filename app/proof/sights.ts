/** What readers see of the email, asked for a few at a time as they come into sight, and kept. */
import { useEffect, useMemo, useSyncExternalStore } from "react";
import { LIMITS } from "#core/limits.ts";
import type { Seen, Sight } from "#server/campaigns/sights.ts";
import { answerTo } from "../ask.ts";

/** What is known of a sight: nothing yet, that it could not be had, or itself. */
export type Known = Sight | "failed" | undefined;

export class Sights {
  private readonly known = new Map<number, Known>();
  private readonly heard = new Set<() => void>();
  private wanted: number[] = [];
  private asking = false;

  /** `query`: in which family, and with what marks. */
  constructor(
    private readonly campaign: string,
    private readonly query: Readonly<Record<string, string>>,
  ) {}

  of = (contact: number): Known => this.known.get(contact);
  subscribe = (hear: () => void) => {
    this.heard.add(hear);
    return () => void this.heard.delete(hear);
  };

  /** Asks for what a contact sees, the latest first: what scrolled by may wait. */
  want(contact: number): void {
    if (this.known.has(contact) || this.wanted.includes(contact)) return;
    this.wanted.push(contact);
    if (!this.asking) queueMicrotask(() => void this.ask());
  }
  /** It is out of sight again. */
  leave(contact: number): void {
    this.wanted = this.wanted.filter((one) => one !== contact);
  }
  /** Takes what somebody has said of a sight. */
  put(contact: number, change: Partial<Sight>): void {
    const now = this.known.get(contact);
    if (typeof now !== "object") return;
    this.known.set(contact, { ...now, ...change });
    this.tell();
  }
  again(contact: number): void {
    this.known.delete(contact);
    this.want(contact);
    this.tell();
  }

  private tell(): void {
    for (const hear of this.heard) hear();
  }
  private async ask(): Promise<void> {
    if (this.asking) return;
    this.asking = true;
    while (this.wanted.length > 0) {
      const some = this.wanted.splice(-LIMITS.sightsAtOnce).sort((a, b) => a - b);
      const query = new URLSearchParams({ ...this.query, contacts: some.join(",") });
      const answer = await answerTo<Seen>(`/campaigns/${this.campaign}/sights?${query}`);
      for (const one of some) this.known.set(one, "failed");
      for (const sight of answer?.sights ?? []) this.known.set(sight.contact, sight);
      this.tell();
    }
    this.asking = false;
  }
}

/** The sights of an email in one state, by its `seq`: another state is seen anew. */
export function useSights(campaign: string, seq: number, query: Readonly<Record<string, string>>) {
  const key = new URLSearchParams(query).toString();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the query by what it says; another state makes other sights
  return useMemo(() => new Sights(campaign, query), [campaign, seq, key]);
}

/** What a contact sees; asked for as long as somebody looks. */
export function useSight(sights: Sights, contact: number): Known {
  const known = useSyncExternalStore(
    sights.subscribe,
    () => sights.of(contact),
    () => undefined,
  );
  useEffect(() => {
    sights.want(contact);
    return () => sights.leave(contact);
  }, [sights, contact]);
  return known;
}
