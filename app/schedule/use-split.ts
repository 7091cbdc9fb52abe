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
  /** As it stands on the server, as far as is known here. */
  readonly was: string;
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
  const [was, setWas] = useState(written);
  /** What was handed in last, and what is known to stand on the server. */
  const handed = useRef(written);
  const stands = useRef(written);
  /** One after another: what is older never takes the place of what is newer. */
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const send = <T>(json: object, plan: string, keepalive = false): Promise<Reply<T>> => {
    handed.current = plan;
    const answer = last.current.then(async () => {
      const all = { ...json, plan: JSON.parse(plan), was: JSON.parse(stands.current) };
      const reply = await ask<T>(`/campaigns/${id}/split`, { json: all, keepalive });
      if (reply.kind === "ok") {
        stands.current = plan;
        setWas(plan);
      } else handed.current = stands.current;
      return reply;
    });
    last.current = answer;
    return answer;
  };
  const keep = useEffectEvent(async (leaving = false) => {
    if (written === handed.current) return;
    const reply = await send({ do: "keep" }, written, leaving);
    setProblem(reply.kind === "ok" ? null : wordsOf(reply, NO_LINE));
  });
  useEffect(() => {
    if (written === handed.current) return;
    const timer = setTimeout(() => void keep(), REST_MS);
    return () => clearTimeout(timer);
  }, [written]);
  // Whoever leaves before the hand has rested loses nothing.
  useEffect(() => {
    const leave = () => void keep(true);
    addEventListener("pagehide", leave);
    return () => {
      removeEventListener("pagehide", leave);
      leave();
    };
  }, []);
  return {
    plan,
    written,
    was,
    keys,
    newKey: () => next.current++,
    change: (to) => setPlan((before) => ({ ...before, ...to })),
    setVariants: (variants, theirs) => {
      setPlan((before) => ({ ...before, variants: [...variants] }));
      setKeys(theirs);
    },
    giveContent: (variant) => send({ do: "content", variant }, written),
    problem,
  };
}
