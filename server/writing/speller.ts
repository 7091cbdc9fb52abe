/** Asks which words are wrong, in a thread of its own, which is ended where it does not answer. */
import type { Worker } from "node:worker_threads";
import { LIMITS } from "#core/limits.ts";
import { askThread, startThread } from "../thread.ts";
import type { Wrong } from "./dictionaries.ts";

export interface LookFor {
  readonly words: readonly string[];
  readonly lang: string;
}

/** Gives the words that are wrong in a language (BCP 47), with what they might be. Where nobody can tell, none is. */
export type Speller = (words: readonly string[], lang: string) => Promise<Wrong>;

const NONE: Wrong = new Map();

/** `entry`: the thread's file. It is started by the first question, and holds no process. */
export function spellerIn(entry: URL, most: number = LIMITS.spellMs): Speller {
  let thread: { worker: Worker; ask(words: LookFor): Promise<Wrong> } | null = null;

  function started() {
    const worker = startThread(entry, null);
    worker.unref();
    const made = { worker, ask: askThread<LookFor, Wrong>(worker) };
    worker.on("exit", () => {
      if (thread === made) thread = null;
    });
    return made;
  }
  return async (words, lang) => {
    thread ??= started();
    const { worker, ask } = thread;
    const timer = setTimeout(() => void worker.terminate(), most);
    try {
      return await ask({ words, lang });
    } catch {
      return NONE;
    } finally {
      clearTimeout(timer);
    }
  };
}
