/** Entry of a thread that makes a launch's messages. */
import { parentPort, workerData } from "node:worker_threads";
import type { Finished } from "../../mail/message.ts";
import { answerOn } from "../../thread.ts";
import { type Making, maker, type Secrets, type ToMake } from "./make.ts";

const { secrets, making } = workerData as { secrets: Secrets; making: Making };
const make = maker(secrets, making);
/** A message has bytes of its own, but where it is so small that it lies among others. */
const own = ({ bytes: { buffer, byteLength } }: Finished) =>
  buffer.byteLength === byteLength ? [buffer as ArrayBuffer] : [];
answerOn(parentPort!, (one: ToMake) => make(one), own);
