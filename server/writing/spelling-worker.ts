/** Entry of the thread that looks words up: guessing what a word might be can take seconds. */
import { parentPort } from "node:worker_threads";
import { lookUp } from "./dictionaries.ts";
import type { Looked, LookFor } from "./speller.ts";

const port = parentPort!;
port.on("message", async ({ id, words, lang }: LookFor) => {
  port.postMessage({ id, wrong: await lookUp(words, lang) } satisfies Looked);
});
