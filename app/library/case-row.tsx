/** One case of a derived tag: for whom, how many those are, and its value. */
import { ArrowDown, ArrowUp, X } from "lucide-react";
import type { DerivedKind } from "#core/derived/index.ts";
import type { Field } from "#core/fields/index.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { RuleDialog } from "../rules/rule-dialog.tsx";
import type { WhoSees } from "../rules/who-sees.ts";
import { ruleWords } from "../rules/words.ts";
import { Buttonlike, IconButton } from "../ui/button.tsx";
import { FormErrors } from "../ui/field.tsx";
import { count } from "../ui/words.ts";
import type { DraftCase } from "./derived-draft.ts";
import type { Written } from "./derived-kinds.ts";
import { DerivedValueInput } from "./derived-value.tsx";

interface Shared {
  kind: DerivedKind;
  fields: readonly Field[];
  pictures: readonly Picture[];
  onPicture: (picture: Picture) => void;
  /** How many get it; null until that is known. */
  people: number | null;
  errors: readonly string[];
}

const Reach = ({ people }: { people: number | null }) => (
  <span className="font-display text-title" data-case-reach>
    {people === null ? "–" : count(people)}
  </span>
);

export function CaseRow({
  one,
  i,
  last,
  whoSees,
  people,
  errors,
  onChange,
  onMove,
  onTakeOut,
  ...rest
}: Shared & {
  one: DraftCase;
  /** Its place, and whether it is the last. */
  i: number;
  last: boolean;
  whoSees: WhoSees | null;
  onChange: (to: Partial<DraftCase>) => void;
  onMove: (by: 1 | -1) => void;
  onTakeOut: () => void;
}) {
  const name = `Case ${i + 1}`;
  const { rule } = one;
  return (
    <li className="border-b py-3">
      <div className="mb-1.5 flex items-center gap-2">
        <span className="font-display text-title text-plum">{i + 1}</span>
        <span className="min-w-0 flex-1 text-small text-ink-2">
          {rule
            ? `For those: ${ruleWords(rule, whoSees, true)}`
            : "For nobody yet: write the rule."}
        </span>
        <Reach people={rule ? people : null} />
        <RuleDialog
          title={`${name}: for whom`}
          rule={rule}
          use="Use this rule"
          onUse={(next) => onChange({ rule: next })}
          trigger={<Buttonlike type="button">{rule ? "Change" : "Write the rule"}</Buttonlike>}
        />
        <IconButton label={`${name}: earlier`} disabled={i === 0} onClick={() => onMove(-1)}>
          <ArrowUp />
        </IconButton>
        <IconButton label={`${name}: later`} disabled={last} onClick={() => onMove(1)}>
          <ArrowDown />
        </IconButton>
        <IconButton label={`${name}: take out`} onClick={onTakeOut}>
          <X />
        </IconButton>
      </div>
      <DerivedValueInput
        {...rest}
        label={name}
        value={one.value}
        onChange={(value) => onChange({ value })}
      />
      <FormErrors errors={[...errors]} />
    </li>
  );
}

/** The last resort. */
export function OtherwiseRow({
  value,
  people,
  errors,
  onChange,
  ...rest
}: Shared & { value: Written; onChange: (value: Written) => void }) {
  return (
    <li className="border-b py-3">
      <div className="mb-1.5 flex items-center gap-2">
        <span className="flex-1 text-small text-ink-2">
          Everybody else, and where the value above is empty
        </span>
        <Reach people={people} />
      </div>
      <DerivedValueInput {...rest} label="Everybody else" value={value} onChange={onChange} />
      <FormErrors errors={[...errors]} />
    </li>
  );
}
