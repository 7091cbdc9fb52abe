/** Asks a thread to read what somebody brought, and ends it where that takes too long. */
import { LIMITS } from "#core/limits.ts";
import { askThread, startThread } from "../thread.ts";
import { ArrivalError } from "./error.ts";
import type { Question, Read, TakenApart, ToTake } from "./work.ts";

export interface Arriving {
  /** Throws an ArrivalError. */
  read(name: string, bytes: Uint8Array): Promise<Read>;
  take(what: ToTake): Promise<TakenApart>;
}

const TOO_LONG = "This takes too long to read. Bring a part of it, or its text alone.";

/** `entry`: the thread's file. Each question has a thread of its own: whatever it does, the next begins anew. */
export function arrivingIn(entry: URL, most: number = LIMITS.foreignMs): Arriving {
  async function ask<T>(question: Question): Promise<T> {
    const thread = startThread(entry, null);
    thread.unref();
    let late = false;
    const timer = setTimeout(() => {
      late = true;
      void thread.terminate();
    }, most);
    try {
      return await askThread<Question, T>(thread)(question);
    } catch (error) {
      if (late) throw new ArrivalError(TOO_LONG);
      // Errors lose their class between threads.
      if (error instanceof Error && /^(ArrivalError|EditError|Error)$/.test(error.name)) {
        throw new ArrivalError(error.message);
      }
      throw error;
    } finally {
      clearTimeout(timer);
      void thread.terminate();
    }
  }
  return {
    read: (name, bytes) => ask<Read>({ do: "read", name, bytes }),
    take: (what) => ask<TakenApart>({ do: "take", ...what }),
  };
}
