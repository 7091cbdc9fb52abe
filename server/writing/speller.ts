/** Asks which words are wrong, in a thread of its own, which is ended where it does not answer. */
import type { Worker } from "node:worker_threads";
import { LIMITS } from "#core/limits.ts";
import { startThread } from "../thread.ts";
import type { Wrong } from "./dictionaries.ts";

export interface LookFor {
  readonly id: number;
  readonly words: readonly string[];
  readonly lang: string;
}
export interface Looked {
  readonly id: number;
  readonly wrong: Wrong;
}

/** Gives the words that are wrong in a language (BCP 47), with what they might be. Where nobody can tell, none is. */
export type Speller = (words: readonly string[], lang: string) => Promise<Wrong>;

const NONE: Wrong = new Map();

/** `entry`: the thread's file. It is started by the first question, and holds no process. */
export function spellerIn(entry: URL, most: number = LIMITS.spellMs): Speller {
  let thread: Worker | null = null;
  let asked = 0;
  const waiting = new Map<number, (wrong: Wrong) => void>();

  const end = () => {
    void thread?.terminate();
    thread = null;
    for (const answer of waiting.values()) answer(NONE);
    waiting.clear();
  };
  function started(): Worker {
    const made = startThread(entry, null);
    made.unref();
    made.on("message", ({ id, wrong }: Looked) => waiting.get(id)?.(wrong));
    made.on("error", () => thread === made && end());
    made.on("exit", () => thread === made && end());
    return made;
  }
  return (words, lang) =>
    new Promise((ok) => {
      thread ??= started();
      const id = ++asked;
      const timer = setTimeout(end, most);
      waiting.set(id, (wrong) => {
        clearTimeout(timer);
        waiting.delete(id);
        ok(wrong);
      });
      thread.postMessage({ id, words, lang } satisfies LookFor);
    });
}
