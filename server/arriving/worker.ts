/** Entry of the thread that reads what comes from elsewhere. */
import { parentPort } from "node:worker_threads";
import { answerOn } from "../thread.ts";
import { answer } from "./work.ts";

answerOn(parentPort!, answer);
