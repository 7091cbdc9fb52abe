/** Starts a thread from its entry: a built file, or TypeScript as it is while developing. */
import { Worker } from "node:worker_threads";

/** Loads TypeScript in the thread, by the same tool that the process was started with. */
const fromSource = (entry: URL) => `
  const { register } = await import(${JSON.stringify(import.meta.resolve("tsx/esm/api"))});
  register();
  await import(${JSON.stringify(entry.href)});
`;

export function startThread(entry: URL, workerData: unknown): Worker {
  const source = entry.pathname.endsWith(".ts");
  const file = source
    ? new URL(`data:text/javascript,${encodeURIComponent(fromSource(entry))}`)
    : entry;
  return new Worker(file, { workerData });
}
