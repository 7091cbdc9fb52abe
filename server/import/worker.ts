/** Entry of the thread that reads a file of people: it hands over chunks and waits for each to be taken. */
import { parentPort, workerData } from "node:worker_threads";
import { recordKey } from "../audience/field-values.ts";
import { type ReadTask, readRows } from "./read-rows.ts";

const port = parentPort!;
const result = await readRows(workerData as ReadTask, recordKey, (chunk) => {
  const taken = new Promise<void>((ok) => port.once("message", () => ok()));
  port.postMessage({ chunk }, [chunk.text.buffer as ArrayBuffer]);
  return taken;
});
port.postMessage({ result });
