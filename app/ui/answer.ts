/** Asking somebody else while one types. */
import { useEffect, useEffectEvent, useState } from "react";

/** How long a hand rests before somebody else is asked, ms. */
const REST = 150;

/**
 * What is answered to the words at hand: null where there was no answer, undefined before the first. What was
 * answered before stays until then. Without `ask` nobody is asked; as soon as there is one again, anew.
 */
export function useAnswer<T>(words: string, ask: ((words: string) => Promise<T | null>) | null) {
  const [answer, setAnswer] = useState<{ of: string; found: T | null }>();
  const asks = ask !== null;
  const asked = useEffectEvent((typed: string) => ask!(typed));
  useEffect(() => {
    if (!asks) return;
    let stale = false;
    const timer = setTimeout(
      async () => {
        const found = await asked(words);
        if (!stale) setAnswer({ of: words, found });
      },
      words === "" ? 0 : REST,
    );
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [asks, words]);
  return {
    found: answer?.found,
    asking: asks && answer?.of !== words,
    /** Adds to what is known, if it is still what was asked for. */
    add(more: T, of: string, join: (found: T, more: T) => T) {
      setAnswer((known) =>
        known?.found && known.of === of ? { of, found: join(known.found, more) } : known,
      );
    },
  };
}
