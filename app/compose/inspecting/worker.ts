/**
 * Inspects emails beside the page, so that hands never wait for it. The page imports this module for its address
 * alone: a worker that is started from it shares every script with the page, and nothing is fetched twice.
 */
import { type Inspected, inspect } from "./inspect.ts";

export const address = import.meta.url;

const inWorker = typeof document === "undefined" && typeof self !== "undefined";

if (inWorker) {
  self.onmessage = ({ data }: MessageEvent<{ n: number } & Inspected>) => {
    self.postMessage({ n: data.n, ...inspect(data) });
  };
  // What was asked while this was loading is asked again.
  self.postMessage("ready");
}
