/** Whom rules reach, and which hold for one person: asked of the server when they change and hands rest. */
import { useEffect, useState } from "react";
import type { WhoSees } from "#server/audience/readers.ts";

export type { WhoSees };

const REST_MS = 120;

/**
 * The latest answer; `known` is one that is there already. Of a campaign's readers, or with null of all who can
 * be mailed. Without a line the last counts stand, and it is asked again with the next change.
 */
export function useWhoSees(
  campaign: string | null,
  conditions: readonly string[],
  contact: number | null,
  known: WhoSees | null = null,
): WhoSees | null {
  const [answer, setAnswer] = useState<WhoSees | null>(known);
  const asked = JSON.stringify({ conditions, contact });
  const answered =
    answer && JSON.stringify({ conditions: answer.conditions, contact: answer.contact });
  useEffect(() => {
    if (asked === answered) return;
    const stop = new AbortController();
    const timer = setTimeout(async () => {
      try {
        const path = campaign === null ? "/people" : `/campaigns/${campaign}`;
        const response = await fetch(`${path}/who-sees`, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body: asked,
          signal: stop.signal,
        });
        if (response.ok) setAnswer((await response.json()) as WhoSees);
      } catch {
        if (stop.signal.aborted) return;
        // Nothing is known of this contact: then none of the conditions holds.
        setAnswer((before) => before && { ...before, contact, bits: "" });
      }
    }, REST_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [campaign, contact, asked, answered]);
  return answer;
}
