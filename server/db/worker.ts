/** Entry of the database's worker thread. */
import { parentPort, workerData } from "node:worker_threads";
import { openEngine } from "./engine.ts";
import { host } from "./host.ts";

const engine = await openEngine((workerData as { folder: string | null }).folder);
host(parentPort!, engine);
parentPort!.postMessage({ ready: true });
