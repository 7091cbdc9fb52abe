/** The plan of an A/B test as it is changed on the page; it is kept on the server as one goes. */
import { useEffect, useEffectEvent, useRef, useState } from "react";
import type { Field } from "#core/fields/index.ts";
import type { Measure, SplitPlan, Variant } from "#core/splits/plan.ts";
import { ask, NO_LINE, type Reply, wordsOf } from "../ask.ts";

export interface SplitData {
  readonly plan: SplitPlan;
  /** The subject of the first variant. */
  readonly subject: string;
  readonly fields: readonly Field[];
  /** What variants have as their content: its subject, by campaign. */
  readonly contents: Readonly<Record<string, string>>;
  /** Shares that are usual here, 0–1; null where nothing has been sent. */
  readonly usual: Readonly<Record<Measure, number>> | null;
}

export interface SplitState {
  readonly plan: SplitPlan;
  /** As the form hands it in. */
  readonly written: string;
  /** A key for each variant that stays its own. */
  readonly keys: readonly number[];
  newKey(): number;
  change(to: Partial<SplitPlan>): void;
  setVariants(variants: readonly Variant[], keys: readonly number[]): void;
  /** Gives a variant (from 1) an email of its own; answers with the campaign that holds it. */
  giveContent(variant: number): Promise<Reply<{ content: string }>>;
  /** Why it could not be kept; null where it is. */
  readonly problem: string | null;
}

/** Time after the last change until it is kept, ms. */
const REST_MS = 500;

export function useSplit(id: string, { plan: loaded }: SplitData): SplitState {
  const [plan, setPlan] = useState(loaded);
  const [keys, setKeys] = useState<readonly number[]>(() => loaded.variants.map((_, i) => i));
  const next = useRef(loaded.variants.length);
  const [problem, setProblem] = useState<string | null>(null);
  const written = JSON.stringify(plan);
  const kept = useRef(written);
  /** One after another: what is older never takes the place of what is newer. */
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const send = <T>(json: unknown): Promise<Reply<T>> => {
    const answer = last.current.then(() => ask<T>(`/campaigns/${id}/split`, { json }));
    last.current = answer;
    return answer;
  };
  const keep = useEffectEvent(async (plan: string) => {
    // It went along with something else meanwhile.
    if (plan === kept.current) return;
    const reply = await send({ do: "keep", plan: JSON.parse(plan) });
    if (reply.kind === "ok") kept.current = plan;
    setProblem(reply.kind === "ok" ? null : wordsOf(reply, NO_LINE));
  });
  useEffect(() => {
    if (written === kept.current) return;
    const timer = setTimeout(() => void keep(written), REST_MS);
    return () => clearTimeout(timer);
  }, [written]);
  return {
    plan,
    written,
    keys,
    newKey: () => next.current++,
    change: (to) => setPlan((before) => ({ ...before, ...to })),
    setVariants: (variants, theirs) => {
      setPlan((before) => ({ ...before, variants: [...variants] }));
      setKeys(theirs);
    },
    giveContent: async (variant) => {
      const before = kept.current;
      kept.current = written;
      const reply = await send<{ content: string }>({ do: "content", variant, plan });
      if (reply.kind !== "ok") kept.current = before;
      return reply;
    },
    problem,
  };
}
