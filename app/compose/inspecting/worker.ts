/** Inspects emails beside the page, so that hands never wait for it. */
import { LATE } from "#core/blocks/index.ts";
import { type Inspected, inspect } from "./inspect.ts";

self.onmessage = async ({ data }: MessageEvent<{ n: number } & Inspected>) => {
  // What is found must not be missing the words of a block.
  await LATE.load();
  self.postMessage({ n: data.n, ...inspect(data) });
};
