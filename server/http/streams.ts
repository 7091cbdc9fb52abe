/** Event streams that are open: each belongs to a session, ends with it, and a session has only a few. */
import { LIMITS } from "#core/limits.ts";

export interface Streams {
  /** Takes a place for a stream; `end` closes it. Gives the way to free the place, or null where there is none left. */
  open(session: string, end: () => void): (() => void) | null;
  /** Ends the streams of a session that has ended. */
  endOf(session: string): void;
  readonly count: number;
}

export function createStreams(): Streams {
  const sessions = new Map<string, Set<() => void>>();
  let count = 0;
  return {
    open(session, end) {
      const own = sessions.get(session) ?? new Set();
      if (own.size >= LIMITS.streamsPerSession || count >= LIMITS.streams) return null;
      sessions.set(session, own.add(end));
      count++;
      return () => {
        if (!own.delete(end)) return;
        count--;
        if (own.size === 0) sessions.delete(session);
      };
    },
    endOf(session) {
      for (const end of [...(sessions.get(session) ?? [])]) end();
    },
    get count() {
      return count;
    },
  };
}
