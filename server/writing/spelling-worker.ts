/** Entry of the thread that looks words up: guessing what a word might be can take seconds. */
import { parentPort } from "node:worker_threads";
import { answerOn } from "../thread.ts";
import { lookUp } from "./dictionaries.ts";
import type { LookFor } from "./speller.ts";

answerOn(parentPort!, ({ words, lang }: LookFor) => lookUp(words, lang));
