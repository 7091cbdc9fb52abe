/** A rule while it is being built: the same tree, with a key on every part so that inputs keep their place. */
import {
  type ActivityTest,
  didOnce,
  type FieldTest,
  type Group,
  isGroup,
  type ListTest,
  type Rule,
  type SegmentTest,
} from "#core/rules/index.ts";

export type Draft =
  | (Omit<Group, "rules"> & { readonly key: string; readonly rules: readonly Draft[] })
  | ((FieldTest | ActivityTest | ListTest | SegmentTest) & { readonly key: string });
export type DraftGroup = Extract<Draft, { rules: readonly Draft[] }>;
export type DraftCondition = Exclude<Draft, DraftGroup>;

export const isDraftGroup = (draft: Draft): draft is DraftGroup => "rules" in draft;

let last = 0;
const newKey = () => `r${++last}`;

/** Gives every part a key. */
export function draftOf(rule: Rule): Draft {
  return isGroup(rule)
    ? { type: rule.type, key: newKey(), rules: rule.rules.map(draftOf) }
    : { ...rule, key: newKey() };
}

/** The top is always a group, so that there is a place to add to. */
export function draftGroupOf(rule: Rule): DraftGroup {
  const draft = draftOf(rule);
  return isDraftGroup(draft) ? draft : { type: "all", key: newKey(), rules: [draft] };
}

/** The rule without the keys. */
export function ruleOf(draft: Draft): Rule {
  if (isDraftGroup(draft)) return { type: draft.type, rules: draft.rules.map(ruleOf) };
  const { key, ...condition } = draft;
  return condition as Rule;
}

export const newGroup = (type: Group["type"] = "any"): DraftGroup => ({
  type,
  key: newKey(),
  rules: [],
});
export const newCondition = (condition: Rule): Draft => draftOf(condition);
export const newActivity = (did: ActivityTest["did"]): Draft => draftOf(didOnce(did));

/** Changes one part, wherever it stands; null takes it out. */
export function change(
  draft: DraftGroup,
  key: string,
  to: (part: Draft) => Draft | null,
): DraftGroup {
  const visit = (part: Draft): Draft | null => {
    if (part.key === key) return to(part);
    if (!isDraftGroup(part)) return part;
    const rules = part.rules.flatMap((inner) => visit(inner) ?? []);
    const same = rules.length === part.rules.length && rules.every((r, i) => r === part.rules[i]);
    return same ? part : { ...part, rules };
  };
  return (visit(draft) as DraftGroup | null) ?? { ...draft, rules: [] };
}

export const addTo = (draft: DraftGroup, group: string, part: Draft): DraftGroup =>
  change(draft, group, (found) =>
    isDraftGroup(found) ? { ...found, rules: [...found.rules, part] } : found,
  );

/** How deep groups go, the outermost counted. */
export const depthOf = (draft: Draft): number =>
  isDraftGroup(draft) ? 1 + Math.max(0, ...draft.rules.map(depthOf)) : 0;
