/** Trying again what must not be lost: a full disk ends some time. */
import { setTimeout as sleep } from "node:timers/promises";

const WAITS_MS = [250, 1_000, 2_000, 5_000];

/** Does work, again and again where it fails. Throws its last error once `stopping`. */
export async function patiently<T>(work: () => Promise<T>, stopping: AbortSignal): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      return await work();
    } catch (error) {
      if (stopping.aborted) throw error;
      const wait = WAITS_MS[Math.min(tries, WAITS_MS.length - 1)]!;
      await sleep(wait, null, { signal: stopping }).catch(() => {});
    }
  }
}
