/** A derived tag while it is being made: its cases in order, and whom each reaches. */
import { useState } from "react";
import {
  type DerivedKind,
  type DerivedTag,
  derivedBehind,
  derivedConditions,
} from "#core/derived/index.ts";
import type { Rule } from "#core/rules/index.ts";
import { EVERYBODY_KEY } from "#core/text/index.ts";
import { type ChainReach, chainReach } from "#core/versions/index.ts";
import type { WhoSees } from "../rules/who-sees.ts";
import { emptyValue, valueFrom, type Written, writtenOf } from "./derived-kinds.ts";

export interface DraftCase {
  readonly key: number;
  /** Null until somebody has written it: then the case is for nobody. */
  readonly rule: Rule | null;
  readonly value: Written;
}
let last = 0;
const NOBODY: Rule = { type: "any", rules: [] };

/** The draft and what can be done with it; `dates` are refs of date fields, to begin with. */
export function useDerivedDraft(id: string, found: DerivedTag | null, dates: readonly string[]) {
  const [name, setName] = useState(found?.name ?? "");
  const [kind, setKind] = useState<DerivedKind>(found?.kind ?? "text");
  const [cases, setCases] = useState<readonly DraftCase[]>(
    () =>
      found?.cases.map(({ rule, value }) => ({ key: ++last, rule, value: writtenOf(value) })) ?? [],
  );
  const [otherwise, setOtherwise] = useState<Written>(() =>
    found ? writtenOf(found.otherwise) : emptyValue("text", dates),
  );
  const made: DerivedTag = {
    id,
    name,
    kind,
    cases: cases.flatMap(({ rule, value }) => (rule ? [{ rule, value: valueFrom(value) }] : [])),
    otherwise: valueFrom(otherwise),
  };
  return {
    made,
    cases,
    otherwise,
    setName,
    setOtherwise,
    setKind(next: DerivedKind) {
      setKind(next);
      setCases(cases.map((one) => ({ ...one, value: emptyValue(next, dates) })));
      setOtherwise(emptyValue(next, dates));
    },
    add: () => setCases([...cases, { key: ++last, rule: null, value: emptyValue(kind, dates) }]),
    change: (i: number, to: Partial<DraftCase>) =>
      setCases(cases.map((one, j) => (i === j ? { ...one, ...to } : one))),
    takeOut: (i: number) => setCases(cases.filter((_, j) => j !== i)),
    move(i: number, by: 1 | -1) {
      const next = [...cases];
      [next[i], next[i + by]] = [next[i + by]!, next[i]!];
      setCases(next);
    },
  };
}

/** The conditions it depends on, those of derived tags it is made of too. */
export const conditionsOfTag = (made: DerivedTag, others: ReadonlyMap<string, DerivedTag>) => [
  ...new Set([
    ...derivedBehind([`derived:${made.id}`], others).flatMap(derivedConditions),
    EVERYBODY_KEY,
  ]),
];

/** How many get each case, everybody else the last; null until that is known. */
export const casesReach = (
  cases: readonly DraftCase[],
  whoSees: WhoSees | null,
): ChainReach | null =>
  whoSees &&
  chainReach(
    [...cases.map(({ rule }) => rule ?? NOBODY), null].map((seenBy) => ({ seenBy, chain: "c" })),
    whoSees.conditions,
    whoSees.groups,
  );
