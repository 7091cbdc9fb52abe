/** Asks a thread to read what somebody brought, and ends it where that takes too long. */
import pLimit from "p-limit";
import { LIMITS } from "#core/limits.ts";
import type { ReadFont } from "../fonts/measure.ts";
import { askThread, startThread } from "../thread.ts";
import { ArrivalError } from "./error.ts";
import type { Answer, Question, Read, TakenApart, ToTake } from "./work.ts";

/** All throw an ArrivalError where it cannot be taken. */
export interface Arriving {
  read(name: string, bytes: Uint8Array): Promise<Read>;
  take(what: ToTake): Promise<TakenApart>;
  font(bytes: Uint8Array): Promise<ReadFont>;
}

const TOO_LONG = "This takes too long to read. Bring a part of it, or its text alone.";
const TOO_LARGE = "There is too much in this to be read. Bring a part of it, or its text alone.";

/** By whoever answers: the thread, or in tests this one. */
export function arrivingBy(ask: (question: Question) => Promise<Answer>): Arriving {
  async function asked<T>(question: Question): Promise<T> {
    const answer = await ask(question);
    if ("refused" in answer) throw new ArrivalError(answer.refused);
    return answer as T;
  }
  return {
    read: (name, bytes) => asked<Read>({ do: "read", name, bytes }),
    take: (what) => asked<TakenApart>({ do: "take", ...what }),
    font: (bytes) => asked<ReadFont>({ do: "font", bytes }),
  };
}

async function askedIn(
  entry: URL,
  { ms, heap }: Required<Bounds>,
  question: Question,
): Promise<Answer> {
  const thread = startThread(entry, null, { heap });
  thread.unref();
  let late = false;
  const timer = setTimeout(() => {
    late = true;
    void thread.terminate();
  }, ms);
  try {
    return await askThread<Question, Answer>(thread)(question);
  } catch (error) {
    if (late) return { refused: TOO_LONG };
    if ((error as NodeJS.ErrnoException).code === "ERR_WORKER_OUT_OF_MEMORY") {
      return { refused: TOO_LARGE };
    }
    throw error;
  } finally {
    clearTimeout(timer);
    void thread.terminate();
  }
}

/** What a thread may take: time, ms, and memory for its objects, MB. */
interface Bounds {
  readonly ms?: number;
  readonly heap?: number;
}

/**
 * `entry`: the thread's file. Each question has a thread of its own, a few at a time: whatever it does, the next begins
 * anew.
 */
export function arrivingIn(entry: URL, bounds: Bounds = {}): Arriving {
  const few = pLimit(LIMITS.foreignThreads);
  const all = { ms: LIMITS.foreignMs, heap: LIMITS.foreignHeap, ...bounds };
  return arrivingBy((question) => few(() => askedIn(entry, all, question)));
}
