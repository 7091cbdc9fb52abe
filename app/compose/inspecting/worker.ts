/** Inspects emails beside the page, so that hands never wait for it. */
import { type Inspected, inspect } from "./inspect.ts";

self.onmessage = ({ data }: MessageEvent<{ n: number } & Inspected>) => {
  self.postMessage({ n: data.n, ...inspect(data) });
};
