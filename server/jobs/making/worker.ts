/** Entry of a thread that makes a launch's messages. */
import { parentPort, workerData } from "node:worker_threads";
import { answerOn } from "../../thread.ts";
import { type Making, maker, type Secrets, type ToMake } from "./make.ts";

const { secrets, making } = workerData as { secrets: Secrets; making: Making };
const make = maker(secrets, making);
answerOn(parentPort!, (one: ToMake) => make(one));
