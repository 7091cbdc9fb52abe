/** The plan of an A/B test as it is changed on the page; it is kept on the server as one goes. */
import { useEffect, useRef, useState } from "react";
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
  useEffect(() => {
    if (written === kept.current) return;
    const timer = setTimeout(async () => {
      const reply = await ask(`/campaigns/${id}/split`, {
        json: { do: "keep", plan: JSON.parse(written) },
      });
      if (reply.kind === "ok") kept.current = written;
      setProblem(reply.kind === "ok" ? null : wordsOf(reply, NO_LINE));
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [id, written]);
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
    giveContent: (variant) =>
      ask(`/campaigns/${id}/split`, { json: { do: "content", variant, plan } }),
    problem,
  };
}
