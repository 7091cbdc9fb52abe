/** Who makes a launch's messages: threads beside the one that serves pages, and this one the first few. */
import { availableParallelism } from "node:os";
import { LIMITS } from "#core/limits.ts";
import type { Finished } from "../../mail/message.ts";
import { askThread, startThread } from "../../thread.ts";
import { type Making, maker, type Secrets, type ToMake } from "./make.ts";

export interface Work {
  /** Throws where the message cannot be made. */
  make(one: ToMake): Promise<Finished>;
  end(): void;
}

/** Begins on a launch. */
export type Makers = (making: Making) => Work;

/** One core is left to those who look at pages. */
const COUNT = Math.max(1, Math.min(LIMITS.makers, availableParallelism() - 1));

/** `entry`: the threads' file; null for all on this one. */
export function makersOf(secrets: Secrets, entry: URL | null): Makers {
  return (making) => {
    const make = maker(secrets, making);
    let made = 0;
    let threads: ReturnType<typeof thread>[] | null = null;
    const thread = (file: URL) => {
      const started = startThread(file, { secrets, making }, { young: LIMITS.makerYoungMb });
      started.unref();
      return { started, ask: askThread<ToMake, Finished>(started) };
    };
    return {
      async make(one) {
        const nth = made++;
        if (!entry || nth < LIMITS.makeHere) return make(one);
        threads ??= Array.from({ length: COUNT }, () => thread(entry));
        const finished = await threads[nth % COUNT]!.ask(one);
        const { buffer, byteOffset, length } = finished.bytes;
        return { ...finished, bytes: Buffer.from(buffer, byteOffset, length) };
      },
      end() {
        for (const { started } of threads ?? []) void started.terminate();
      },
    };
  };
}
