/** Starts the reading of a file in a thread of its own, or on this one where there is no entry for one. */
import { recordKey } from "../audience/field-values.ts";
import { startThread } from "../thread.ts";
import { type Chunk, type ReadResult, type ReadTask, readRows } from "./read-rows.ts";

type Message = { chunk: Chunk } | { result: ReadResult };

export function readInThread(
  entry: URL | null,
  task: ReadTask,
  take: (chunk: Chunk) => Promise<void>,
): Promise<ReadResult> {
  if (!entry) return readRows(task, recordKey, take);
  return new Promise((ok, fail) => {
    const worker = startThread(entry, task);
    const stop = (error: Error) => {
      fail(error);
      void worker.terminate();
    };
    worker.on("error", fail);
    worker.on("exit", (code) => code !== 0 && fail(new Error(`The reader ended with ${code}`)));
    // The next chunk is read while this one is taken, and no more than that one waits.
    let last = Promise.resolve();
    worker.on("message", (message: Message) => {
      if ("result" in message) return void last.then(() => ok(message.result));
      const before = last;
      last = before.then(() => take(message.chunk));
      last.catch(stop);
      before.then(() => worker.postMessage("taken"));
    });
  });
}
