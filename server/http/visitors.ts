/** Who waits for a page at this moment: long work beside it begins nothing new while somebody does. */
import { LIMITS } from "#core/limits.ts";

export interface Visitors {
  /** Somebody waits; gives what says that they no longer do. Nobody counts for long: an answer may be a stream. */
  enter(): () => void;
  /** Waits until nobody does; not for ever, though: at most so long, ms. */
  quiet(most?: number): Promise<void>;
}

export function createVisitors(
  most: number = LIMITS.visitorMs,
  rest: number = LIMITS.visitorRestMs,
): Visitors {
  let here = 0;
  const waiting = new Set<() => void>();
  const leave = () => {
    if (--here > 0) return;
    for (const go of waiting) go();
  };
  return {
    enter() {
      here++;
      let left = false;
      const once = () => {
        clearTimeout(timer);
        if (left) return;
        left = true;
        leave();
      };
      const timer = setTimeout(once, most).unref();
      return once;
    },
    async quiet(most = rest) {
      if (here === 0) return;
      await new Promise<void>((ok) => {
        const go = () => {
          clearTimeout(timer);
          waiting.delete(go);
          ok();
        };
        const timer = setTimeout(go, most).unref();
        waiting.add(go);
      });
    },
  };
}
