import { useEffect, useState } from "react";
import type { Late } from "#core/late.ts";

/** What is brought late, or null while it is not there; draws again when it comes. Nothing is asked for by it. */
export function useLate<T>(one: Late<T>): T | null {
  const [here, setHere] = useState<T | null>(one.now);
  useEffect(() => {
    let listens = true;
    void one.arrived.then((it) => {
      if (listens) setHere(() => it);
    });
    return () => {
      listens = false;
    };
  }, [one]);
  return here;
}
