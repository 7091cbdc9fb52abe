/** Asks for the reach of a rule when hands rest; what comes late is thrown away. */
import { useEffect, useState } from "react";
import { type Rule, ruleSchema } from "#core/rules/index.ts";
import { answerTo } from "../ask.ts";

interface Person {
  readonly id: number;
  readonly name: string;
  readonly email: string;
  readonly heldBack: string | null;
}
export interface ReachAnswer {
  readonly words: string;
  readonly problem: string | null;
  readonly reach: { readonly mailable: number; readonly all: number; readonly of: number };
  readonly caught: readonly Person[];
  readonly missed: readonly (Person & { readonly because: readonly string[] })[];
}

const REST_MS = 250;

/** The answer for the latest rule that is complete; `pending` while another is on its way. */
export function useReach(
  rule: Rule,
  campaign: string | null,
): {
  answer: ReachAnswer | null;
  pending: boolean;
  failed: boolean;
} {
  const [answer, setAnswer] = useState<ReachAnswer | null>(null);
  const [pending, setPending] = useState(true);
  const [failed, setFailed] = useState(false);
  const body = JSON.stringify(rule);
  useEffect(() => {
    if (!ruleSchema.safeParse(JSON.parse(body)).success) {
      setPending(false);
      return;
    }
    setPending(true);
    const stop = new AbortController();
    const timer = setTimeout(async () => {
      const path = campaign ? `/people/reach?campaign=${campaign}` : "/people/reach";
      const known = await answerTo<ReachAnswer>(path, {
        json: JSON.parse(body),
        signal: stop.signal,
      });
      if (stop.signal.aborted) return;
      if (known) setAnswer(known);
      setFailed(known === null);
      setPending(false);
    }, REST_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [body, campaign]);
  return { answer, pending, failed };
}
